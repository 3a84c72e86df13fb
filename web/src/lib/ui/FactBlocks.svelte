<script lang="ts">
	import { say } from './theirs.svelte.ts';
	interface Props {
		blocks: readonly { heading: string; lines: readonly string[] }[];
	}
	let { blocks }: Props = $props();
</script>

<div class="columns-2 gap-8">
	{#each blocks as block (block.heading)}
		<div class="mb-3 break-inside-avoid">
			<h2 class="border-b border-hair text-sm font-semibold text-soft">{block.heading}</h2>
			<ul>
				{#each block.lines as line, i (i)}<li class="border-b border-hair py-1 text-[15px]">{say(line)}</li>{/each}
			</ul>
		</div>
	{/each}
</div>
