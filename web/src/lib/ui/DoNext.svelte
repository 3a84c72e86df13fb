<script lang="ts">
	import { say } from './theirs.svelte.ts';
	interface Props {
		actions: readonly string[];
	}
	let { actions }: Props = $props();
</script>

{#if actions.length}
	<section>
		<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Do next</h2>
		<ul>
			{#each actions as action, i (i)}<li class="border-b border-hair py-2 font-semibold">{say(action)}</li>{/each}
		</ul>
	</section>
{/if}
