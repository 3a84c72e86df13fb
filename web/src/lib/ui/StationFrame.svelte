<script lang="ts">
	import { page } from '$app/state';
	import type { Verdict } from '@keen-relay/core/judgement';
	import type { Snippet } from 'svelte';
	import { can } from './can.ts';
	import StationHead from './StationHead.svelte';
	import StopReason from './StopReason.svelte';

	interface Props {
		/** What this tab says of its own part. */
		verdict: Verdict;
		/** Under its sentence. */
		about?: Snippet;
		/** Between verdict and picture: the board chosen, a button. */
		bar?: Snippet;
		/** Evidence, to scale. */
		picture: Snippet;
		/** Figures and actions. */
		side: Snippet;
	}
	let { verdict, about, bar, picture, side }: Props = $props();
</script>

<div class="beside grid h-full">
	<section class="flex min-h-0 flex-col gap-2 px-5 pt-3.5 pb-2">
		<StationHead own={verdict} {bar}>{@render about?.()}</StationHead>
		<div class="min-h-0 flex-1">{@render picture()}</div>
	</section>
	<aside class="flex min-h-0 flex-col gap-3 overflow-y-auto border-l border-line px-5 pt-3.5 pb-3 *:shrink-0">
		{@render side()}<StopReason stops={page.data.line?.unexplained ?? []} station={page.data.station?.name} />
		{#if can('message.type')}
			<p class="mt-auto text-sm">
				<a class="text-soft underline" href="/line/{page.params.line}/report/{page.data.station?.id ?? 'paste'}"
					>Report in {page.data.station?.name ?? 'a sensor'}’s stead</a
				>
			</p>
		{/if}
	</aside>
</div>
