<script lang="ts">
	import { untrack } from 'svelte';
	import type { FirstBoardLine } from '@keen-relay/core/line';
	import { bodies } from '$lib/api/bodies.ts';
	import { can } from '$lib/ui/can.ts';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import SelectField from '$lib/ui/SelectField.svelte';
	import TextField from '$lib/ui/TextField.svelte';

	interface Props {
		runId: number;
		line: FirstBoardLine;
		panels: readonly string[];
		ondone: () => void;
	}
	let { runId, line, panels, ondone }: Props = $props();
	const { form, errors, enhance, draft } = entry({
		id: 'first-board',
		schema: bodies.firstBoardCheck,
		start: () => ({ keys: [line.key], right: true, note: '', panel: line.mark === 'open' ? (panels[0] ?? null) : (panels.at(-1) ?? null) }),
		path: () => `/api/v1/runs/${runId}/first-board/checks`,
		done: ({ right }) => `${line.where}: ${right ? 'right' : 'wrong'}`,
		then: () => ondone(),
		draft: { subject: untrack(() => `first-board.${runId}.${line.key}`.replaceAll(/[^\w.-]/g, ' ')) }
	});
</script>

<EntryForm {enhance} {draft} label="What is seen of it" class="flex flex-col gap-3">
	<SelectField
		label="Panel that is looked at"
		bind:value={$form.panel}
		errors={$errors.panel}
		options={panels.map((p) => [p, p] as const)}
	/>
	<TextField label="What is wrong, where it is" bind:value={$form.note} errors={$errors.note} class="h-12" />
	<div class="grid grid-cols-2 gap-3">
		<button class="btn min-h-16 text-lg btn-primary" disabled={!can('firstBoard.check')} onclick={() => ($form.right = true)}>Right</button>
		<button class="btn min-h-16 border-ink bg-transparent text-lg" disabled={!can('firstBoard.check')} onclick={() => ($form.right = false)}
			>Wrong</button
		>
	</div>
</EntryForm>
