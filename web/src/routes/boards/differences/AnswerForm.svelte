<script lang="ts">
	import { untrack } from 'svelte';
	import { bodies } from '$lib/api/bodies.ts';
	import { can } from '$lib/ui/can.ts';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import TextField from '$lib/ui/TextField.svelte';

	interface Props {
		sideId: number;
		/** Its number among the differences of the side. */
		finding: number;
		open: boolean;
	}
	let { sideId, finding, open }: Props = $props();
	const DONE = { accepted: 'Accepted', sentBack: 'Sent back', open: 'Open again' } as const;
	const { form, errors, enhance, draft } = entry({
		id: 'difference',
		schema: bodies.differenceAnswer,
		start: () => ({ state: 'accepted' as const, reason: '' }),
		path: () => `/api/v1/sides/${sideId}/differences/${finding + 1}`,
		done: ({ state }) => DONE[state],
		draft: { subject: untrack(() => `difference.${sideId}.${finding}`) }
	});
	const mayNot = $derived(!can('board.settle'));
</script>

<EntryForm {enhance} {draft} label="What it is" class="flex flex-col gap-2">
	<TextField label="Why, for the record" bind:value={$form.reason} errors={$errors.reason} class="h-11" />
	{#if open}
		<button class="btn min-h-14 btn-primary" disabled={mayNot} onclick={() => ($form.state = 'accepted')}>Accept it as it is</button>
		<button class="btn min-h-12 border-ink bg-transparent" disabled={mayNot} onclick={() => ($form.state = 'sentBack')}
			>Send it back to the customer</button
		>
	{:else}
		<button class="btn min-h-12 border-ink bg-transparent" disabled={mayNot} onclick={() => ($form.state = 'open')}>Open it again</button>
	{/if}
	{#if mayNot}<p class="text-sm text-soft">An engineer, quality or a lead settles differences.</p>{/if}
</EntryForm>
