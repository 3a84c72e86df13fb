<script lang="ts">
	import { bodies } from '$lib/api/bodies.ts';
	import SelectField from './SelectField.svelte';
	import TextField from './TextField.svelte';
	import EntryForm from './EntryForm.svelte';
	import { entry } from './entry.svelte.ts';
	import type { Verdict } from '@keen-relay/core/judgement';
	import { can } from './can.ts';
	import LevelMark from './LevelMark.svelte';

	interface Props {
		lineId: number;
		blades: { stroke: 'F' | 'R'; code: string; strokes: number; verdict: Verdict }[];
	}
	let { lineId, blades }: Props = $props();
	const NAMES = { F: 'front', R: 'rear' } as const;

	const { form, errors, enhance } = entry({
		id: 'blade',
		schema: bodies.blade,
		start: () => ({ stroke: 'F' as 'F' | 'R', code: '', why: '', nicked: false }),
		method: 'PUT',
		path: () => `/api/v1/lines/${lineId}/blades`,
		done: ({ stroke, code }): string => (swaps ? 'Blades swapped' : `${code} stands ${NAMES[stroke]}`)
	});
	const swaps: boolean = $derived(blades.some((b) => b.stroke !== $form.stroke && b.code === $form.code));
</script>

<section data-testid="blades">
	<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Blades</h2>
	<dl class="facts">
		{#each ['F', 'R'] as const as stroke (stroke)}
			{@const blade = blades.find((b) => b.stroke === stroke)}
			<div>
				<dt class="w-6"><LevelMark level={blade?.verdict.level ?? 'noData'} /></dt>
				<dd>{NAMES[stroke]} <span class="figure">{blade?.code ?? '–'}</span></dd>
				<dd class="text-right text-sm">{blade?.verdict.statement ?? 'nobody said which'}</dd>
			</div>
		{/each}
	</dl>
	<EntryForm {enhance} label="Blade" class="mt-2 grid grid-cols-2 items-end gap-2">
		<SelectField
			label="Holder"
			spoken="Holder of the blade"
			bind:value={$form.stroke}
			errors={$errors.stroke}
			options={[
				['F', 'front'],
				['R', 'rear']
			]}
			class="h-11"
		/>
		<TextField
			label="Number"
			spoken="Number of the blade"
			bind:value={$form.code}
			errors={$errors.code}
			figure
			scan
			placeholder="B-07"
			class="h-11"
		/>
		<TextField
			label="Why: worn, a nick, a swap"
			spoken="Why the blade is fitted"
			bind:value={$form.why}
			errors={$errors.why}
			class="h-11"
			around="col-span-2"
		/>
		<label class="flex min-h-11 items-center gap-2 text-sm"
			><input type="checkbox" class="checkbox" bind:checked={$form.nicked} />it has a nick</label
		>
		<button class="btn min-h-11 border-line bg-transparent font-normal" disabled={!can('blade.fit')}
			>{swaps ? 'Swap the two' : 'It stands there now'}</button
		>
	</EntryForm>
</section>
