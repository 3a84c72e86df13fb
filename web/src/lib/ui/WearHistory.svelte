<script lang="ts">
	import { untrack } from 'svelte';
	import { page } from '$app/state';
	import { bodies } from '$lib/api/bodies.ts';
	import { can } from './can.ts';
	import { entry } from './entry.svelte.ts';
	import EntryForm from './EntryForm.svelte';
	import { dayTime } from './format.ts';
	import TextField from './TextField.svelte';

	interface Props {
		name: string;
		/** Of the feeder or nozzle itself. */
		path: string;
		/** The latest first. */
		events: readonly { kind: string; note: string; atMs: number; by: string }[];
	}
	/** What happened to a feeder or nozzle, and a fault that somebody sees now. */
	let { name, path, events }: Props = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const WORDS: Record<string, string> = { fault: 'Fault', care: 'Cared for', out: 'Out of service', in: 'In service again' };
	const { form, errors, enhance, draft } = entry({
		id: 'fault',
		schema: bodies.fault,
		start: () => ({ note: '' }),
		path: () => `${path}/faults`,
		done: () => `${name}: fault noted`,
		draft: { subject: untrack(() => `fault.${path}`) }
	});
</script>

<EntryForm {enhance} {draft} label="Fault of {name}" class="grid gap-2">
	<TextField label="What it did wrong" bind:value={$form.note} errors={$errors.note} class="h-11" />
	<button class="btn min-h-12 border-ink bg-transparent" disabled={!can('feeder.load')}>Note a fault</button>
</EntryForm>
{#if events.length}
	<ul class="mt-2 text-sm" aria-label="History of {name}">
		{#each events as event (`${event.atMs} ${event.kind} ${event.note}`)}
			<li class="border-b border-hair py-1">
				<span class="font-semibold">{WORDS[event.kind] ?? event.kind}</span>{event.note ? `: ${event.note}` : ''}
				<span class="block text-soft"><span class="figure">{dayTime(event.atMs, zone)}</span>, {event.by}</span>
			</li>
		{/each}
	</ul>
{:else}<p class="mt-2 text-sm text-soft">Nothing has been noted of it yet.</p>{/if}
