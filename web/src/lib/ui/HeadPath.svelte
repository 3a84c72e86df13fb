<script lang="ts">
	import { circuitCorners, type PanelGeometry } from '@keen-relay/core/artwork';
	import type { CycleWay, LoadLine } from '@keen-relay/core/balance';
	import { placesOf, type PlacerSpec } from '@keen-relay/core/placement';

	interface Props {
		spec: PlacerSpec;
		panel: PanelGeometry;
		circuit: { widthMm: number; heightMm: number };
		loadList: readonly LoadLine[];
		ways: readonly CycleWay[];
		/** The cycle that is shown, from 0. */
		shown: number;
		/** Parts that nobody places here, on the panel, mm. */
		byHand: readonly { refDes: string; x: number; y: number }[];
	}
	let { spec, panel, circuit, loadList, ways, shown, byHand }: Props = $props();

	const BANK_MM = 22;
	const EDGE_MM = 6;
	/** The way between the feeders and the panel is long and empty: it is drawn at a third. */
	const SHORTER = 3;
	const stands = $derived(placesOf(spec, panel.widthMm));
	// What is used of the bank, and the panel: to one scale.
	const left = $derived(Math.min(stands.panel.x, ...loadList.map((l) => (l.slot - 1.5) * spec.slotPitchMm)) - EDGE_MM);
	const right = $derived(
		Math.max(stands.panel.x + panel.widthMm, ...loadList.map((l) => (l.slot + l.slots - 1.5) * spec.slotPitchMm)) + EDGE_MM
	);
	const lift = (mm: number) => (mm <= stands.panel.y ? mm / SHORTER : mm - stands.panel.y + stands.panel.y / SHORTER);
	const top = $derived(lift(stands.panel.y + panel.heightMm) + EDGE_MM);
	const height = $derived(top + BANK_MM);
	const y = (mm: number) => top - lift(mm);
	const now = $derived(ways[shown] ?? null);
	/** Over the feeders, the camera and the places, as the parts go. */
	const route = $derived(
		now ? [...now.strokes.map((s) => ({ x: s.at.x, y: 0 })), ...(now.camera ? [now.camera] : []), ...now.places.map((p) => p.at)] : []
	);
	const parts = $derived(ways.flatMap((way, c) => way.places.map((p) => ({ ...p, cycle: c }))));
	/** Writing is as large on the screen whatever the panel's size. */
	const em = $derived(Math.max((right - left) / 40, height / 26));
</script>

<svg
	viewBox="{left} 0 {right - left} {height}"
	class="h-full w-full"
	role="img"
	aria-label="The head’s way in cycle {shown + 1} of {ways.length}, the panel and the feeders to scale, the way between them shorter"
>
	<rect
		x={stands.panel.x}
		y={y(stands.panel.y + panel.heightMm)}
		width={panel.widthMm}
		height={panel.heightMm}
		fill="var(--sheet)"
		stroke="var(--soft)"
		stroke-width={em / 12}
	/>
	{#each panel.origins as origin, c (c)}
		<polygon
			points={circuitCorners(circuit, origin)
				.map((p) => `${stands.panel.x + p.x},${y(stands.panel.y + p.y)}`)
				.join(' ')}
			fill="none"
			stroke="var(--hair)"
			stroke-width={em / 12}
		/>
	{/each}
	{#each parts as part (`${part.refDes} ${part.circuit}`)}
		<circle
			cx={part.at.x}
			cy={y(part.at.y)}
			r={part.cycle === shown ? em / 2.6 : em / 5}
			fill={part.cycle === shown ? 'var(--copper)' : part.cycle < shown ? 'var(--soft)' : 'var(--line)'}
		/>
	{/each}
	{#each byHand as part (`${part.refDes} ${part.x} ${part.y}`)}
		<path
			d="M{stands.panel.x + part.x - em / 2.4} {y(stands.panel.y + part.y)}h{em / 1.2}m{-em / 2.4} {-em / 2.4}v{em / 1.2}"
			stroke="var(--act)"
			stroke-width={em / 5}
		/>
	{/each}
	{#each loadList as load (load.slot)}
		{@const picked = now?.strokes.some((s) =>
			s.spindles.some((spindle) => now.places.some((p) => p.spindle === spindle && p.partNumber === load.partNumber))
		)}
		<rect
			x={(load.slot - 1.5) * spec.slotPitchMm + 1}
			y={y(0) + 1}
			width={load.slots * spec.slotPitchMm - 2}
			height={BANK_MM * 0.7}
			fill="var(--sheet)"
			stroke={picked ? 'var(--copper)' : 'var(--line)'}
			stroke-width={picked ? em / 5 : em / 12}
		/>
		<text
			x={(load.slot - 1.5 + load.slots / 2) * spec.slotPitchMm}
			y={y(0) + BANK_MM * 0.48}
			text-anchor="middle"
			font-size={Math.min(em, spec.slotPitchMm * 0.6)}
			class="num">{load.slot}</text
		>
	{/each}
	<path d="M{stands.camera.x} {y(stands.camera.y) - em / 2}l{em / 2} {em}h{-em}z" fill="var(--soft)" />
	<text x={stands.camera.x + em} y={y(stands.camera.y) + em / 3} font-size={em} class="small">camera</text>
	{#if route.length}
		<polyline
			points={route.map((p) => `${p.x},${y(p.y)}`).join(' ')}
			fill="none"
			stroke="var(--copper)"
			stroke-width={em / 7}
			stroke-opacity="0.75"
			stroke-linejoin="round"
		/>
		{#each now!.places as place, i (place.spindle)}
			<text x={place.at.x + em / 2} y={y(place.at.y) - em / 4} font-size={em} class="num">{i + 1}</text>
		{/each}
	{/if}
</svg>

<style>
	.small {
		font-family: 'Atkinson Hyperlegible Mono', monospace;
		fill: var(--soft);
	}
	.num {
		font-family: 'Atkinson Hyperlegible Mono', monospace;
		fill: var(--ink);
	}
</style>
