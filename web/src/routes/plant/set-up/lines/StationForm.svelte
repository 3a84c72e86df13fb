<script lang="ts">
	import type { Snippet } from 'svelte';
	import { bodies } from '$lib/api/bodies.ts';
	import { kindOf } from '$lib/stations/index.ts';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import MachineForm from '$lib/ui/MachineForm.svelte';
	import TextField from '$lib/ui/TextField.svelte';
	import { untrack } from 'svelte';
	import type { PageData } from './$types';

	type Kind = PageData['kinds'][number];
	interface Props {
		kind: Kind;
		/** What stands in it at first. */
		name: string;
		spec: object;
		/** A station that is corrected, with the revision of its data that this began from; null: a new one at the end of `lineId`. */
		of: { id: number; revision: number } | null;
		lineId: number;
		label: string;
		/** It is kept, or left. */
		onend: () => void;
		buttons: Snippet;
	}
	let { kind, name, spec, of, lineId, label, onend, buttons }: Props = $props();
	// The revision that it began from stays, whatever others keep meanwhile.
	const [role, began] = untrack(() => [kind.role, of]);
	const { form, errors, enhance, draft } = entry({
		id: `station-${began?.id ?? 'new'}`,
		schema: bodies.stationChange
			.pick({ name: true })
			.required()
			.extend({ spec: kindOf(role).machine!.schema }),
		start: () => ({ name, spec: structuredClone($state.snapshot(spec)) as Record<string, unknown> }),
		method: began ? 'PUT' : 'POST',
		path: began ? `/api/v1/stations/${began.id}` : `/api/v1/lines/${untrack(() => lineId)}/stations`,
		body: (station) => (began ? { ...station, startedFrom: began.revision } : { ...station, role }),
		done: (station) =>
			began ? `${station.name}: revision ${began.revision + 1}; runs that are on keep theirs` : `${station.name} entered`,
		then: () => onend(),
		draft: {
			subject: began ? `station-${began.id}` : `station-${untrack(() => lineId)}-${role}`,
			base: () => (began ? `revision ${began.revision}` : '')
		}
	});
</script>

<EntryForm {enhance} {draft} {label} class="grid gap-3">
	<TextField label="Name, as messages say it" bind:value={$form.name} errors={$errors.name} around="w-64" />
	<div><MachineForm {kind} bind:spec={$form.spec} errors={$errors.spec} /></div>
	{@render buttons()}
</EntryForm>
