<script lang="ts">
	import type { LoadLine } from '@keen-relay/core/balance';
	import { circuitCorners, onPanel, type PanelGeometry } from '@keen-relay/core/artwork';
	import type { PlacerSpec } from '@keen-relay/core/placement';
	import type { SideGeometry } from './geometry.ts';
	import { quantity } from './theirs.svelte.ts';

	interface Props {
		bars: readonly (LoadLine & { hours: number })[];
		spec: PlacerSpec;
		slot: number | null;
		onpick: (slot: number) => void;
		geometry: SideGeometry | null;
		panel: PanelGeometry;
		circuit: { widthMm: number; heightMm: number };
		chosen: LoadLine | null;
		/** How what was scanned into a slot stands; none where nothing is to be scanned. */
		scanned: ReadonlyMap<number, 'right' | 'wrong' | 'open'>;
	}
	let { bars, spec, slot, onpick, geometry, panel, circuit, chosen, scanned }: Props = $props();

	const SAID = { right: 'scanned and right', wrong: 'scanned and wrong', open: 'not scanned' };
	const W = 860;
	const H = 264;
	const PLOT = 104;
	const TOP = 22;
	const SHOWN_H = 4;
	// The part of the bank that is used, to scale: every slot has its pitch.
	const MARGIN_SLOTS = 3;
	const LEAST_SLOTS = 24;
	const used = $derived([...bars.map((bar) => bar.slot), spec.cameraSlot]);
	const from = $derived(Math.max(1, Math.floor(Math.min(...used)) - MARGIN_SLOTS));
	const to = $derived(
		Math.min(
			spec.slots,
			Math.max(from + LEAST_SLOTS, Math.ceil(Math.max(...bars.map((bar) => bar.slot + bar.slots), spec.cameraSlot)) + MARGIN_SLOTS)
		)
	);
	const pitch = $derived((W - 40) / (to - from + 1));
	const x = $derived((s: number) => 4 + (s - from) * pitch);
	const panelScale = $derived(Math.min(220 / panel.widthMm, 76 / panel.heightMm));
	const places = $derived(!chosen || !geometry ? [] : geometry.parts.filter((part) => chosen.refDes.includes(part.refDes)));
	const boardX = $derived(Math.min(W - 430, Math.max(4, x(spec.cameraSlot) - (panel.widthMm * panelScale) / 2)));
	const BOARD_Y = 186;
</script>

<svg viewBox="0 0 {W} {H}" class="h-full w-full" role="group" aria-label="Slot bank to scale, with the time each slot still has">
	<text x="4" y="12" class="small">time each slot still has at this takt; slots {from} to {to} of {spec.slots}, to scale</text>
	{#each [1, 2, 3, 4] as h (h)}
		{@const y = TOP + PLOT - (h / SHOWN_H) * PLOT}
		<line x1="0" x2={W - 30} y1={y} y2={y} stroke="var(--hair)" />
		<text x={W - 26} y={y + 4} class="small">{h} h</text>
	{/each}
	{#each bars as bar (bar.slot)}
		{@const height = Math.max(3, (Math.min(bar.hours, SHOWN_H) / SHOWN_H) * PLOT)}
		{@const low = bar.hours < 0.5}
		{@const stands = scanned.get(bar.slot)}
		<!-- svelte-ignore a11y_click_events_have_key_events -->
		<g
			role="button"
			tabindex="-1"
			aria-label="Slot {bar.slot}, {bar.partNumber}{stands ? `, ${SAID[stands]}` : ''}"
			onclick={() => onpick(bar.slot)}
			class="cursor-pointer"
		>
			<rect
				x={x(bar.slot) + 0.8}
				y={TOP + PLOT - height}
				width={bar.slots * pitch - 1.6}
				{height}
				fill={low ? 'var(--watch)' : 'var(--line)'}
			/>
			<rect
				x={x(bar.slot) + 0.8}
				y={TOP + PLOT + 4}
				width={bar.slots * pitch - 1.6}
				height="28"
				fill="var(--sheet)"
				stroke={slot === bar.slot ? 'var(--copper)' : low ? 'var(--watch)' : 'var(--line)'}
				stroke-width={slot === bar.slot ? 2.5 : 1}
			/>
			{#if pitch * bar.slots > 13}<text
					x={x(bar.slot) + (bar.slots * pitch) / 2}
					y={TOP + PLOT + (stands ? 17 : 22)}
					text-anchor="middle"
					class="num">{bar.slot}</text
				>{/if}
			{#if stands}{@const [cx, cy] = [x(bar.slot) + (bar.slots * pitch) / 2, TOP + PLOT + 25]}
				{#if stands === 'right'}<circle {cx} {cy} r="4" fill="var(--good)" />
				{:else if stands === 'wrong'}<rect x={cx - 4} y={cy - 4} width="8" height="8" fill="var(--stop)" />
				{:else}<circle {cx} {cy} r="3.5" fill="none" stroke="var(--none)" stroke-width="1.4" stroke-dasharray="2 1.4" />{/if}
			{/if}
		</g>
	{/each}
	<line x1="0" x2={W - 30} y1={TOP + PLOT + 36} y2={TOP + PLOT + 36} stroke="var(--line)" />
	<g transform="translate({x(spec.cameraSlot) + pitch / 2}, {TOP + PLOT + 40})">
		<path d="M0 0 5 8H-5Z" fill="var(--copper)" /><text x="9" y="9" class="small">camera</text>
	</g>
	<g transform="translate({boardX}, {BOARD_Y})">
		<rect width={panel.widthMm * panelScale} height={panel.heightMm * panelScale} fill="var(--sheet)" stroke="var(--soft)" />
		{#each panel.origins as origin, c (c)}
			<polygon
				points={circuitCorners(circuit, origin)
					.map((p) => `${p.x * panelScale},${(panel.heightMm - p.y) * panelScale}`)
					.join(' ')}
				fill="none"
				stroke="var(--hair)"
			/>
			{#each places as part (part.refDes)}
				{@const at = onPanel({ x: part.xMm, y: part.yMm }, origin)}
				<circle cx={at.x * panelScale} cy={(panel.heightMm - at.y) * panelScale} r="2.4" fill="var(--copper)" />
			{/each}
		{/each}
		<text x={panel.widthMm * panelScale + 12} y="24" class="text">
			{#if chosen}Slot {chosen.slot}, {chosen.partNumber}: {chosen.refDes.length} in each of {panel.origins.length} circuits{:else}Choose a
				slot to see where its parts go{/if}
		</text>
		{#if chosen}
			<text x={panel.widthMm * panelScale + 12} y="46" class="small"
				>{chosen.refDes.slice(0, 12).join(' ')}{chosen.refDes.length > 12 ? ' …' : ''}</text
			>
			<text x={panel.widthMm * panelScale + 12} y="64" class="small"
				>pick {quantity(Math.abs(chosen.slot + (chosen.slots - 1) / 2 - spec.cameraSlot) * spec.slotPitchMm, 0, 'mm')} from the camera</text
			>
		{/if}
	</g>
</svg>

<style>
	.small {
		font: 12px 'Atkinson Hyperlegible Mono';
		fill: var(--soft);
	}
	.num {
		font: 11px 'Atkinson Hyperlegible Mono';
		fill: var(--ink);
	}
	.text {
		font: 15px 'Atkinson Hyperlegible Next';
		fill: var(--ink);
	}
</style>
