<script lang="ts">
	import { page } from '$app/state';
	import { sayLength } from '$lib/ui/format.ts';
	import { theirs } from '$lib/ui/theirs.svelte.ts';

	let { data } = $props();
	const rows = $derived([...data.lost.rows].sort((a, b) => b.ms - a.ms));
	const most = $derived(rows[0]?.ms ?? 1);
</script>

<div class="h-full overflow-y-auto px-5 pt-3.5">
	<h1 class="text-[28px] leading-[34px] font-bold">{data.lines[0]}</h1>
	<p class="text-soft">
		{page.data.line?.name}, {data.shift.name} shift of {theirs().date(data.shift.date)}, {sayLength(data.spanMs)} of it over. Time that two machines
		stood is counted once.
	</p>
	<ul class="mt-3 grid max-w-4xl gap-1" data-testid="lost">
		{#each rows as row (`${row.station} ${row.reason}`)}
			<li class="grid grid-cols-[8rem_14rem_minmax(0,1fr)_7rem_5rem] items-center gap-3 border-b border-hair py-1">
				<span class="font-semibold">{row.station}</span>
				<span>{row.words ?? 'not explained yet'}</span>
				<span class="block h-4 bg-hair"><span class="block h-4 bg-soft" style="width:{(100 * row.ms) / most}%"></span></span>
				<span class="figure text-right">{sayLength(row.ms)}</span>
				<span class="text-right text-soft">{row.stops === 1 ? 'once' : `${row.stops} times`}</span>
			</li>
		{:else}<li class="border border-dashed border-(color:--none) p-8 text-soft">No machine stood.</li>{/each}
	</ul>
	{#each data.lines.slice(1) as line, i (i)}<p class="mt-1 text-soft">{line}</p>{/each}
	<p class="mt-3"><a class="underline" href="/line/{page.data.line?.id}/stops">Say why a machine stood</a></p>
</div>
