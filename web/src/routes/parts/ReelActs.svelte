<script lang="ts">
	import type { ReelEventKind } from '@keen-relay/core/parts';
	import { untrack } from 'svelte';
	import { bodies } from '$lib/api/bodies.ts';
	import { can } from '$lib/ui/can.ts';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import { REEL_ACTS } from '$lib/ui/parts.ts';
	import SelectField from '$lib/ui/SelectField.svelte';
	import TextField from '$lib/ui/TextField.svelte';

	interface Props {
		code: string;
		pieces: number;
		/** What can be said of it now. */
		kinds: readonly ReelEventKind[];
	}
	let { code, pieces, kinds }: Props = $props();
	type Kind = (typeof bodies.reelEvent)['_output']['kind'];
	const { form, errors, enhance } = entry({
		id: 'reel-act',
		schema: bodies.reelEvent,
		start: () => ({ kind: untrack(() => kinds[0]) as Kind, pieces: null, rhPct: null, place: '', note: '' }),
		path: () => `/api/v1/reels/${encodeURIComponent(code)}/events`,
		done: ({ kind }) => `${code}: ${REEL_ACTS[kind]!.toLowerCase()}`
	});
	const allowed = $derived($form.kind === 'block' || $form.kind === 'unblock' ? can('reel.block') : can('reel.report'));
	$effect(() => {
		if (!kinds.includes($form.kind)) $form.kind = kinds[0] as Kind;
	});
</script>

<EntryForm {enhance} label="What happened to {code}" class="grid grid-cols-2 items-end gap-2">
	<SelectField
		label="What happened"
		bind:value={$form.kind}
		errors={$errors.kind}
		options={kinds.map((kind) => [kind as Kind, REEL_ACTS[kind]!])}
		class="h-11"
	/>
	{#if $form.kind === 'count'}
		<NumberField label="Pieces" whole placeholder={String(pieces)} bind:value={$form.pieces} errors={$errors.pieces} />
	{:else if $form.kind === 'open'}
		<NumberField label="Humidity card, % RH" max={100} bind:value={$form.rhPct} errors={$errors.rhPct} />
	{:else if $form.kind === 'cabinet'}
		<NumberField label="The cabinet shows, % RH" max={100} bind:value={$form.rhPct} errors={$errors.rhPct} />
	{:else if $form.kind === 'move'}
		<TextField label="Place" spoken="New place" bind:value={$form.place} errors={$errors.place} class="h-11" />
	{:else}
		<TextField label={$form.kind === 'block' ? 'Why' : 'Note'} bind:value={$form.note} errors={$errors.note} class="h-11" />
	{/if}
	<button class="btn col-span-2 min-h-12 btn-primary" disabled={!allowed}>{REEL_ACTS[$form.kind]}: keep it</button>
</EntryForm>
