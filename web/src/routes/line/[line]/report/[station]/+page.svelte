<script lang="ts">
	import { bodies } from '$lib/api/bodies.ts';
	import SelectField from '$lib/ui/SelectField.svelte';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import { untrack } from 'svelte';
	import { z } from 'zod';
	import DateField from '$lib/ui/DateField.svelte';
	import { page } from '$app/state';
	import { can } from '$lib/ui/can.ts';
	import { plantInstant } from '$lib/ui/format.ts';
	import SchemaForm from '$lib/ui/SchemaForm.svelte';

	let { data } = $props();
	/** What is reported of the station: which kind of message, when, and its fields. */
	const { form, errors, enhance, reset, draft } = entry({
		id: 'report',
		schema: bodies.report
			.omit({ stationId: true, at: true, formId: true, source: true })
			.extend({ source: z.string(), when: z.string().nullable() }),
		start: () => ({ type: data.forms[0]?.type ?? '', source: data.sources[0] ?? '', when: null, fields: blank(data.forms[0]) }),
		path: '/api/v1/reports',
		body: ({ when, source, ...report }) => ({
			...report,
			stationId: data.stationId,
			...(data.stationId === null ? { source } : {}),
			formId,
			...(when ? { at: plantInstant(when, page.data.plant?.timeZone ?? 'UTC') } : {})
		}),
		fieldAt: (field): string => (field.split('.')[0]! in (formOf($form.type)?.form.properties ?? {}) ? `fields.${field}` : field),
		done: ({ type }) => `${data.name}: ${formOf(type)?.words} taken`,
		then: (_, { type, source }) => {
			choose(type, source);
			formId = crypto.randomUUID();
		},
		draft: { subject: `report-${untrack(() => page.url.pathname.replaceAll('/', ' ').trim())}` }
	});
	const formOf = (type: string) => data.forms.find((f) => f.type === type) ?? null;
	const chosen = $derived(formOf($form.type));
	function blank(of: (typeof data.forms)[number] | null | undefined): Record<string, unknown> {
		return of?.form.properties?.runId && page.data.line?.run ? { runId: page.data.line.run.id } : {};
	}
	const choose = (type: string, source: string) => reset({ data: { type, source, when: null, fields: blank(formOf(type)) } });
	/** The same form sent twice counts once. */
	let formId = $state(crypto.randomUUID());
</script>

<section class="h-full overflow-y-auto px-5 pt-3.5 pb-6">
	<h1 class="text-[28px] leading-[34px] font-bold">Report in {data.name}’s stead</h1>
	<p class="text-soft">
		For a machine that is silent or stands by itself. It goes through the same gate as a machine’s own message, and says who typed it.
	</p>
	<EntryForm {enhance} {draft} label="Report" class="mt-4 grid max-w-3xl gap-4">
		<div class="grid grid-cols-2 gap-3">
			<SelectField
				label="What"
				spoken="What is reported"
				bind:value={() => $form.type, (type) => choose(type, $form.source)}
				errors={$errors.type}
				options={data.forms.map((f) => [f.type, f.words])}
			/>
			{#if data.stationId === null}
				<SelectField label="Which" bind:value={$form.source} errors={$errors.source} options={data.sources.map((s) => [s, s])} />
			{/if}
			<DateField label="When, if not now" time bind:value={$form.when} errors={$errors.when} class="h-12" />
		</div>
		{#if chosen}{#key chosen.type}<SchemaForm schema={chosen.form} bind:value={$form.fields} errors={$errors.fields} />{/key}{/if}
		<button class="btn min-h-16 text-lg btn-primary" disabled={!can('message.type')}>Report it</button>
	</EntryForm>
</section>
