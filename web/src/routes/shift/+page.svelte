<script lang="ts">
	import { page } from '$app/state';
	import { clockTime } from '$lib/ui/format.ts';
	import StopReason from '$lib/ui/StopReason.svelte';
	import FactBlocks from '$lib/ui/FactBlocks.svelte';
	import VerdictHead from '$lib/ui/VerdictHead.svelte';
	import { theirs, fixed } from '$lib/ui/theirs.svelte.ts';

	let { data } = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const of = $derived(`?of=${data.shift.date}+${data.shift.name}`);
	const share = (y: { result: { passed: number; units: number } }) =>
		y.result.units ? fixed((100 * y.result.passed) / y.result.units, 1) : '–';
</script>

<div class="beside grid h-full">
	<section class="flex min-h-0 flex-col gap-2 px-5 pt-3.5">
		<VerdictHead verdict={data.verdict}
			>{theirs().date(data.shift.date)}, {clockTime(data.shift.startMs, zone)} to {clockTime(data.shift.endMs, zone)}</VerdictHead
		>
		<div class="max-h-[232px] shrink-0 overflow-y-auto">
			<table class="rows text-sm" data-testid="shifts">
				<thead>
					<tr
						><th>Shift, first pass by step</th><th class="n">Printed</th><th class="n">Finished</th
						>{#each data.recent[0]?.yields ?? [] as y (y.step)}<th class="n">{y.step}, %</th>{/each}<th>Handed over to</th></tr
					>
				</thead>
				<tbody>
					{#each data.recent as row (`${row.date} ${row.name}`)}
						{@const chosen = row.date === data.shift.date && row.name === data.shift.name}
						<tr class={chosen ? 'font-semibold' : ''}>
							<td class="whitespace-nowrap"
								><a class="underline" href="/shift?of={row.date}+{row.name}">{theirs().date(row.date)} {row.name}</a></td
							>
							<td class="n">{row.printed}</td>
							<td class="n">{row.finished}</td>
							{#each row.yields as y (y.step)}<td class="n" title="{y.result.passed} of {y.result.units}">{share(y)}</td>{/each}
							<td>{row.signed ?? '–'}</td>
						</tr>
					{/each}
				</tbody>
			</table>
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
