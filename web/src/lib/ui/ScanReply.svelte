<script lang="ts">
	import LevelMark from './LevelMark.svelte';
	import type { Found } from '$lib/model/types.ts';
	import ScanMoves from './ScanMoves.svelte';
	import { say } from './theirs.svelte.ts';

	interface Props {
		reply: Found | null;
		/** Where a move is made. */
		line: string | null;
		onclose: () => void;
	}
	let { reply, line, onclose }: Props = $props();
</script>

<svelte:window
	onkeydown={(event) => {
		if (event.key === 'Escape' && reply) onclose();
	}}
/>

{#if reply}
	<section
		class="fixed inset-x-0 top-[52px] z-30 border-b-4 bg-sheet px-6 py-6 {reply.ok ? 'border-good' : 'border-stop'}"
		role="alert"
		data-testid="scan-reply"
	>
		<p class="flex items-center gap-6 text-[84px] leading-[92px] font-bold">
			<LevelMark level={reply.ok ? 'good' : 'stopped'} size={68} />{say(reply.what)}
		</p>
		<div class="mt-2 flex items-center justify-between gap-4">
			<p class="text-3xl">
				{say(reply.why)}{#if reply.moves.length && line}<span class="text-soft">&nbsp;On {line}:</span>{/if}
			</p>
			<div class="flex shrink-0 items-center gap-3">
				{#if reply.moves.length}{#key reply}<ScanMoves {reply} ondone={onclose} />{/key}{/if}
				{#if reply.href}<a
						class="btn h-16 px-8 text-xl {reply.moves.length ? 'border-ink bg-transparent' : 'btn-primary'}"
						href={reply.href}
						onclick={onclose}>Its page</a
					>{/if}
				<button class="btn h-16 border-ink bg-transparent px-8 text-xl" onclick={onclose}>Close</button>
			</div>
		</div>
	</section>
{/if}
