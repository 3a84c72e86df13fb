<script lang="ts">
	import { page } from '$app/state';
	import { act } from './api.ts';
	import { can } from './can.ts';
	import { clockTime } from './format.ts';

	interface Stop {
		id: number;
		station: string;
		fromMs: number;
		toMs: number | null;
		machineReason: string | null;
	}
	interface Props {
		stops: readonly Stop[];
		/** On a station's page only its own. */
		station?: string;
	}
	let { stops, station }: Props = $props();
	const own = $derived(stops.filter((stop) => station === undefined || stop.station === station));
	const stop = $derived(own[0]);
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');

	function explain(reason: string, words: string) {
		void act('POST', `/api/v1/stops/${stop!.id}/reason`, { reason }, `${stop!.station}: ${words}`);
	}
</script>

{#if stop}
	<section data-testid="stop-reason">
		<h2 class="text-sm font-semibold text-soft">
			Why did {stop.station} stand at <span class="figure">{clockTime(stop.fromMs, zone)}</span>{stop.toMs === null
				? ''
				: `, ${Math.max(1, Math.round((stop.toMs - stop.fromMs) / 60000))} min`}?
			{stop.machineReason ? `It says: ${stop.machineReason}.` : ''}
			{own.length > 1 ? `${own.length - 1} more wait.` : ''}
		</h2>
		<div class="mt-1.5 grid grid-cols-3 gap-1.5">
			{#each page.data.stopReasons ?? [] as { code, words } (code)}
				<button
					class="btn min-h-12 border-line bg-sheet px-1 text-[13px] leading-4 font-normal"
					disabled={!can('stop.explain')}
					onclick={() => explain(code, words)}>{words}</button
				>
			{/each}
		</div>
	</section>
{/if}
