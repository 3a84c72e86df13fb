<script lang="ts">
	import type { Issue } from '@keen-relay/core/judgement';
	import LevelMark from './LevelMark.svelte';
	import { say } from './theirs.svelte.ts';

	interface Props {
		issues: readonly Issue[];
		/** Called where a row with a place is chosen. */
		onpick?: (index: number) => void;
		picked?: number | null;
	}
	let { issues, onpick, picked = null }: Props = $props();
</script>

<ul class="text-sm">
	{#each issues as issue, i (i)}
		<li class="border-b border-hair">
			<button
				class="flex w-full items-start gap-2 py-2 text-left {onpick ? 'cursor-pointer' : 'cursor-default'} {picked === i
					? 'font-semibold'
					: ''}"
				onclick={() => onpick?.(i)}
				tabindex={onpick ? 0 : -1}
			>
				<LevelMark level={issue.severity === 'error' ? 'act' : 'watch'} />
				<span>
					{say(issue.message)}
					{#if issue.file}<span class="text-soft">({issue.file})</span>{/if}
				</span>
			</button>
		</li>
	{/each}
</ul>
