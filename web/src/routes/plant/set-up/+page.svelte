<script lang="ts">
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import LevelMark from '$lib/ui/LevelMark.svelte';

	let { data } = $props();
	const done = $derived(data.steps.filter((s) => s.level === 'good' || s.level === 'watch').length);
	const next = $derived(data.steps.find((s) => s.level === 'act') ?? null);
	const keepSaid = (step: string, words: string) => act('POST', '/api/v1/plant/steps', { step }, words);
</script>

<div class="mx-auto flex h-full max-w-[1080px] flex-col overflow-y-auto pt-3 pb-4">
	<h1 class="text-[26px] leading-8 font-bold" data-testid="start-head">
		{next ? `${next.title}: ${next.next}` : 'The plant has printed its first panel: it is set up.'}
	</h1>
	<p class="text-soft">
		{done} of {data.steps.length} steps to the first panel. Leave at any time: what is entered stays, and this page says what comes next.
	</p>
	<ol class="mt-3" data-testid="steps">
		{#each data.steps as s, i (s.code)}
			<li
				class="grid grid-cols-[28px_24px_250px_minmax(0,1fr)_auto] items-center gap-3 border-b border-hair py-[3px] {s === next
					? 'border-l-4 border-l-copper pl-2'
					: ''}"
				aria-current={s === next ? 'step' : undefined}
			>
				<span class="figure text-right text-soft">{i + 1}</span>
				<LevelMark level={s.level} />
				<span class="font-semibold">{s.title}</span>
				<span class="text-sm"><span class="text-soft">{s.stands}.</span> {s.next}</span>
				<span class="flex gap-2">
					{#if s.level === 'act' && s.code === 'plant'}
						<button
							class="btn min-h-11 border-line bg-transparent font-normal"
							disabled={!can('plant.set')}
							onclick={() => keepSaid('plant', 'Name, zone and shifts are right as they are')}>They are right</button
						>
					{:else if s.level !== 'good' && s.code === 'rules'}
						<button
							class="btn min-h-11 border-line bg-transparent font-normal"
							disabled={!can('plant.set')}
							onclick={() => keepSaid('rules', 'The rules are right as they are')}>They are right</button
						>
					{:else if s.level !== 'good' && s.code === 'machines'}
						<button
							class="btn min-h-11 border-line bg-transparent font-normal"
							disabled={!can('plant.set')}
							onclick={() => keepSaid('byHand', 'Results come by hand and by file')}>By hand and by file</button
						>
					{/if}
					<a class="btn min-h-11 {s === next ? 'btn-primary' : 'border-ink bg-transparent font-normal'}" href={s.href}
						>{s.level === 'good' ? 'Look' : 'Go there'}</a
					>
				</span>
			</li>
		{/each}
	</ol>
</div>
