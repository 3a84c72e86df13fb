<script lang="ts">
	import { untrack } from 'svelte';
	import { BRIEFLY, type ReadyItem } from '@keen-relay/core/line';
	import { bodies } from '$lib/api/bodies.ts';
	import { can } from '$lib/ui/can.ts';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import FieldError from '$lib/ui/FieldError.svelte';
	import TextField from '$lib/ui/TextField.svelte';

	interface Props {
		runId: number;
		/** The open points that a lead may take on. */
		items: readonly ReadyItem[];
	}
	let { runId, items }: Props = $props();
	const named = (codes: readonly string[]) => items.filter((i) => codes.includes(i.code)).map((i) => i.name);
	const { form, errors, enhance, draft } = entry({
		id: 'override',
		schema: bodies.override,
		start: () => ({ codes: [], reason: '', wholeRun: false }),
		path: () => `/api/v1/runs/${runId}/override`,
		done: ({ codes, reason }) => `Without ${named(codes).join(', ').toLowerCase()}: ${reason}`,
		draft: { subject: untrack(() => `override.${runId}`) }
	});
	// A point that is proven meanwhile is no longer asked for.
	$effect(() => {
		const open = items.map((item) => item.code);
		if ($form.codes.some((code) => !open.includes(code))) $form.codes = $form.codes.filter((code) => open.includes(code));
	});
	const brief = $derived(named($form.codes.filter((code) => BRIEFLY.includes(code))));
</script>

<EntryForm {enhance} {draft} label="Print without it" class="flex flex-col gap-2">
	{#each items as item (item.code)}
		<label class="flex min-h-11 items-center gap-3"
			><input
				type="checkbox"
				class="checkbox"
				value={item.code}
				bind:group={$form.codes}
				disabled={!can('run.override')}
			/>{item.name}</label
		>
	{/each}
	<FieldError id="override-codes" words={$errors.codes?._errors} />
	<TextField
		label="Reason"
		spoken="Reason of the override"
		bind:value={$form.reason}
		errors={$errors.reason}
		disabled={!can('run.override')}
		class="h-11"
	/>
	<div class="flex gap-6">
		<label class="flex min-h-11 items-center gap-2"
			><input type="radio" class="radio" bind:group={$form.wholeRun} value={false} />30 minutes</label
		>
		<label class="flex min-h-11 items-center gap-2"
			><input type="radio" class="radio" bind:group={$form.wholeRun} value={true} />this run</label
		>
	</div>
	{#if $form.wholeRun && brief.length}<p class="text-sm font-semibold">
			{brief.join(', ')}: for 30 minutes at most, somebody scans them meanwhile.
		</p>{/if}
	<button class="btn min-h-12 border-ink bg-transparent" disabled={!can('run.override') || ($form.wholeRun && brief.length > 0)}
		>Print without it</button
	>
	{#if !can('run.override')}<p class="text-sm text-soft">
			A lead may; never for a wrong stencil, paste or part, or a life that is past.
		</p>{/if}
</EntryForm>
