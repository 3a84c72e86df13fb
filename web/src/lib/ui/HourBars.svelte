<script lang="ts">
	import { page } from '$app/state';
	import type { HourOfShift } from '@keen-relay/core/line';
	import { plantTime } from './clock.svelte.ts';
	import { clockTime } from './format.ts';

	interface Props {
		hours: readonly HourOfShift[];
		wall?: boolean;
	}
	let { hours, wall = false }: Props = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const most = $derived(Math.max(1, ...hours.flatMap((h) => [h.finished, h.asked])));
	const isNow = (h: HourOfShift) => plantTime.now >= h.fromMs && plantTime.now < h.toMs;
</script>

<!-- The bar is what left the line, the mark what the takt asked for. -->
<ul class="grid {wall ? 'gap-4 text-2xl' : 'gap-3'}" aria-label="Panels of each hour against the takt">
	{#each hours as h (h.fromMs)}
		<li class="grid grid-cols-[auto_minmax(0,1fr)_auto] items-center gap-3" data-testid="hour">
			<span class="figure">{clockTime(h.fromMs, zone)}</span>
			<span class="relative block {wall ? 'h-8' : 'h-[22px]'} bg-hair">
				<span class="absolute inset-y-0 left-0 bg-soft" style="width:{(100 * h.finished) / most}%"></span>
				<span class="absolute -inset-y-1 w-0.5 bg-copper" style="left:{(100 * h.asked) / most}%"></span>
			</span>
			<span class="figure text-right">{h.finished}<span class="text-soft">/{h.asked}</span></span>
			{#if isNow(h)}<span class="col-start-2 -mt-2 text-xs text-copper">now: {h.asked} asked so far</span>{/if}
		</li>
	{/each}
</ul>
