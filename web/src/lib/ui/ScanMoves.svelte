<script lang="ts">
	import { untrack } from 'svelte';
	import { z } from 'zod';
	import type { Found, ScanMove } from '$lib/model/types.ts';
	import { entry } from './entry.svelte.ts';
	import EntryForm from './EntryForm.svelte';
	import NumberField from './NumberField.svelte';
	import { unitName } from './theirs.svelte.ts';

	interface Props {
		reply: Found;
		ondone: () => void;
	}
	let { reply, ondone }: Props = $props();
	/** A move of paste says how much: as was proposed, until somebody types another. */
	const asked = $derived(reply.moves.find((m) => m.grams !== null)?.grams ?? null);
	let move: ScanMove = untrack(() => reply.moves[0]!);
	const { form, errors, enhance, draft } = entry({
		id: 'scan-moves',
		schema: z.object({ grams: z.number().min(1).max(5000) }),
		start: () => ({ grams: asked ?? 1 }),
		path: () => move.path,
		body: ({ grams }) => (move.grams === null ? move.body : { ...move.body, grams }),
		done: () => `${reply.what}: ${move.name.toLowerCase()}`,
		then: () => ondone(),
		draft: { subject: untrack(() => `scan.${reply.what.replaceAll(/[^\w.-]/g, ' ')}`) }
	});
</script>

<EntryForm {enhance} {draft} label="What is done with {reply.what}" class="flex items-center gap-3">
	{#if asked !== null}
		<label class="flex items-center gap-2 text-xl"
			><NumberField
				bare
				label="Grams"
				class="h-16 w-28 bg-paper text-xl"
				bind:value={$form.grams}
				errors={$errors.grams}
				unit="g"
			/>{unitName('g')}</label
		>
	{/if}
	{#each reply.moves as m, i (m.name)}
		<button class="btn h-16 px-8 text-xl {i === 0 ? 'btn-primary' : 'border-ink bg-transparent'}" onclick={() => (move = m)}
			>{m.name}</button
		>
	{/each}
</EntryForm>
