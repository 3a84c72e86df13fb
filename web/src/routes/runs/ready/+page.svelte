<script lang="ts">
	import DataTable from '$lib/ui/DataTable.svelte';
	import { page } from '$app/state';
	import { noData } from '@keen-relay/core/judgement';
	import { holdsAt, readyLevel, type ReadyCode } from '@keen-relay/core/line';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import Caution from '$lib/ui/Caution.svelte';
	import { plantTime } from '$lib/ui/clock.svelte.ts';
	import { clockTime, dayTime } from '$lib/ui/format.ts';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import VerdictHead from '$lib/ui/VerdictHead.svelte';
	import { working } from '$lib/ui/working.svelte.ts';
	import { say } from '$lib/ui/theirs.svelte.ts';
	import OverrideForm from './OverrideForm.svelte';

	let { data } = $props();
	const ready = $derived(data.ready);
	const run = $derived(data.run);
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const lineName = $derived(page.data.line?.name ?? 'The line');
	const verdict = $derived(ready?.verdict ?? noData(`${lineName} has no run to set up.`, ['Set up a job']));
	working.offer(() => verdict);

	const held = $derived((ready?.overrides ?? []).filter((o) => holdsAt(o, plantTime.now)));
	const overridden = (code: ReadyCode) => held.find((o) => o.codes.includes(code)) ?? null;
	const mayBe = $derived((ready?.missing ?? []).filter((item) => item.mayOverride));
	const points = $derived((ready?.items ?? []).map((item) => ({ item, leave: item.mark === 'proven' ? null : overridden(item.code) })));
	type Point = (typeof points)[number];
	const MARKS = { proven: 'proven', open: 'open', wrong: 'wrong' } as const;
</script>

<div class="beside grid h-full">
	<section class="flex min-h-0 flex-col gap-3 px-5 pt-3.5">
		<VerdictHead {verdict}>
			{#if run}{lineName}: {run.board}
				{run.boardRevision}, {run.side}, {run.panels} panels. {run.readyAt
					? `Printing since ${dayTime(run.readyAt, zone)}.`
					: 'Nothing is printed before each point is proven, or a lead lets it print without.'}{:else}A set-up begins on
				<a class="link" href="/runs">Jobs</a>.{/if}
		</VerdictHead>
		{#if ready && run}
			<div class="min-h-0 flex-1 overflow-y-auto">
				{#snippet stands({ item, leave }: Point)}<span class="flex items-center gap-2" data-mark={item.mark}
						><LevelMark level={readyLevel(item, leave !== null)} />{leave ? 'overridden' : MARKS[item.mark]}</span
					>{/snippet}
				{#snippet why({ item, leave }: Point)}{say(item.why)}
					{#if leave}<span class="block text-sm text-soft"
							>{leave.by}, {leave.untilMs === null ? 'for this run' : `until ${clockTime(leave.untilMs, zone)}`}: {leave.reason}</span
						>{/if}{/snippet}
				{#snippet next({ item }: Point)}{#if item.next}<a class="link font-semibold" href="/line/{data.lineId}{item.where}">{item.next}</a
						>{/if}{/snippet}
				<DataTable
					whole
					name="ready"
					label="The nine points"
					testid="ready"
					rows={points}
					key={({ item }) => item.code}
					rowTestid={({ item }) => `ready-${item.code}`}
					columns={[
						{ id: 'point', title: 'Point', value: ({ item }) => item.name, class: 'font-semibold whitespace-nowrap' },
						{
							id: 'stands',
							title: 'Stands',
							value: ({ item, leave }) => (leave ? 'overridden' : MARKS[item.mark]),
							cell: stands,
							class: 'whitespace-nowrap'
						},
						{ id: 'why', title: 'Why', value: ({ item }) => item.why, cell: why },
						{ id: 'next', title: 'What next', value: ({ item }) => item.next, cell: next }
					]}
					empty="No point."
				/>
			</div>
		{:else}
			<p class="border border-dashed border-(color:--none) p-8 text-soft">
				No run is being set up on {lineName}. Choose a job on <a class="link" href="/runs">Jobs</a>.
			</p>
		{/if}
	</section>
	<aside class="flex min-h-0 flex-col gap-4 overflow-y-auto border-l border-line px-5 pt-3.5">
		{#if ready && run}
			{@const proven = ready.items.filter((item) => item.mark === 'proven').length}
			<div>
				<p class="figure text-[46px] leading-[50px] font-semibold" data-testid="key-figure">{proven} of {ready.items.length}</p>
				<p class="text-soft">points proven</p>
			</div>
			{#if !ready.started}
				<button
					class="btn min-h-16 text-lg btn-primary"
					disabled={!can('run.start') || ready.missing.length > 0}
					onclick={() => act('POST', `/api/v1/runs/${run.id}/ready`, {}, `${run.number} prints`)}>Start printing</button
				>
				{#if ready.missing.length}<p class="text-sm text-soft">Not before the points that are open are proven or overridden.</p>{/if}
			{/if}
			{#if mayBe.length}
				<section class="flex flex-col gap-2" data-testid="override">
					<h2 class="border-b border-hair pb-1 font-semibold">Print without it</h2>
					<p class="text-sm text-soft">A lead takes it on, with a reason. The panels printed meanwhile say so.</p>
					{#key run.id}<OverrideForm runId={run.id} items={mayBe} />{/key}
				</section>
			{/if}
			<Caution text="Moving heads and blades while a line is set up: lock out as the machine’s manual and local rules say." />
		{/if}
	</aside>
</div>
