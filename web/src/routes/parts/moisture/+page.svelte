<script lang="ts">
	import { standOfDryness, type ReelEventKind } from '@keen-relay/core/parts';
	import Caution from '$lib/ui/Caution.svelte';
	import DataTable from '$lib/ui/DataTable.svelte';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import { fixed } from '$lib/ui/theirs.svelte.ts';
	import ReelActs from '../ReelActs.svelte';

	let { data } = $props();
	type Reel = (typeof data.reels)[number];
	let code = $state<string | null>(null);
	const reel = $derived(data.reels.find((r) => r.code === code) ?? data.reels[0] ?? null);
	const stand = (r: Reel) => standOfDryness(r.status)!;
	const kinds = $derived<ReelEventKind[]>(
		!reel
			? []
			: reel.status.dry === 'bag'
				? ['open', 'bake']
				: reel.status.dry === 'cabinet'
					? ['air', 'bag', 'bake']
					: ['cabinet', 'bag', 'bake']
	);
</script>

<div class="beside grid h-full gap-6 px-5 pt-3 [--beside:400px]">
	<section class="flex min-h-0 flex-col">
		<h1 class="text-[26px] leading-8 font-bold">Parts that must be kept dry</h1>
		<div class="mt-2 min-h-0 flex-1">
			{#snippet mark(r: Reel)}<span class="flex items-center gap-1.5"><LevelMark level={stand(r).level} />{stand(r).words}</span>{/snippet}
			{#snippet named(r: Reel)}<button class="figure whitespace-nowrap underline" onclick={() => (code = r.code)}>{r.code}</button
				>{/snippet}
			<DataTable
				name="moisture"
				label="Parts that must be kept dry"
				testid="moisture"
				rows={data.reels}
				key={(r) => r.code}
				picked={(r) => r.code === reel?.code}
				columns={[
					{ id: 'code', title: 'Reel', value: (r) => r.code, cell: named },
					{ id: 'part', title: 'Part', value: (r) => r.partNumber },
					{ id: 'level', title: 'Level', value: (r) => r.moistureLevel },
					{ id: 'stands', title: 'Stands', value: (r) => stand(r).words, cell: mark },
					{ id: 'used', title: 'Used, h', value: (r) => r.status.life?.usedH ?? null, decimals: 1 },
					{ id: 'left', title: 'Left, h', value: (r) => r.status.life?.leftH ?? null, decimals: 1 },
					{ id: 'ends', title: 'Ends', value: (r) => r.status.endsMs, time: true },
					{ id: 'place', title: 'Place', value: (r) => r.status.place }
				]}
				empty="No reel here has a moisture level on its bag."
				emptyLink={{ href: '/parts', words: 'Receive one' }}
			/>
		</div>
	</section>
	<aside class="flex min-h-0 flex-col gap-3 overflow-y-auto border-l border-line pb-3 pl-5">
		{#if reel}
			<h2 class="figure text-xl font-semibold">{reel.code}</h2>
			<p>
				{reel.partNumber}, level {reel.moistureLevel}: {stand(reel).words}.
				{#if reel.bakeH}At 125 °C up to <span class="figure">{fixed(reel.bakeH, 0)}</span> h (its body may need less): reels and tubes mostly
					do not stand that; what its bag says comes first.{/if}
			</p>
			{#key reel.code}<ReelActs code={reel.code} pieces={reel.pieces} {kinds} />{/key}
		{/if}
		<p class="text-sm text-soft">
			The clock runs in air of up to 30 °C and 60 % RH. It stands in a bag whose card reads 10 % or less when it is opened, and in a cabinet
			of 10 % RH or less (levels 4 and up: 5 %). A short stay in air is undone by a long one in such a cabinet: up to 12 h by five times as
			long, at levels 4 and up 8 h by ten times. A bake begins anew. These hours are from memory of J-STD-020 and J-STD-033: check them
			against your own copy before you rely on them.
		</p>
		<Caution text="Bake ovens and baked trays are hot; dry cabinets are low in oxygen where they are flushed with nitrogen." />
	</aside>
</div>
