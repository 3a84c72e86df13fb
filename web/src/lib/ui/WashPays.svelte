<script lang="ts">
	import { InputError } from '@keen-relay/core/judgement';
	import { washPays } from '@keen-relay/core/printing';
	import NumberField from './NumberField.svelte';
	import { fixed } from './theirs.svelte.ts';

	interface Props {
		/** Deposits outside their limits. */
		fails: number;
	}
	let { fails }: Props = $props();
	/** The plant's own, in its own currency; these are only where to start. */
	let costs = $state({ defectPct: 50, rework: 9, wash: 4, damagePct: 1, board: 80 });
	const FIELDS = [
		['defectPct', 'become defects, %'],
		['rework', 'a rework costs'],
		['wash', 'a wash costs'],
		['damagePct', 'a wash harms, %'],
		['board', 'the panel costs']
	] as const;
	const answer = $derived.by(() => {
		try {
			const defect = { probability: costs.defectPct / 100, reworkCost: costs.rework };
			const { pays, without, withWash } = washPays(
				Array.from({ length: fails }, () => defect),
				costs.wash,
				costs.damagePct / 100,
				costs.board
			);
			return `Printed on: about ${fixed(without, 1)} of rework. Washed: about ${fixed(withWash, 1)}. ${pays ? 'The wash pays.' : 'The wash does not pay; the policy above may still ask for it.'}`;
		} catch (error) {
			if (error instanceof InputError) return error.message;
			throw error;
		}
	});
</script>

<details class="mt-1 text-sm" data-testid="wash-pays">
	<summary class="min-h-11 cursor-pointer py-2">Does a wash pay? {fails} deposits are outside their limits</summary>
	<div class="grid grid-cols-5 gap-2">
		{#each FIELDS as [key, name] (key)}
			<NumberField label={name} bind:value={costs[key]} />
		{/each}
	</div>
	<p class="py-1" aria-live="polite">{answer}</p>
</details>
