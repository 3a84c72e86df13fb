<script lang="ts">
	import { bodies } from '$lib/api/bodies.ts';
	import TextField from './TextField.svelte';
	import EntryForm from './EntryForm.svelte';
	import { entry } from './entry.svelte.ts';
	import { untrack } from 'svelte';
	import { can } from './can.ts';

	interface Props {
		holdId: number;
		subject: string;
	}
	let { holdId, subject }: Props = $props();
	let asked = $state(false);

	const { form, errors, enhance } = entry({
		id: `leave-${untrack(() => holdId)}`,
		schema: bodies.lift,
		start: () => ({ note: '' }),
		path: () => `/api/v1/holds/${holdId}/lift`,
		done: () => `${subject} may go on`,
		then: () => (asked = false)
	});
</script>

<!-- An engineer lets a held thing go on, and says why. -->
{#if asked}
	<EntryForm {enhance} label="Leave for {subject}" class="flex items-end justify-end gap-2">
		<TextField label="Why" spoken="Why {subject} may go on" bind:value={$form.note} errors={$errors.note} around="w-56" autofocus />
		<button class="btn min-h-12 btn-primary">Goes on</button>
		<button type="button" class="btn min-h-12 border-line bg-transparent font-normal" onclick={() => (asked = false)}>No</button>
	</EntryForm>
{:else}
	<button
		class="btn min-h-12 border-ink bg-transparent whitespace-nowrap"
		disabled={!can('hold.lift')}
		title={can('hold.lift') ? '' : 'An engineer, quality or a lead gives leave.'}
		onclick={() => (asked = true)}>Give leave</button
	>
{/if}
