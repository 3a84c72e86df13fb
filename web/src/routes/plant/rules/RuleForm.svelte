<script lang="ts">
	import { untrack } from 'svelte';
	import type { z } from 'zod';
	import { page } from '$app/state';
	import { RULES } from '$lib/rules/index.ts';
	import { can } from '$lib/ui/can.ts';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import { dayTime } from '$lib/ui/format.ts';
	import { same } from '$lib/ui/same.ts';
	import SchemaForm from '$lib/ui/SchemaForm.svelte';
	import type { PageData } from './$types';

	let { rule }: { rule: PageData['rules'][number] } = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	type Value = Record<string, unknown>;
	const copied = (values: unknown) => structuredClone($state.snapshot(values)) as Value;
	const { form, errors, enhance, draft } = entry({
		id: 'rule',
		schema: RULES[untrack(() => rule.name)].schema as z.ZodType<Value, Value>,
		start: () => copied(rule.value),
		method: 'PUT',
		path: () => `/api/v1/rules/${rule.name}`,
		body: (value) => ({ value, startedFrom: rule.set?.revision ?? null }),
		done: () => `${rule.title}: kept`,
		stays: true,
		draft: { subject: `rule-${untrack(() => rule.name)}`, base: () => (rule.set ? `revision ${rule.set.revision}` : 'the start value') }
	});
	const changed = $derived(!same($form, $state.snapshot(rule.value)));
</script>

<EntryForm {enhance} {draft} label={rule.title} class="flex min-h-0 max-w-[760px] flex-col gap-3 overflow-y-auto pr-2 pb-4">
	<div class="flex items-start gap-4">
		<div class="flex-1">
			<h2 class="text-xl font-semibold">{rule.title}</h2>
			<p>{rule.about}</p>
			<p class="text-sm text-soft">Where the start values come from: {rule.source}</p>
			{#if rule.set}<p class="text-sm text-soft">
					Revision {rule.set.revision}, {rule.set.by}, {dayTime(rule.set.at, zone)}.
				</p>{/if}
		</div>
		<span class="grid gap-2">
			<button class="btn min-h-12 btn-primary" disabled={!can('rules.set') || !changed}>Keep these</button>
			<button type="button" class="btn min-h-11 border-line bg-transparent font-normal" onclick={() => form.set(copied(rule.start))}
				>As it starts</button
			>
		</span>
	</div>
	{#if !can('rules.set')}<p class="text-sm text-soft">A lead sets the rules.</p>{/if}
	<SchemaForm schema={rule.form} bind:value={$form} errors={$errors} />
</EntryForm>
