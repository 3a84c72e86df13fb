<script lang="ts">
	import { untrack } from 'svelte';
	import { bodies } from '$lib/api/bodies.ts';
	import { can } from '$lib/ui/can.ts';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import SelectField from '$lib/ui/SelectField.svelte';
	import TextField from '$lib/ui/TextField.svelte';

	interface Props {
		partNumber: string;
		customers: readonly string[];
	}
	let { partNumber, customers }: Props = $props();
	let differs = $state<string[]>([]);
	const { form, errors, enhance, draft } = entry<typeof bodies.alternate, { differs: string[] }>({
		id: 'alternate',
		schema: bodies.alternate,
		start: () => ({ partNumber, alternate: '', customer: customers.length === 1 ? customers[0]! : null, approved: true, note: '' }),
		path: '/api/v1/alternates',
		done: ({ alternate }) => `${alternate} may stand for ${partNumber}`,
		then: (answer) => {
			differs = answer.differs;
		},
		draft: { subject: untrack(() => `alternate.${partNumber}`.replaceAll(/[^\w.-]/g, ' ')) }
	});
</script>

<EntryForm {enhance} {draft} label="Alternate of {partNumber}" class="flex flex-col gap-2">
	<TextField label="Part that may stand for it" bind:value={$form.alternate} errors={$errors.alternate} figure scan class="h-11" />
	<SelectField
		label="On whose boards"
		bind:value={$form.customer}
		errors={$errors.customer}
		options={[[null, 'everybody’s'] as const, ...customers.map((c) => [c, c] as const)]}
		class="h-11"
	/>
	<TextField label="Why, for the record" bind:value={$form.note} errors={$errors.note} class="h-11" />
	<button class="btn min-h-12 border-ink bg-transparent" disabled={!can('alternate.approve')}>Approve it</button>
	{#if differs.length}<p class="text-sm font-semibold" role="status">Know before it is loaded: {differs.join('; ')}.</p>{/if}
</EntryForm>
