<script lang="ts">
	import { circuitCorners, type PanelGeometry } from '@keen-relay/core/artwork';

	interface Spot {
		refDes: string;
		circuit: number;
		xMm: number;
		yMm: number;
		dxUm: number;
		dyUm: number;
	}
	interface Props {
		panel: PanelGeometry;
		circuit: { widthMm: number; heightMm: number };
		spots: readonly Spot[];
		/** Those that the chosen cause is about. */
		marked: (spot: Spot) => boolean;
	}
	let { panel, circuit, spots, marked }: Props = $props();

	const EDGE = 2;
	/** Writing is as large on the screen whatever the panel's size. */
	const em = $derived(Math.max(panel.widthMm / 40, panel.heightMm / 20));
	/** Offsets are drawn so much larger that 50 µm is a line that can be read. */
	const larger = $derived((2.4 * em) / 0.05);
	const y = (mm: number) => panel.heightMm - mm + EDGE;
	const tip = (s: Spot) => ({ x: s.xMm + (s.dxUm / 1000) * larger, y: y(s.yMm) - (s.dyUm / 1000) * larger });
</script>

<svg
	viewBox="{-EDGE} 0 {panel.widthMm + 2 * EDGE} {panel.heightMm + 2 * EDGE + 2 * em}"
	class="h-full w-full"
	role="img"
	aria-label="Where parts sit against where they should, on the panel to scale, offsets {Math.round(larger)} times larger"
>
	<rect x="0" y={EDGE} width={panel.widthMm} height={panel.heightMm} fill="var(--sheet)" stroke="var(--soft)" stroke-width={em / 12} />
	{#each panel.origins as origin, c (c)}
		<polygon
			points={circuitCorners(circuit, origin)
				.map((p) => `${p.x},${y(p.y)}`)
				.join(' ')}
			fill="none"
			stroke="var(--hair)"
			stroke-width={em / 12}
		/>
	{/each}
	{#each panel.fiducials as mark, i (i)}
		<circle cx={mark.x} cy={y(mark.y)} r={em / 3} fill="none" stroke="var(--soft)" stroke-width={em / 12} />
	{/each}
	{#each spots as spot (`${spot.refDes}.${spot.circuit}`)}
		{@const on = marked(spot)}
		{@const end = tip(spot)}
		<line
			x1={spot.xMm}
			y1={y(spot.yMm)}
			x2={end.x}
			y2={end.y}
			stroke={on ? 'var(--copper)' : 'var(--soft)'}
			stroke-width={on ? em / 4.5 : em / 9}
			stroke-linecap="round"
		/>
		<circle cx={spot.xMm} cy={y(spot.yMm)} r={on ? em / 3.4 : em / 7} fill={on ? 'var(--copper)' : 'var(--soft)'}>
			<title>{spot.refDes}, circuit {spot.circuit + 1}: {Math.round(spot.dxUm)}, {Math.round(spot.dyUm)} µm</title>
		</circle>
	{/each}
	<g transform="translate(0 {panel.heightMm + 2 * EDGE + 1.2 * em})" fill="var(--soft)" font-size={em}>
		<line x1="0" x2={(50 / 1000) * larger} y1={-em / 3} y2={-em / 3} stroke="var(--ink)" stroke-width={em / 6} />
		<text x={(50 / 1000) * larger + em / 2}>50 µm, from where a part should sit (dot) to where it sits</text>
	</g>
</svg>
