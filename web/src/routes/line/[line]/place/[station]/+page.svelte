<script lang="ts">
	import { page } from '$app/state';
	import { noData } from '@keen-relay/core/judgement';
	import { openWords, panelsLeft, piecesLeft, slotMark } from '@keen-relay/core/feeders';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import Caution from '$lib/ui/Caution.svelte';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import KeyFigure from '$lib/ui/KeyFigure.svelte';
	import { loadGeometry, type SideGeometry } from '$lib/ui/geometry.ts';
	import SideChoice from '$lib/ui/SideChoice.svelte';
	import SlotBank from '$lib/ui/SlotBank.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import { fixed } from '$lib/ui/theirs.svelte.ts';
	import DataTable from '$lib/ui/DataTable.svelte';

	let { data } = $props();
	let geometry = $state.raw<SideGeometry | null>(null);
	$effect(() => {
		if (data.side)
			loadGeometry(data.side.id).then(
				(g) => (geometry = g),
				() => (geometry = null)
			);
	});
	const summary = $derived(page.data.line?.stations.find((s) => s.stationId === data.station.id));
	const machine = $derived(data.plan?.machines.find((m) => m.machine === data.station.name) ?? null);
	const spec = $derived(data.placer);
	/** What is not known stands last. */
	const numberIn = (text: string | number | null) => (typeof text === 'number' ? text : null);
	// While this board runs the station's one verdict speaks; before that, the plan does.
	const verdict = $derived(
		!data.takt ? noData('No board to place yet.') : data.side?.running && summary ? summary.verdict : data.takt.verdict
	);
	const allowed = $derived(can('program.release'));
	const reelAt = $derived(new Map(data.loaded.map((reel) => [reel.slot, reel])));
	const left = (load: { slot: number; perPanel: number; supply: { pieces: number } }) => {
		const reel = reelAt.get(load.slot);
		return reel ? piecesLeft(reel, load.perPanel) : load.supply.pieces;
	};
	const bars = $derived(
		(machine?.loadList ?? []).map((load) => ({ ...load, hours: (panelsLeft(left(load), load.perPanel) * (data.takt?.taktS ?? 60)) / 3600 }))
	);
	/** The slot chosen or asked for in the address, else the one that runs out first. */
	let picked = $state<number | null>(null);
	const slot: number | null = $derived(
		(picked ?? Number(page.url.searchParams.get('slot'))) || (bars.length ? bars.reduce((a, b) => (b.hours < a.hours ? b : a)).slot : null)
	);
	type Slot = (typeof data.slots)[number];
	const stands = $derived(new Map<number, Slot>(data.slots.map((s) => [s.slot, s])));
	const scanned = $derived(new Map(data.slots.map((s) => [s.slot, slotMark(s)] as const)));
	const right = $derived((machine?.loadList ?? []).filter((load) => scanned.get(load.slot) === 'right').length);
	const WORDS = { right: 'right', wrong: 'wrong', open: 'not yet' };
	const LEVELS = { right: 'good', wrong: 'act', open: 'noData' } as const;
	const chosen = $derived(machine?.loadList.find((load) => load.slot === slot) ?? null);
</script>

<StationFrame {verdict}>
	{#snippet about()}
		{#if machine}{data.program ? `Program ${data.program.revision}, released.` : 'Not released yet.'}
			{machine.placements} placements a panel from {machine.loadList.length} feeders.{/if}
		{#if data.slots.length && machine}<span data-testid="verified">{right} of {machine.loadList.length} slots verified by scanning.</span
			>{/if}
	{/snippet}
	{#snippet bar()}
		<SideChoice sides={data.sides} sideId={data.side?.id ?? null} />
		{#if data.side}<a
				class="btn h-11 border-ink bg-transparent"
				href="/sheets/load-list?line={data.lineId}&station={data.station.id}&side={data.side.id}"
				target="_blank">Load list, PDF</a
			>{/if}
	{/snippet}
	{#snippet picture()}
		{#if machine && data.side}
			<div class="flex h-full flex-col gap-2">
				<div class="h-[264px] shrink-0">
					<SlotBank
						{bars}
						{spec}
						{slot}
						onpick={(s) => (picked = s)}
						{geometry}
						panel={data.side.geometry}
						circuit={data.side}
						{chosen}
						{scanned}
					/>
				</div>
				<div class="min-h-0 flex-1 overflow-y-auto" data-testid="load-list">
					{#snippet how(load: { slot: number })}<LevelMark level={LEVELS[scanned.get(load.slot) ?? 'open']} />{/snippet}
					<DataTable
						name="load-list"
						label="Load list"
						small
						rows={machine.loadList}
						key={(load) => load.slot}
						onpick={(load) => (picked = load.slot)}
						picked={(load) => slot === load.slot}
						columns={[
							{ id: 'slot', title: 'Slot', value: (load) => load.slot, figures: true, class: 'pr-2' },
							...(data.slots.length
								? [
										{
											id: 'scanned',
											title: 'Scanned',
											value: (load: { slot: number }) => WORDS[scanned.get(load.slot) ?? 'open'],
											cell: how
										},
										{ id: 'feeder', title: 'Feeder', value: (load: { slot: number }) => stands.get(load.slot)?.feeder ?? '', away: true },
										{ id: 'reel', title: 'Reel', value: (load: { slot: number }) => stands.get(load.slot)?.reel ?? '', away: true }
									]
								: []),
							{ id: 'part', title: 'Part', value: (load) => load.partNumber },
							{ id: 'value', title: 'Value', value: (load) => load.value },
							{ id: 'package', title: 'Package', value: (load) => load.packageName },
							{
								id: 'supply',
								title: 'Supply',
								value: (load) => (load.supply.kind === 'tray' ? 'tray' : `${load.supply.widthMm} mm, pitch ${load.supply.pitchMm}`)
							},
							{ id: 'a-panel', title: 'A panel', value: (load) => load.perPanel, figures: true },
							{ id: 'left', title: 'Left', value: (load) => numberIn(left(load)), words: (load) => String(left(load)), figures: true },
							{
								id: 'panels',
								title: 'Panels',
								value: (load) => numberIn(panelsLeft(left(load), load.perPanel)),
								words: (load) => String(panelsLeft(left(load), load.perPanel)),
								figures: true
							}
						]}
						empty="This machine places nothing of this side."
					/>
				</div>
			</div>
		{/if}
	{/snippet}
	{#snippet side()}
		{#if machine && data.takt}
			<KeyFigure value={fixed(machine.totalS, 1)} unit="s" label="a panel, predicted" {verdict} />
			<button
				class="btn min-h-16 text-lg btn-primary"
				disabled={!allowed || (data.program !== null && !data.old)}
				onclick={() =>
					act(
						'POST',
						'/api/v1/programs',
						{ sideId: data.side?.id, lineId: data.lineId, startedFrom: data.released },
						'Placement program released'
					)}
			>
				{data.old
					? `Release program ${data.released! + 1}`
					: data.program
						? `Program ${data.program.revision} is released`
						: 'Release the program'}
			</button>
			{#if data.old}<p class="flex items-start gap-2" data-testid="old">
					<LevelMark level={data.old.misfit ? 'act' : 'watch'} />{data.old.words}
				</p>{/if}
			{#if slot !== null && data.slots.length}
				{@const at = stands.get(slot)}
				<section data-testid="slot-scanned">
					<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Slot {slot}, scanned</h2>
					<p class="flex items-start gap-2 py-1">
						<LevelMark level={LEVELS[at ? slotMark(at) : 'open']} />
						<span
							>{#if at?.check}{at.check.words} Feeder <span class="figure">{at.feeder}</span>, reel
								<a class="figure underline" href="/parts/reels?reel={encodeURIComponent(at.reel ?? '')}">{at.reel}</a>, {at.pieces} pieces.{#if at.check.ok && at.waitsForSecond}
									{openWords(at)}{/if}{:else if at?.reported}The machine reports reel <span class="figure">{at.reported}</span>, which
								nobody has scanned: scan slot, feeder and reel.{:else}Not scanned yet: scan the slot, the feeder and, where it is new in it,
								the reel.{/if}</span
						>
					</p>
					{#if at?.feeder}<button
							class="btn min-h-12 w-full border-ink bg-transparent font-normal"
							disabled={!can('feeder.load')}
							onclick={() =>
								act('POST', '/api/v1/feeder-scans/out', { stationId: data.station.id, slot }, `${at.feeder} is out of slot ${slot}`)}
							>Its feeder was taken out</button
						>{/if}
				</section>
			{/if}
			<section>
				<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Stages of the line, takt {fixed(data.takt.taktS, 1)} s</h2>
				<ul class="py-1">
					{#each data.stages as stage (stage.name)}
						<li class="grid grid-cols-[88px_1fr_64px] items-center gap-2 py-0.5 text-sm">
							<span class={stage.name === data.station.name ? 'font-semibold' : ''}>{stage.name}</span>
							<span class="h-3 bg-hair"
								><span
									class="block h-3 {stage.secondsPerPanel === data.takt.taktS ? 'bg-copper' : 'bg-soft'}"
									style="width:{(100 * stage.secondsPerPanel) / (data.takt.taktS ?? 1)}%"
								></span></span
							>
							<span class="figure text-right whitespace-nowrap">{fixed(stage.secondsPerPanel, 1)} s</span>
						</li>
					{/each}
				</ul>
				{#if data.plan && data.plan.dealGapPct !== null}
					<p class="text-xs text-soft" data-testid="bound">
						{data.plan.dealGapPct === 0
							? 'No other deal of whole part types to these placers is faster at these seconds a placement: searched to the end.'
							: `The deal is at most ${fixed(data.plan.dealGapPct, 1)} % over a bound that no deal can beat.`}
					</p>
				{/if}
			</section>
			{#each data.plan?.byHand ?? [] as hand (hand.partNumber)}
				<p class="border border-act p-2 text-sm">
					<strong>By hand: {hand.partNumber}</strong> ({hand.refDes.join(', ')}): {hand.reasons.join('; ')}
				</p>
			{/each}
			<section>
				<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Where the time goes</h2>
				<dl class="facts text-sm">
					{#each [['travel', machine.split.travelS], ['pick', machine.split.pickS], ['place', machine.split.placeS], ['camera', machine.split.cameraS], ['fiducials', machine.split.fiducialS], ['transfer', machine.split.transferS]] as [name, seconds] (name)}
						<div>
							<dt>{name}</dt>
							<dd class="n">{fixed(Number(seconds), 1)} s</dd>
						</div>
					{/each}
				</dl>
			</section>
		{/if}
		<Caution text="Moving gantry and feeder carriage crush and cut; boards and reels are handled at grounded stations." />
	{/snippet}
</StationFrame>
