<script lang="ts">
	import { page } from '$app/state';
	import { careIsDue, picksSinceCare } from '@keen-relay/core/feeders';
	import { ACT_LOST_SHARE } from '@keen-relay/core/placement';
	import Caution from '$lib/ui/Caution.svelte';
	import DataTable from '$lib/ui/DataTable.svelte';
	import DoNext from '$lib/ui/DoNext.svelte';
	import { dayTime } from '$lib/ui/format.ts';
	import KeyFigure from '$lib/ui/KeyFigure.svelte';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import ServiceForm from '$lib/ui/ServiceForm.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import { fixed } from '$lib/ui/theirs.svelte.ts';
	import WearHistory from '$lib/ui/WearHistory.svelte';
	import CareForm from './CareForm.svelte';

	let { data } = $props();
	type Slot = NonNullable<typeof data.report>['slots'][number];
	type Worn = (typeof data.wearing.all)[number];
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const report = $derived(data.report);
	const cause = $derived(report?.cause ?? null);
	const good = $derived(report && report.picks > 0 ? 100 * (1 - report.lost / report.picks) : null);
	/** Shares are drawn up to the worst one, at least up to 1 %. */
	const most = $derived(Math.max(0.01, ...(report?.slots ?? []).map((s) => s.share), ...(report?.nozzles ?? []).map((n) => n.share)));
	const stands = (s: Slot) => cause?.slot === s.slot;
	const due = (w: Worn) => careIsDue(w, data.wearing.rules);
	let chosen = $state<string | null>(null);
	const keyOf = (w: Worn) => `${w.kind} ${w.name}`;
	const shown = $derived(
		data.wearing.all.find((w) => keyOf(w) === chosen) ??
			data.wearing.all.find((w) => w.kind === 'nozzle' && w.outOfService !== null) ??
			data.wearing.all.find((w) => cause && w.kind === (cause.slot === null ? 'nozzle' : 'feeder') && w.name === cause.name) ??
			data.wearing.all.find(due) ??
			null
	);
</script>

{#snippet bar(share: number, marked: boolean)}
	<span class="relative block h-3.5 w-full min-w-24 bg-hair">
		<span class="absolute inset-y-0 left-0 {marked ? 'bg-act' : 'bg-soft'}" style="width:{(100 * share) / most}%"></span>
		<span class="absolute inset-y-0 w-0.5 bg-ink" style="left:{(100 * ACT_LOST_SHARE) / most}%"></span>
	</span>
{/snippet}

<StationFrame verdict={data.verdict}>
	{#snippet about()}The latest {report?.panels ?? 0} panels of this run, {data.latest} at most. Named by rate, never by count: the busiest slot
		would always look worst. The line in a bar: {fixed(100 * ACT_LOST_SHARE, 1)} % lost.{/snippet}
	{#snippet picture()}
		<div class="flex h-full flex-col gap-4 overflow-y-auto">
			<section>
				{#snippet rate(s: Slot)}{@render bar(s.share, stands(s))}{/snippet}
				{#snippet mark(s: Slot)}{#if stands(s)}<LevelMark level={data.verdict.level} />{/if}{/snippet}
				<DataTable
					small
					whole
					name="picks-by-slot"
					label="Picks by slot"
					testid="picks-by-slot"
					rows={report?.slots ?? []}
					key={(s) => s.slot}
					picked={stands}
					columns={[
						{ id: 'mark', title: '', value: () => null, cell: mark, class: 'w-6' },
						{ id: 'slot', title: 'Slot', value: (s) => s.slot, figures: true },
						{ id: 'feeder', title: 'Feeder', value: (s) => s.feeder ?? '', class: 'figure whitespace-nowrap' },
						{ id: 'part', title: 'Part', value: (s) => s.partNumber },
						{ id: 'picks', title: 'Picks', value: (s) => s.picks, figures: true },
						{ id: 'lost', title: 'Lost', value: (s) => s.lost, figures: true },
						{ id: 'share', title: 'Lost, %', value: (s) => 100 * s.share, decimals: 2 },
						{ id: 'bar', title: `0 to ${fixed(100 * most, 1)} %`, value: () => null, cell: rate, class: 'w-40' }
					]}
					empty="Nothing placed in this run yet."
				/>
			</section>
			<div class="grid grid-cols-2 gap-5">
				<section>
					{#snippet nozzleRate(n: { name: string; share: number })}{@render bar(
							n.share,
							cause?.kind === 'nozzle' && cause.name === n.name
						)}{/snippet}
					<DataTable
						small
						whole
						name="picks-by-nozzle"
						label="Picks by nozzle"
						testid="picks-by-nozzle"
						rows={report?.nozzles ?? []}
						key={(n) => n.name}
						picked={(n) => cause?.kind === 'nozzle' && cause.name === n.name}
						columns={[
							{ id: 'nozzle', title: 'Nozzle', value: (n) => n.name },
							{ id: 'picks', title: 'Picks', value: (n) => n.picks, figures: true },
							{ id: 'lost', title: 'Lost', value: (n) => n.lost, figures: true },
							{ id: 'share', title: 'Lost, %', value: (n) => 100 * n.share, decimals: 2 },
							{ id: 'bar', title: `0 to ${fixed(100 * most, 1)} %`, value: () => null, cell: nozzleRate, class: 'w-28' }
						]}
						empty="This machine does not say by which nozzle it picks: feeders alone are told apart."
					/>
				</section>
				<section>
					<DataTable
						small
						whole
						name="wearing"
						label="Care of feeders and nozzles"
						testid="wearing"
						rows={data.wearing.all}
						key={keyOf}
						picked={(w) => w === shown}
						onpick={(w) => (chosen = keyOf(w))}
						columns={[
							{ id: 'name', title: 'Care', value: (w) => w.name, class: 'figure whitespace-nowrap' },
							{ id: 'slot', title: 'Slot', value: (w) => w.slot, figures: true },
							{ id: 'since', title: 'Picks since', value: picksSinceCare, figures: true },
							{
								id: 'at',
								title: 'Cared for',
								value: (w) => w.caredAt?.getTime() ?? null,
								words: (w) => (w.caredAt ? dayTime(w.caredAt, zone) : 'never here')
							},
							{ id: 'due', title: 'Due', value: (w) => (w.outOfService === null ? (due(w) ? 'due' : '') : 'out of service') }
						]}
						empty="No feeder stands here, and no nozzle was counted yet."
					/>
				</section>
			</div>
		</div>
	{/snippet}
	{#snippet side()}
		<KeyFigure
			value={good === null ? '–' : fixed(good, 2)}
			unit={good === null ? '' : '%'}
			label="of the picks good"
			verdict={data.verdict}
		/>
		<DoNext actions={data.verdict.doNext} />
		{#if report?.reels.length}
			<section>
				<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Reels of slot {cause?.slot}</h2>
				{#snippet reelLink(r: { name: string })}<a class="figure underline" href="/parts/reels?reel={encodeURIComponent(r.name)}"
						>{r.name}</a
					>{/snippet}
				<DataTable
					small
					whole
					name="picks-by-reel"
					label="Picks by reel"
					rows={report.reels}
					key={(r) => r.name}
					columns={[
						{ id: 'reel', title: 'Reel', value: (r) => r.name, cell: reelLink },
						{ id: 'picks', title: 'Picks', value: (r) => r.picks, figures: true },
						{ id: 'share', title: 'Lost, %', value: (r) => 100 * r.share, decimals: 2 }
					]}
					empty="None."
				/>
			</section>
		{/if}
		{#if data.wearing.verdict}
			<p class="flex items-center gap-2"><LevelMark level="watch" />{data.wearing.verdict.statement}</p>
		{/if}
		{#if shown}
			<section class="flex flex-col gap-2">
				<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">
					{shown.kind === 'feeder' ? `Feeder ${shown.name}` : `Nozzle ${shown.name}`}
				</h2>
				<p class="text-sm">
					{picksSinceCare(shown)} picks since it was cared for, {shown.lost} of {shown.picks} lost in all.
				</p>
				{#key keyOf(shown)}<CareForm kind={shown.kind} name={shown.name} stationId={data.station.id} />{/key}
				{#if shown.outOfService !== null}<p class="flex items-center gap-2 font-semibold">
						<LevelMark level="stopped" />Out of service: {shown.outOfService}
					</p>{/if}
				{#key keyOf(shown)}
					<ServiceForm
						name={shown.name}
						path={shown.kind === 'feeder'
							? `/api/v1/feeders/${encodeURIComponent(shown.name)}`
							: `/api/v1/stations/${data.station.id}/nozzles/${encodeURIComponent(shown.name)}`}
						outOfService={shown.outOfService}
					/>
					<WearHistory
						name={shown.name}
						path={shown.kind === 'feeder'
							? `/api/v1/feeders/${encodeURIComponent(shown.name)}`
							: `/api/v1/stations/${data.station.id}/nozzles/${encodeURIComponent(shown.name)}`}
						events={data.wearing.events.filter((event) => event.name === shown.name)}
					/>
				{/key}
			</section>
		{/if}
		<Caution
			text="Heads, feeder gears and tape knives move: look at a feeder or a nozzle only with the machine stopped, as its manual allows."
		/>
	{/snippet}
</StationFrame>
