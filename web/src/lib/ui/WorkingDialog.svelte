<script lang="ts">
	import DataTable from './DataTable.svelte';
	import { levelWord, type Verdict } from '@keen-relay/core/judgement';
	import LevelMark from './LevelMark.svelte';
	import { working } from './working.svelte.ts';
	import { theirs, say, unitName } from './theirs.svelte.ts';

	type Reason = Verdict['because'][number];
	/** A limit that is figures alone is in the unit of its value. */
	const limitIn = ({ limit, unit }: { limit?: string | null; unit: string }): string => {
		if (!limit) return 'informs only';
		return say(
			unitName(unit) === unit || limit.includes(` ${unit}`) ? limit : limit.replace(/(?<![\w.])\d+(?:\.\d+)?(?![\w.])/g, `$& ${unit}`)
		);
	};

	let dialog: HTMLDialogElement | undefined = $state();
	// A dialog opens only through its method; the state says when.
	$effect(() => {
		if (working.open && !dialog?.open) dialog?.showModal();
		if (!working.open && dialog?.open) dialog.close();
	});
</script>

<dialog bind:this={dialog} class="modal" onclose={() => working.close()} aria-label="Working">
	<div class="modal-box max-h-[88vh] max-w-4xl border border-line bg-sheet px-6 pt-6 pb-0 shadow-none">
		{#if working.open}
			{@const verdict = working.open}
			<h2 class="flex items-center gap-3 text-xl font-semibold">
				<LevelMark level={verdict.level} size={22} />
				{levelWord(verdict.level)}. {say(verdict.statement)}
			</h2>
			<div class="mt-4">
				{#snippet quantity(reason: Reason)}{reason.quantity}
					{#if reason.formula}<div class="figure text-soft">{say(reason.formula)}</div>{/if}{/snippet}
				<DataTable
					whole
					small
					name="working"
					label="What it rests on"
					rows={verdict.because.map((reason, at) => ({ ...reason, at }))}
					key={({ at }) => at}
					columns={[
						{ id: 'quantity', title: 'Quantity', value: (r) => r.quantity, cell: quantity },
						{
							id: 'value',
							title: 'Value',
							value: (r) => r.value,
							words: (r) => (typeof r.value === 'number' ? theirs().number(r.value, r.unit) : (r.value ?? '–')),
							figures: true
						},
						{ id: 'unit', title: 'Unit', value: (r) => unitName(r.unit) },
						{ id: 'limit', title: 'Limit', value: limitIn },
						{ id: 'source', title: 'Where the limit comes from', value: (r) => r.source, class: 'text-soft' }
					]}
					empty="Nothing was measured yet, so there is nothing to work out."
				/>
			</div>
		{/if}
		<form method="dialog" class="sticky bottom-0 bg-sheet py-4 text-right">
			<button class="btn border-ink bg-transparent">Close</button>
		</form>
	</div>
	<form method="dialog" class="modal-backdrop"><button aria-label="Close">close</button></form>
</dialog>
