<script lang="ts">
	import { page } from '$app/state';
	import { PURPOSES } from '$lib/stations/kind.ts';
	import { dayTime } from '$lib/ui/format.ts';
	import EnteredLine from './EnteredLine.svelte';
	import NewLine from './NewLine.svelte';

	let { data } = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const line = $derived(data.entered.find((l) => l.id === data.chosen) ?? null);
</script>

<div class="grid h-full grid-cols-[300px_minmax(0,1fr)] gap-6 pt-3 max-[999px]:grid-cols-1 max-[999px]:overflow-y-auto">
	<section class="flex min-h-0 flex-col overflow-y-auto">
		<h1 class="text-[26px] leading-8 font-bold">Lines</h1>
		<ul data-testid="entered">
			{#each data.entered as l (l.id)}
				<li class="border-b border-hair py-2 {l.id === data.chosen ? 'border-l-4 border-l-copper pl-2' : ''}">
					<a class="font-semibold underline" href="?line={l.id}" aria-current={l.id === data.chosen ? 'true' : undefined}>{l.name}</a>
					<span class="text-soft">{PURPOSES[l.purpose]}</span>
					<p class="text-sm text-soft">
						{l.outOfUseAt ? `out of use since ${dayTime(l.outOfUseAt, zone)}` : l.stations.map((s) => s.name).join(' → ')}
					</p>
				</li>
			{:else}<li class="py-2 text-soft">No line yet. Enter the first one.</li>{/each}
		</ul>
		{#if line}<a class="btn mt-3 min-h-12 shrink-0 border-ink bg-transparent font-normal" href="?line=new">Enter another line</a>{/if}
	</section>
	{#if line}
		{#key line.id}<EnteredLine {line} kinds={data.kinds} revisions={data.revisions} />{/key}
	{:else}
		<NewLine kinds={data.kinds} />
	{/if}
</div>
