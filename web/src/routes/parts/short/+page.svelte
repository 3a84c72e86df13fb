<script lang="ts">
	import { page } from '$app/state';
	import { judgeShort, PLANNED_LOSS_SHARE, shortLevel, shortParts } from '@keen-relay/core/parts';
	import { weekOf } from '@keen-relay/core/schedule';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import DataTable from '$lib/ui/DataTable.svelte';
	import DoNext from '$lib/ui/DoNext.svelte';
	import { plantLocal } from '$lib/ui/format.ts';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import { fixed, theirs } from '$lib/ui/theirs.svelte.ts';
	import VerdictHead from '$lib/ui/VerdictHead.svelte';
	import { working } from '$lib/ui/working.svelte.ts';

	import AlternateForm from './AlternateForm.svelte';
	import OrientationForm from './OrientationForm.svelte';

	let { data } = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const inWeek = $derived((ms: number) => weekOf(plantLocal(ms, zone).slice(0, 10), theirs().firstWeekday));
	const thisWeek = $derived(inWeek(data.nowMs));
	const parts = $derived(
		shortParts(
			// What should have been built already is built this week.
			data.needs.map(({ startMs, ...need }) => ({ ...need, week: startMs === null ? null : inWeek(Math.max(startMs, data.nowMs)) })),
			data.stock
		)
	);
	type Part = (typeof parts)[number];
	const sayWeek = (week: string) => `the week of ${theirs().date(week)}`;
	const verdict = $derived(judgeShort(parts, thisWeek, sayWeek));
	working.offer(() => verdict);
	const weeks = $derived([...new Set(parts.flatMap((part) => Object.keys(part.weeks)))].sort());
	const from = (part: Part) =>
		part.short === 0
			? ''
			: part.firstWeek === null
				? 'no time yet'
				: part.firstWeek === thisWeek
					? 'this week'
					: theirs().date(part.firstWeek);
	let picked = $state<string | null>(null);
	const chosen = $derived(parts.find((part) => part.partNumber === picked) ?? parts[0] ?? null);
	const instead = (part: Part) => data.alternates.filter((a) => a.partNumber === part.partNumber);
	/** More weeks than these are one figure in CSV and XLSX only. */
	const SHOWN_WEEKS = 4;
</script>

<div class="beside grid h-full gap-6 px-5 pt-3 [--beside:320px]">
	<section class="flex min-h-0 flex-col">
		<VerdictHead {verdict}
			>Picks of the open jobs, {fixed(100 * PLANNED_LOSS_SHARE, 1)} % lost with them, against what was counted on reels, sticks and trays. A customer’s
			own parts serve that customer’s boards alone.</VerdictHead
		>
		<div class="mt-2 min-h-0 flex-1">
			{#snippet mark(part: Part)}<LevelMark level={shortLevel(part, thisWeek)} />{/snippet}
			<DataTable
				name="short"
				label="Parts by week of use"
				testid="short"
				rows={parts}
				key={(part) => part.partNumber}
				onpick={(part) => (picked = part.partNumber)}
				picked={(part) => chosen === part}
				columns={[
					{ id: 'mark', title: '', value: () => null, cell: mark, class: 'w-6' },
					{ id: 'part', title: 'Part', value: (part) => part.partNumber, class: 'whitespace-nowrap' },
					{ id: 'short', title: 'Short', value: (part) => part.short, figures: true },
					{ id: 'from', title: 'From', value: from },
					{ id: 'needed', title: 'Picks', value: (part) => part.needed, figures: true },
					{ id: 'usable', title: 'Lie here', value: (part) => part.usable, figures: true },
					{ id: 'blocked', title: 'Blocked', value: (part) => part.blocked, figures: true },
					...weeks.map((week, i) => ({
						id: week,
						title: week === thisWeek ? 'this week' : theirs().date(week),
						value: (part: Part) => part.weeks[week] ?? 0,
						figures: true,
						away: i >= SHOWN_WEEKS
					})),
					{
						id: 'instead',
						title: 'Instead',
						value: (part) =>
							instead(part)
								.map((a) => `${a.alternate}: ${a.pieces}`)
								.join('; ')
					},
					{ id: 'undated', title: 'no time yet', value: (part) => part.undated, figures: true }
				]}
				empty="No job is open: nothing is needed."
				emptyLink={{ href: '/runs', words: 'Enter a job' }}
			/>
		</div>
	</section>
	<aside class="flex min-h-0 flex-col gap-4 overflow-y-auto border-l border-line pb-3 pl-5">
		<p class="figure text-[46px] leading-[50px] font-semibold" data-testid="key-figure">{parts.filter((part) => part.short > 0).length}</p>
		<p class="-mt-3 text-soft">parts run short, of {parts.length} that are needed</p>
		<DoNext actions={verdict.doNext} />
		<a class="btn min-h-12 border-ink bg-transparent" href="/parts">Receive what came</a>
		<a class="btn min-h-12 border-line bg-transparent" href="/parts/reels">Count, free or find a reel</a>
		{#if chosen}
			{#key chosen.partNumber}
				<OrientationForm partNumber={chosen.partNumber} quadrant={data.quadrants[chosen.partNumber] ?? null} />
			{/key}
			<section class="flex flex-col gap-2" data-testid="alternates">
				<h2 class="border-b border-hair pb-1 font-semibold">What may stand for {chosen.partNumber}</h2>
				{#each instead(chosen) as a (`${a.alternate} ${a.customer}`)}
					<div class="flex items-center gap-2 border-b border-hair pb-1 text-sm">
						<span class="min-w-0 flex-1"
							><span class="figure">{a.alternate}</span>, {a.pieces} here, on {a.customer ?? 'everybody’s'} boards: {a.note} ({a.by})</span
						>
						<button
							class="btn min-h-11 border-line bg-transparent font-normal"
							disabled={!can('alternate.approve')}
							onclick={() =>
								act(
									'POST',
									'/api/v1/alternates',
									{ partNumber: a.partNumber, alternate: a.alternate, customer: a.customer, approved: false, note: 'taken back' },
									`${a.alternate} no more stands for ${a.partNumber}`
								)}>Take it back</button
						>
					</div>
				{:else}<p class="text-sm text-soft">Nothing is approved: another part is refused at the feeder.</p>{/each}
				{#key chosen.partNumber}<AlternateForm partNumber={chosen.partNumber} customers={data.customers} />{/key}
			</section>
		{/if}
		<p class="text-sm text-soft">When a job is wanted is said on the line’s fridge plan; a run that prints counts for this week.</p>
	</aside>
</div>
