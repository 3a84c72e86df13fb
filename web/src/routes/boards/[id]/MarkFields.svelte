<script lang="ts">
	import NumberField from '$lib/ui/NumberField.svelte';

	type Typed = { x: number | null; y: number | null };
	interface Props {
		/** What one of them is called. */
		name: string;
		marks: readonly Typed[];
		onset: (marks: Typed[]) => void;
		least?: number;
		most: number;
		/** Of the button that brings the next one. */
		add?: string;
	}
	let { name, marks, onset, least = 0, most, add = 'One more' }: Props = $props();
	const set = (i: number, part: Partial<Typed>) => onset(marks.map((mark, k) => (k === i ? { ...mark, ...part } : { ...mark })));
</script>

{#each marks as mark, i (i)}
	<div class="flex items-center gap-2 pb-1">
		{#if most > 2}<span class="figure w-4 text-soft">{i + 1}</span>{/if}
		<NumberField
			bare
			label="{most > 1 ? `${name} ${i + 1}` : name}, x, mm"
			class="h-9 w-full"
			min={-Infinity}
			bind:value={() => mark.x, (x) => set(i, { x })}
		/>
		<NumberField
			bare
			label="{most > 1 ? `${name} ${i + 1}` : name}, y, mm"
			class="h-9 w-full"
			min={-Infinity}
			bind:value={() => mark.y, (y) => set(i, { y })}
		/>
		{#if marks.length > least}<button
				type="button"
				class="btn h-9 border-line bg-transparent font-normal"
				onclick={() => onset(marks.toSpliced(i, 1).map((one) => ({ ...one })))}
				aria-label="Take out {name.toLowerCase()}{most > 1 ? ` ${i + 1}` : ''}">✕</button
			>{/if}
	</div>
{/each}
{#if marks.length < most}<button
		type="button"
		class="btn h-9 border-line bg-transparent font-normal"
		onclick={() => onset([...marks, { x: null, y: null }])}>{add}</button
	>{/if}
