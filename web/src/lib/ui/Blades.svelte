<script lang="ts">
	import type { Verdict } from '@keen-relay/core/judgement';
	import { act } from './api.ts';
	import { can } from './can.ts';
	import LevelMark from './LevelMark.svelte';

	interface Props {
		lineId: number;
		blades: { stroke: 'F' | 'R'; code: string; strokes: number; verdict: Verdict }[];
	}
	let { lineId, blades }: Props = $props();
	let form = $state({ stroke: 'F' as 'F' | 'R', code: '', why: '', nicked: false });
	const NAMES = { F: 'front', R: 'rear' } as const;
	const swaps = $derived(blades.some((b) => b.stroke !== form.stroke && b.code === form.code));

	async function fit(event: SubmitEvent) {
		event.preventDefault();
		const done = await act(
			'PUT',
			`/api/v1/lines/${lineId}/blades`,
			form,
			swaps ? 'Blades swapped' : `${form.code} stands ${NAMES[form.stroke]}`
		);
		if (done) form = { ...form, code: '', why: '', nicked: false };
	}
</script>

<section data-testid="blades">
	<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Blades</h2>
	<table class="rows">
		<tbody>
			{#each ['F', 'R'] as const as stroke (stroke)}
				{@const blade = blades.find((b) => b.stroke === stroke)}
				<tr>
					<td class="w-6"><LevelMark level={blade?.verdict.level ?? 'noData'} /></td>
					<td>{NAMES[stroke]} <span class="figure">{blade?.code ?? '–'}</span></td>
					<td class="text-right text-sm">{blade?.verdict.statement ?? 'nobody said which'}</td>
				</tr>
			{/each}
		</tbody>
	</table>
	<form class="mt-2 grid grid-cols-2 gap-2" onsubmit={fit}>
		<select class="select h-11 w-full border-line bg-sheet" bind:value={form.stroke} aria-label="Holder of the blade"
			><option value="F">front</option><option value="R">rear</option></select
		>
		<input
			class="figure input h-11 w-full border-line bg-sheet"
			bind:value={form.code}
			data-scan
			placeholder="B-07"
			aria-label="Number of the blade"
		/>
		<input
			class="input col-span-2 h-11 w-full border-line bg-sheet"
			bind:value={form.why}
			placeholder="why: worn, a nick, a swap"
			aria-label="Why the blade is fitted"
		/>
		<label class="flex items-center gap-2 text-sm"><input type="checkbox" class="checkbox" bind:checked={form.nicked} />it has a nick</label
		>
		<button class="btn min-h-11 border-line bg-transparent font-normal" disabled={!form.code || !form.why || !can('blade.fit')}
			>{swaps ? 'Swap the two' : 'It stands there now'}</button
		>
	</form>
</section>
