<script lang="ts">
	import { levelWord, type Verdict } from '@keen-relay/core/judgement';
	import type { Snippet } from 'svelte';
	import LevelMark from './LevelMark.svelte';
	import { say } from './theirs.svelte.ts';

	interface Props {
		verdict: Verdict;
		testid?: string;
		/** The line under the sentence: what it was judged on. */
		children?: Snippet;
	}
	let { verdict, testid = 'verdict', children }: Props = $props();
</script>

<header class="flex items-start gap-3.5" data-testid={testid} data-level={verdict.level}>
	<span class="mt-1.5"><LevelMark level={verdict.level} size={28} /></span>
	<div class="min-w-0">
		<h1 class="text-[28px] leading-[34px] font-bold">
			{levelWord(verdict.level)}. <span class="font-semibold">{say(verdict.statement)}</span>
		</h1>
		{#if children}<p class="mt-1 text-soft">{@render children()}</p>{/if}
	</div>
</header>
