<script lang="ts">
	import { untrack } from 'svelte';
	import { PACKAGE_FIELDS, type PackageField } from '@keen-relay/core/parts';
	import { bodies } from '$lib/api/bodies.ts';
	import { can } from '$lib/ui/can.ts';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import SelectField from '$lib/ui/SelectField.svelte';
	import TextField from '$lib/ui/TextField.svelte';
	import { unitName } from '$lib/ui/theirs.svelte.ts';
	import type { PageData } from './$types';

	let { of }: { of: PageData['packages'][number] } = $props();
	/** What was entered when somebody began to type: what another enters meanwhile is not overwritten. */
	let startedFrom = $state<number | null>(null);
	const { form, errors, enhance, draft } = entry({
		id: 'package',
		schema: bodies.package.omit({ name: true, startedFrom: true }),
		start: () => ({ field: 'heightMm' as PackageField, value: null, source: '' }),
		method: 'PUT',
		path: '/api/v1/packages',
		body: (fact) => ({ ...fact, name: of.name, startedFrom }),
		done: () => 'Kept',
		draft: { subject: `package-${untrack(() => of.name).replaceAll(/[^\w.-]/g, ' ')}` }
	});
	const { unit } = $derived(PACKAGE_FIELDS[$form.field]);
	function begin() {
		const fact = of.facts.find((f) => f.field === $form.field);
		startedFrom = fact?.entered ? fact.value : null;
	}
</script>

<EntryForm {enhance} {draft} label="Fact of the package" class="grid grid-cols-[1fr_110px] gap-2">
	<SelectField
		label="What"
		bind:value={$form.field}
		errors={$errors.field}
		options={Object.entries(PACKAGE_FIELDS).map(([key, { words, unit }]) => [
			key as PackageField,
			`${words}${unit ? `, ${unitName(unit)}` : ''}`
		])}
		class="h-11"
	/>
	<div onfocusin={begin}>
		<NumberField label={unit ? `Value, ${unit}` : 'Value'} {unit} class="h-11" bind:value={$form.value} errors={$errors.value} />
	</div>
	<TextField
		label="Source, for example the maker’s data sheet"
		spoken="Source"
		bind:value={$form.source}
		errors={$errors.source}
		class="h-11"
		around="col-span-2"
	/>
	<button class="btn col-span-2 h-12 btn-primary" disabled={!can('package.set')}>Keep it</button>
</EntryForm>
