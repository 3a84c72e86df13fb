<script lang="ts">
	import { machineData, type StationRole } from '$lib/stations/index.ts';
	import { figure, fixed, quantity, say } from './theirs.svelte.ts';

	interface Props {
		role: StationRole;
		spec: Record<string, unknown>;
	}
	let { role, spec }: Props = $props();

	const W = 640;
	const placer = $derived(machineData({ role, spec }, 'place')?.placer ?? null);
	const oven = $derived(machineData({ role, spec }, 'oven')?.oven ?? null);
	const printer = $derived(machineData({ role, spec }, 'print'));
	const sum = (list: readonly number[]) => list.reduce((total, n) => total + n, 0);

	const bankMm = $derived(placer ? placer.slots * placer.slotPitchMm : 0);
	const perTrolley = $derived(placer ? Math.ceil(placer.slots / placer.trolleys) : 1);
	const bank = $derived(bankMm ? (W - 20) / bankMm : 1);
	const slotX = (slot: number) => 10 + (slot - 1) * (placer?.slotPitchMm ?? 0) * bank;

	const zones = $derived(
		oven
			? [
					{ name: 'in', m: oven.entryM, kind: 'open' },
					...oven.zoneM.map((m, i) => ({ name: String(i + 1), m, kind: 'heated' })),
					...oven.cooling.map((c, i) => ({ name: `cool ${i + 1}`, m: c.lengthM, kind: 'cool' }))
				]
			: []
	);
	const tunnelM = $derived(sum(zones.map((z) => z.m)));
	const zoneX = (i: number) => 10 + (sum(zones.slice(0, i).map((z) => z.m)) / tunnelM) * (W - 20);
	const takes = $derived(
		(['pasteCheck', 'optical', 'inCircuit'] as const).flatMap((kind) => machineData({ role, spec }, kind) ?? [])[0] ?? null
	);
	/** The largest panel that any machine could be said to take fills the height. */
	const panelScale = $derived(takes ? Math.min(0.2, 88 / takes.widestMm, 380 / takes.longestMm) : 0.2);
	const cycleS = $derived(typeof spec.cycleS === 'number' && spec.cycleS > 0 ? spec.cycleS : null);
</script>

{#if placer}
	<svg viewBox="0 0 {W} 112" class="w-full max-w-[620px]" role="img" aria-label="Slot bank and head of the placer, to scale">
		{#each { length: placer.slots } as _, i (i)}
			<rect
				x={slotX(i + 1)}
				y="62"
				width={Math.max(0.6, placer.slotPitchMm * bank - 0.6)}
				height="26"
				fill={Math.floor(i / perTrolley) % 2 ? 'var(--line)' : 'var(--hair)'}
			/>
		{/each}
		{#each { length: placer.trolleys } as _, t (t)}
			<text x={slotX(t * perTrolley + 1) + 2} y="102" class="small">{t * perTrolley + 1}</text>
		{/each}
		<text x={W - 10} y="102" text-anchor="end" class="small">{placer.slots} slots, {quantity(bankMm / 1000, 2, 'm')}</text>
		{#each { length: placer.spindles } as _, i (i)}
			<rect
				x={slotX(placer.cameraSlot) + (i - (placer.spindles - 1) / 2) * placer.headPitchMm * bank - 1.5}
				y="26"
				width="3"
				height="18"
				fill="var(--ink)"
			/>
		{/each}
		<path d="M{slotX(placer.cameraSlot)} 48v12" stroke="var(--copper)" stroke-width="2" />
		<text x={slotX(placer.cameraSlot)} y="18" text-anchor="middle" class="small"
			>{placer.spindles} spindles over the camera, slot {placer.cameraSlot}</text
		>
	</svg>
	{#if placer.cameraSlot > placer.slots}<p class="text-sm text-act" role="status">
			The camera stands at slot {placer.cameraSlot}: the bank ends at {placer.slots}. Is that right?
		</p>{/if}
{:else if oven}
	<svg viewBox="0 0 {W} 100" class="w-full max-w-[620px]" role="img" aria-label="The oven's tunnel with its zones, to scale">
		{#each zones as z, i (i)}
			<rect
				x={zoneX(i) + 0.75}
				y="24"
				width={Math.max(1, zoneX(i + 1) - zoneX(i) - 1.5)}
				height="40"
				fill={z.kind === 'heated' ? 'var(--line)' : z.kind === 'cool' ? 'var(--hair)' : 'none'}
				stroke={z.kind === 'open' ? 'var(--line)' : 'none'}
			/>
			<text x={(zoneX(i) + zoneX(i + 1)) / 2} y="48" text-anchor="middle" class="small">{z.name}</text>
		{/each}
		<path d="M4 70H{W - 4}" stroke="var(--ink)" stroke-width="1.5" />
		<text x="10" y="16" class="small"
			>{oven.zoneM.length} heated zones, {quantity(sum(oven.zoneM), 2, 'm')}; at {say(
				`${oven.beltMinCmPerMin} to ${oven.beltMaxCmPerMin} cm/min`
			)} a board is
			{fixed((sum(oven.zoneM) / oven.beltMaxCmPerMin) * 100, 1)} to {fixed((sum(oven.zoneM) / oven.beltMinCmPerMin) * 100, 1)} min in them</text
		>
		<text x={W - 10} y="88" text-anchor="end" class="small">tunnel {quantity(tunnelM, 2, 'm')}, board travels to the right</text>
	</svg>
{:else if printer}
	<svg
		viewBox="0 0 {W} 112"
		class="w-full max-w-[620px]"
		role="img"
		aria-label="The stencil as seen from above, with the travel of the blades"
	>
		<rect x="10" y="14" width="150" height="84" fill="none" stroke="var(--line)" stroke-width="3" />
		<rect x="50" y="34" width="70" height="44" fill="var(--hair)" />
		{#if printer.strokeAxis === 'y'}<path d="M85 94V24m-5 7 5-8 5 8" fill="none" stroke="var(--copper)" stroke-width="2" />
		{:else}<path d="M20 56h126m-7-5 8 5-8 5" fill="none" stroke="var(--copper)" stroke-width="2" />{/if}
		<text x="180" y="40" class="small"
			>blades run {printer.strokeAxis === 'y' ? 'away from the operator and back' : 'along the belt and back'}</text
		>
		<text x="180" y="60" class="small">frame: {printer.frame || 'not entered'}</text>
		<text x="180" y="80" class="small">{fixed(3600 / printer.cycleS, 0)} panels an hour at the most</text>
	</svg>
{:else if takes}
	<svg viewBox="0 0 {W} 112" class="w-full max-w-[620px]" role="img" aria-label="The largest panel that goes in, to scale on its belt">
		<path
			d="M4 {56 - (takes.widestMm * panelScale) / 2}H{20 + takes.longestMm * panelScale + 12}M4 {56 +
				(takes.widestMm * panelScale) / 2}H{20 + takes.longestMm * panelScale + 12}"
			stroke="var(--ink)"
			stroke-width="1.5"
		/>
		<rect
			x="14"
			y={56 - (takes.widestMm * panelScale) / 2}
			width={takes.longestMm * panelScale}
			height={takes.widestMm * panelScale}
			fill="var(--hair)"
			stroke="var(--line)"
		/>
		<text x={44 + takes.longestMm * panelScale} y="46" class="small"
			>panels up to {figure(takes.longestMm, 0, 'mm')} × {quantity(takes.widestMm, 0, 'mm')}</text
		>
		<text x={44 + takes.longestMm * panelScale} y="68" class="small">{fixed(3600 / takes.cycleS, 0)} panels an hour at the most</text>
	</svg>
{:else if cycleS}
	<p class="text-sm text-soft">{fixed(3600 / cycleS, 0)} panels an hour at the most, {cycleS} s each.</p>
{:else}
	<p class="text-sm text-soft">The drawing follows once the data can be read.</p>
{/if}

<style>
	.small {
		font-size: 13px;
		fill: var(--soft);
	}
</style>
