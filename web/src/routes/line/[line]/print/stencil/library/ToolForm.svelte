<script lang="ts">
	import { untrack } from 'svelte';
	import { bodies } from '$lib/api/bodies.ts';
	import { can } from '$lib/ui/can.ts';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import TextField from '$lib/ui/TextField.svelte';

	interface Props {
		tool: { id: number; code: string; state: string };
		/** The run that it can be mounted for. */
		run: { number: string; toolId: number | null } | null;
		lineId: number;
	}
	let { tool, run, lineId }: Props = $props();
	const DONE = { move: 'Moved', damage: 'Blocked', repair: 'Usable again', clean: 'Cleaned and looked through' } as const;
	const { form, errors, enhance, draft } = entry({
		id: 'stencil-event',
		schema: bodies.stencilToolEvent,
		start: () => ({ kind: 'clean' as const, lineId, note: '' }),
		path: () => `/api/v1/stencil-tools/${tool.id}/events`,
		done: ({ kind }) => (kind in DONE ? DONE[kind as keyof typeof DONE] : `${tool.code} mounted`),
		draft: { subject: untrack(() => `stencil-event.${tool.id}`) }
	});
	type Kind = (typeof $form)['kind'];
</script>

<!-- The button that is pressed says what it was. -->
{#snippet act(kind: Kind, words: string, looks: string, disabled = !can('stencilTool.keep'))}
	<button class="btn {looks}" {disabled} onclick={() => ($form.kind = kind)}>{words}</button>
{/snippet}

<EntryForm {enhance} {draft} label="{tool.code}: what is done" class="grid grid-cols-2 gap-3">
	{@render act(
		'mount',
		run?.toolId === tool.id ? 'Mounted for this run' : `Mount for ${run?.number ?? 'no run'}`,
		'btn-primary col-span-2 min-h-16 text-lg',
		!run || run.toolId === tool.id || !can('stencilTool.mount')
	)}
	{@render act('clean', 'Cleaned, held to the light', 'col-span-2 min-h-16 border-ink bg-transparent text-lg')}
	<TextField label="New place, or what is damaged" bind:value={$form.note} errors={$errors.note} class="h-11" around="col-span-2" />
	{@render act('move', 'Moved there', 'min-h-12 border-line bg-transparent')}
	{#if tool.state === 'usable'}{@render act('damage', 'Damaged', 'min-h-12 border-line bg-transparent')}{:else}{@render act(
			'repair',
			'Usable again',
			'min-h-12 border-line bg-transparent'
		)}{/if}
</EntryForm>
