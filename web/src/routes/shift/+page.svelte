<script lang="ts">
	import { page } from '$app/state';
	import { clockTime } from '$lib/ui/format.ts';
	import StopReason from '$lib/ui/StopReason.svelte';
	import FactBlocks from '$lib/ui/FactBlocks.svelte';
	import VerdictHead from '$lib/ui/VerdictHead.svelte';
	import DataTable from '$lib/ui/DataTable.svelte';
	import { theirs } from '$lib/ui/theirs.svelte.ts';

	let { data } = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const of = $derived(`?of=${data.shift.date}+${data.shift.name}`);
	type Recent = (typeof data.recent)[number];
	const isOpen = (row: Recent) => row.date === data.shift.date && row.name === data.shift.name;
	/** Share that passed a step at first, %; null where nothing went through it. */
	function shareOf(row: Recent, step: string): number | null {
		const result = row.yields.find((y) => y.step === step)?.result;
		return result?.units ? (100 * result.passed) / result.units : null;
	}
</script>

<div class="beside grid h-full">
	<section class="flex min-h-0 flex-col gap-2 px-5 pt-3.5">
		<VerdictHead verdict={data.verdict}
			>{theirs().date(data.shift.date)}, {clockTime(data.shift.startMs, zone)} to {clockTime(data.shift.endMs, zone)}</VerdictHead
		>
		<div class="h-[232px] shrink-0">
			{#snippet shift(row: Recent)}<a class="underline {isOpen(row) ? 'font-semibold' : ''}" href="/shift?of={row.date}+{row.name}"
					>{theirs().date(row.date)} {row.name}</a
				>{/snippet}
			<DataTable
				name="shifts"
				label="Shifts, first pass by step"
				testid="shifts"
				small
				rows={data.recent}
				key={(row) => `${row.date} ${row.name}`}
				picked={isOpen}
				columns={[
					{
						id: 'shift',
						title: 'Shift',
						value: (row) => row.date,
						words: (row) => `${theirs().date(row.date)} ${row.name}`,
						cell: shift,
						class: 'whitespace-nowrap'
					},
					{ id: 'printed', title: 'Printed', value: (row) => row.printed, figures: true },
					{ id: 'finished', title: 'Finished', value: (row) => row.finished, figures: true },
					...(data.recent[0]?.yields ?? []).map(({ step }) => ({
						id: step,
						title: `${step}, %`,
						value: (row: Recent) => shareOf(row, step),
						decimals: 1
					})),
					{ id: 'signed', title: 'Handed over to', value: (row) => row.signed ?? '–' }
				]}
				empty="No shift has begun yet."
			/>
		</div>
		<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
		<div class="min-h-0 flex-1 overflow-y-auto pt-1" data-testid="shift-facts" role="region" aria-label="This shift" tabindex="0">
			<FactBlocks blocks={data.lines} />
		</div>
	</section>
	<aside class="flex min-h-0 flex-col gap-4 overflow-y-auto border-l border-line px-5 pt-3.5 pb-3">
		<a class="btn min-h-16 text-lg btn-primary" href="/shift/hand-over{of}">Hand over this shift</a>
		{#if data.current}<StopReason stops={page.data.line?.unexplained ?? []} />{/if}
	</aside>
</div>
