<script lang="ts">
	import { levelWord } from '@keen-relay/core/judgement';
	import LevelMark from './LevelMark.svelte';
	import { working } from './working.svelte.ts';
	import { theirs, say, unitName } from './theirs.svelte.ts';

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
	<div class="modal-box max-h-[88vh] max-w-4xl border border-line bg-sheet p-6 shadow-none">
		{#if working.open}
			{@const verdict = working.open}
			<h2 class="flex items-center gap-3 text-xl font-semibold">
				<LevelMark level={verdict.level} size={22} />
				{levelWord(verdict.level)}. {say(verdict.statement)}
			</h2>
			<table class="rows mt-4">
				<thead>
					<tr><th>Quantity</th><th class="n">Value</th><th>Unit</th><th>Limit</th><th>Where the limit comes from</th></tr>
				</thead>
				<tbody>
					{#each verdict.because as reason, i (i)}
						<tr class="align-top">
							<td>
								{reason.quantity}
								{#if reason.formula}<div class="figure text-sm text-soft">{say(reason.formula)}</div>{/if}
							</td>
							<td class="n">{typeof reason.value === 'number' ? theirs().number(reason.value, reason.unit) : say(reason.value ?? '–')}</td>
							<td>{unitName(reason.unit)}</td>
							<td>{limitIn(reason)}</td>
							<td class="text-sm text-soft">{reason.source}</td>
						</tr>
					{:else}
						<tr><td colspan="5" class="text-soft">Nothing was measured yet, so there is nothing to work out.</td></tr>
					{/each}
				</tbody>
			</table>
		{/if}
		<form method="dialog" class="mt-5 text-right"><button class="btn border-ink bg-transparent">Close</button></form>
	</div>
	<form method="dialog" class="modal-backdrop"><button aria-label="Close">close</button></form>
</dialog>
