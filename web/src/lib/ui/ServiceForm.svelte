<script lang="ts">
	import { bodies } from '$lib/api/bodies.ts';
	import { can } from './can.ts';
	import { entry } from './entry.svelte.ts';
	import EntryForm from './EntryForm.svelte';
	import TextField from './TextField.svelte';

	interface Props {
		name: string;
		/** Where it is sent. */
		path: string;
		/** Why it is not used; null: it is. */
		outOfService: string | null;
	}
	/** Takes a feeder or a nozzle out of service, with why, or back into it. */
	let { name, path, outOfService }: Props = $props();
	const { form, errors, enhance } = entry({
		id: 'service',
		schema: bodies.feederChange,
		start: () => ({ outOfService: '' }),
		method: 'PUT',
		path: () => path,
		body: ({ outOfService: why }) => ({ outOfService: outOfService === null ? why : null }),
		done: () => `${name}: ${outOfService === null ? 'out of service' : 'in service again'}`
	});
</script>

<EntryForm {enhance} label="Service of {name}" class="grid gap-2">
	{#if outOfService === null}
		<TextField
			label="Why it is not used"
			bind:value={() => $form.outOfService ?? '', (text) => ($form.outOfService = text)}
			errors={$errors.outOfService}
			class="h-11"
		/>
		<button class="btn min-h-12 border-ink bg-transparent" disabled={!can('feeder.keep')}>Take it out of service</button>
	{:else}
		<button class="btn min-h-12 btn-primary" disabled={!can('feeder.keep')} onclick={() => ($form.outOfService = null)}
			>It is seen to: in service again</button
		>
	{/if}
</EntryForm>
