<script lang="ts">
	import { works } from './works.svelte.ts';

	let now = $state(Date.now());
	const work = $derived(works.shown[0] ?? null);
	$effect(() => {
		if (!work) return;
		now = Date.now();
		const timer = setInterval(() => (now = Date.now()), 500);
		return () => clearInterval(timer);
	});
</script>

{#if work}
	<p class="flex items-center gap-4 border-t border-line bg-sheet px-5 py-1.5" role="status" data-testid="works">
		<progress class="progress w-40" aria-label="Working"></progress>
		<span class="font-semibold">{work.label}</span>
		<span class="figure">{Math.max(1, Math.round((now - work.since) / 1000))} s</span>
		{#if works.shown.length > 1}<span class="text-soft">and {works.shown.length - 1} more</span>{/if}
		{#if work.stop}<button class="btn ml-auto min-h-11 border-ink bg-transparent" onclick={() => work.stop?.()}>Stop</button>{/if}
	</p>
{/if}
