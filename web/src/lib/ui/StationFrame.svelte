<script lang="ts">
	import { page } from '$app/state';
	import type { Verdict } from '@keen-relay/core/judgement';
	import type { Snippet } from 'svelte';
	import StopReason from './StopReason.svelte';
	import VerdictHead from './VerdictHead.svelte';

	interface Props {
		verdict: Verdict;
		/** Under the sentence. */
		about?: Snippet;
		/** Between verdict and picture: tabs, the board chosen. */
		bar?: Snippet;
		/** Evidence, to scale. */
		picture: Snippet;
		/** Figures and actions. */
		side: Snippet;
	}
	let { verdict, about, bar, picture, side }: Props = $props();
</script>

<div class="grid h-full grid-cols-[minmax(0,1fr)_372px]">
	<section class="flex min-h-0 flex-col gap-2 px-5 pt-3.5 pb-2">
		<VerdictHead {verdict}>{@render about?.()}</VerdictHead>
		{#if bar}<div class="flex items-center gap-4">{@render bar()}</div>{/if}
		<div class="min-h-0 flex-1">{@render picture()}</div>
	</section>
	<aside class="flex min-h-0 flex-col gap-3 overflow-y-auto border-l border-line px-5 pt-3.5 pb-3 *:shrink-0">
		{@render side()}<StopReason stops={page.data.line?.unexplained ?? []} station={page.data.station?.name} />
	</aside>
</div>
