<script lang="ts">
	import DataTable from '$lib/ui/DataTable.svelte';
	import { page } from '$app/state';
	import { sayLength } from '$lib/ui/format.ts';
	import HourBars from '$lib/ui/HourBars.svelte';

	let { data } = $props();
	const pace = $derived(page.data.line?.pace);
</script>

<div class="beside grid h-full gap-6 overflow-y-auto pt-4 [--beside:400px]">
	<section>
		<h1 class="text-[28px] leading-[34px] font-bold">{pace?.verdict.statement ?? 'Nothing runs.'}</h1>
		<p class="mb-4 text-soft">
			{data.hours
				? `Hours of the ${data.hours.shift.name} shift, ${sayLength(data.hours.shift.endMs - data.hours.shift.startMs)}.`
				: 'No shift runs now.'} The bar is what left the line; the mark is what the takt asks for in the time that a run was on.
		</p>
		{#if data.hours?.hours.length}<HourBars hours={data.hours.hours} />{:else}<p
				class="border border-dashed border-(color:--none) p-8 text-soft"
			>
				No data. Panels are counted here as the last station reports them.
			</p>{/if}
	</section>
	<aside>
		<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Seconds a panel, the slowest first</h2>
		<DataTable
			small
			whole
			name="station-pace"
			label="Seconds a panel"
			testid="pace"
			rows={pace ? [...pace.byStation].sort((a, b) => b.secondsS - a.secondsS) : []}
			key={(s) => s.name}
			rowClass={(s) => (s.name === pace?.bottleneck ? 'font-semibold' : '')}
			columns={[
				{ id: 'station', title: 'Station', value: (s) => s.name },
				{ id: 'seconds', title: 'a panel, s', value: (s) => s.secondsS, decimals: 1 },
				{ id: 'from', title: 'From', value: (s) => (s.measured ? 'as reported' : 'as planned') }
			]}
			empty="No station says how long it takes."
		/>
		{#each pace?.verdict.doNext ?? [] as what (what)}<p class="mt-2 font-semibold">{what}.</p>{/each}
	</aside>
</div>
