<script lang="ts">
	import { page } from '$app/state';
	import { plantTime } from '$lib/ui/clock.svelte.ts';
	import { clockTime, sayLength } from '$lib/ui/format.ts';
	import StopReason from '$lib/ui/StopReason.svelte';
	import DataTable from '$lib/ui/DataTable.svelte';

	let { data } = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
</script>

<div class="beside grid h-full gap-6 pt-3">
	<section class="flex min-h-0 flex-col">
		<h1 class="text-[28px] leading-[34px] font-bold">{data.lines[0] ?? 'No shift runs now.'}</h1>
		<div class="mt-2 min-h-0 flex-1">
			<DataTable
				name="stops"
				label="Stops"
				testid="stops"
				rows={data.stops}
				key={(stop) => stop.id}
				columns={[
					{ id: 'from', title: 'From', value: (stop) => stop.fromMs, words: (stop) => clockTime(stop.fromMs, zone), class: 'figure' },
					{
						id: 'for',
						title: 'For',
						value: (stop) => (stop.toMs ?? plantTime.now) - stop.fromMs,
						words: (stop) => `${sayLength((stop.toMs ?? plantTime.now) - stop.fromMs)}${stop.toMs === null ? ', still' : ''}`,
						figures: true
					},
					{ id: 'station', title: 'Station', value: (stop) => stop.station, class: 'font-semibold' },
					{ id: 'says', title: 'It says', value: (stop) => stop.machineReason ?? '–' },
					{ id: 'why', title: 'Why', value: (stop) => (stop.reason ? `${stop.words}, ${stop.explainedBy}` : 'not explained yet') }
				]}
				empty="No machine stood in this shift."
			/>
		</div>
	</section>
	<aside class="flex min-h-0 flex-col gap-4 overflow-y-auto">
		<StopReason stops={page.data.line?.unexplained ?? []} />
		<p><a class="underline" href="/shift/lost-time">Lost time of this shift</a></p>
	</aside>
</div>
