<script lang="ts">
	import { untrack } from 'svelte';
	import { bodies } from '$lib/api/bodies.ts';
	import { can } from '$lib/ui/can.ts';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import TextField from '$lib/ui/TextField.svelte';

	interface Props {
		kind: 'feeder' | 'nozzle';
		name: string;
		stationId: number;
	}
	let { kind, name, stationId }: Props = $props();
	const { form, errors, enhance, draft } = entry({
		id: 'care',
		schema: bodies.care,
		start: () => ({ note: '' }),
		path: () =>
			kind === 'feeder'
				? `/api/v1/feeders/${encodeURIComponent(name)}/care`
				: `/api/v1/stations/${stationId}/nozzles/${encodeURIComponent(name)}/care`,
		done: () => `${name}: counted from here`,
		draft: { subject: untrack(() => `care.${kind}.${stationId}.${name}`) }
	});
</script>

<EntryForm {enhance} {draft} label="Care of {name}" class="flex flex-col gap-2">
	<TextField label="What was done" bind:value={$form.note} errors={$errors.note} class="h-11" />
	<button class="btn min-h-12 border-ink bg-transparent" disabled={!can('feeder.keep')}>{name} is cleaned and checked</button>
</EntryForm>
