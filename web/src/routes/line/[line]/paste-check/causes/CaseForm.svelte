<script lang="ts">
	import { untrack } from 'svelte';
	import { bodies } from '$lib/api/bodies.ts';
	import { can } from '$lib/ui/can.ts';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import TextField from '$lib/ui/TextField.svelte';

	interface Props {
		caseId: number;
	}
	let { caseId }: Props = $props();
	const { form, errors, enhance, draft } = entry({
		id: 'case',
		schema: bodies.signatureAction,
		start: () => ({ action: 'done' as const, note: '' }),
		path: () => `/api/v1/signatures/${caseId}`,
		done: ({ action }) => (action === 'done' ? 'Marked done; the next panels will show' : 'Laid aside'),
		draft: { subject: untrack(() => `case.${caseId}`) }
	});
</script>

<EntryForm {enhance} {draft} label="What was done" class="flex flex-col gap-3">
	<TextField label="What was done, or why it is laid aside" bind:value={$form.note} errors={$errors.note} class="h-11" />
	<button class="btn min-h-16 text-lg btn-primary" disabled={!can('signature.act')} onclick={() => ($form.action = 'done')}
		>Done: watch the next panels</button
	>
	<button class="btn min-h-12 border-line bg-transparent" disabled={!can('signature.act')} onclick={() => ($form.action = 'dismiss')}
		>Lay aside</button
	>
</EntryForm>
