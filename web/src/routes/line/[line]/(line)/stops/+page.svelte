<script lang="ts">
	import { page } from '$app/state';
	import { plantTime } from '$lib/ui/clock.svelte.ts';
	import { clockTime, sayLength } from '$lib/ui/format.ts';
	import StopReason from '$lib/ui/StopReason.svelte';

	let { data } = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
</script>

<div class="grid h-full grid-cols-[minmax(0,1fr)_372px] gap-6 pt-3">
	<section class="flex min-h-0 flex-col">
		<h1 class="text-[28px] leading-[34px] font-bold">{data.lines[0] ?? 'No shift runs now.'}</h1>
		<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
		<div class="mt-2 min-h-0 flex-1 overflow-y-auto" role="group" aria-label="Stops of this shift" tabindex="0">
			<table class="rows" data-testid="stops">
				<thead><tr><th>From</th><th class="n">For</th><th>Station</th><th>It says</th><th>Why</th></tr></thead>
				<tbody>
					{#each data.stops as stop (stop.id)}
						<tr>
							<td class="figure">{clockTime(stop.fromMs, zone)}</td>
							<td class="n">{sayLength((stop.toMs ?? plantTime.now) - stop.fromMs)}{stop.toMs === null ? ', still' : ''}</td>
							<td class="font-semibold">{stop.station}</td>
							<td>{stop.machineReason ?? '–'}</td>
							<td>{stop.reason ? `${stop.words}, ${stop.explainedBy}` : 'not explained yet'}</td>
						</tr>
					{:else}<tr><td colspan="5" class="text-soft">No machine stood in this shift.</td></tr>{/each}
				</tbody>
			</table>
		</div>
	</section>
	<aside class="flex min-h-0 flex-col gap-4 overflow-y-auto">
		<StopReason stops={page.data.line?.unexplained ?? []} />
		<p><a class="underline" href="/shift/lost-time">Lost time of this shift</a></p>
	</aside>
</div>
