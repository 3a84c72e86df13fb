<script lang="ts">
	import { page } from '$app/state';
	import { sayLength } from '$lib/ui/format.ts';
	import HourBars from '$lib/ui/HourBars.svelte';
	import { fixed } from '$lib/ui/theirs.svelte.ts';

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
		<table class="rows" data-testid="pace">
			<tbody>
				{#each pace ? [...pace.byStation].sort((a, b) => b.secondsS - a.secondsS) : [] as s (s.name)}
					<tr class={s.name === pace?.bottleneck ? 'font-semibold' : ''}>
						<td>{s.name}</td><td class="n">{fixed(s.secondsS, 1)} s</td><td class="text-sm text-soft"
							>{s.measured ? 'as reported' : 'as planned'}</td
						>
					</tr>
				{:else}<tr><td class="text-soft">No station says how long it takes.</td></tr>{/each}
			</tbody>
		</table>
		{#each pace?.verdict.doNext ?? [] as what (what)}<p class="mt-2 font-semibold">{what}.</p>{/each}
	</aside>
</div>
