<script lang="ts">
	import LevelMark from './LevelMark.svelte';
	import type { Found } from '$lib/model/types.ts';

	interface Props {
		reply: Found | null;
		onclose: () => void;
	}
	let { reply, onclose }: Props = $props();
</script>

{#if reply}
	<section
		class="fixed inset-x-0 top-[52px] z-30 border-b-4 bg-sheet px-6 py-6 {reply.ok ? 'border-good' : 'border-stop'}"
		role="alert"
		data-testid="scan-reply"
	>
		<p class="flex items-center gap-6 text-[84px] leading-[92px] font-bold">
			<LevelMark level={reply.ok ? 'good' : 'stopped'} size={68} />{reply.what}
		</p>
		<div class="mt-2 flex items-center justify-between gap-4">
			<p class="text-3xl">{reply.why}</p>
			<div class="flex gap-3">
				{#if reply.href}<a class="btn h-16 px-8 text-xl btn-primary" href={reply.href} onclick={onclose}>Open</a>{/if}
				<button class="btn h-16 border-ink bg-transparent px-8 text-xl" onclick={onclose}>Close</button>
			</div>
		</div>
	</section>
{/if}
