<script lang="ts">
	import { noData, type Verdict } from '@keen-relay/core/judgement';
	import { can } from '$lib/ui/can.ts';
	import Caution from '$lib/ui/Caution.svelte';
	import DataTable from '$lib/ui/DataTable.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import PasteForm, { FLUX, STIR } from './PasteForm.svelte';

	let { data } = $props();
	let editing = $state<number | 'new' | null>(null);

	type Paste = (typeof data.pastes)[number];
	const rulesOf = (p: Paste) => ({ ...data.common, ...p.rules });
	const verdict = $derived<Verdict>(
		data.pastes.length
			? { level: 'good', statement: `${data.pastes.length} pastes with what their makers say of them.`, because: [], doNext: [] }
			: noData('No paste yet.', ['Enter the first one with its data sheet beside you'])
	);
</script>

<StationFrame {verdict}>
	{#snippet about()}An empty field means common practice, which stands in grey; the maker’s data sheet outranks it.{/snippet}
	{#snippet bar()}
		<button
			class="btn ml-auto min-h-11 border-line bg-transparent font-normal"
			disabled={!can('paste.define')}
			onclick={() => (editing = 'new')}>New paste</button
		>
	{/snippet}
	{#snippet picture()}
		<div class="h-full">
			{#snippet named(p: Paste)}<button class="text-left underline" onclick={() => (editing = p.id)}>{p.name}</button>{#if p.wash}<br
					/><span class="text-sm text-soft">wash: {p.wash}</span>{/if}{/snippet}
			<DataTable
				name="pastes"
				label="Pastes"
				testid="pastes"
				rows={data.pastes}
				key={(p) => p.id}
				picked={(p) => editing === p.id}
				columns={[
					{ id: 'paste', title: 'Paste', value: (p) => p.name, cell: named },
					{ id: 'number', title: 'Number', value: (p) => p.partNumber, class: 'figure' },
					{ id: 'alloy', title: 'Alloy', value: (p) => p.alloy },
					{ id: 'powder', title: 'Powder', value: (p) => p.powder },
					{ id: 'flux', title: 'Flux', value: (p) => (p.fluxClass ? FLUX[p.fluxClass] : '') },
					{ id: 'life', title: 'stencil, h', value: (p) => rulesOf(p).stencilLifeH, figures: true },
					{
						id: 'oven',
						title: 'to oven, h',
						value: (p) => rulesOf(p).reflowActH,
						words: (p) => `${rulesOf(p).reflowActH} / ${rulesOf(p).reflowStopH}`,
						figures: true
					},
					{ id: 'stirred', title: 'Stirred', value: (p) => STIR[rulesOf(p).stir] }
				]}
				empty="No paste yet. Enter the first one with its data sheet beside you."
			/>
		</div>
	{/snippet}
	{#snippet side()}
		{#if editing !== null}
			{#key editing}<PasteForm
					of={data.pastes.find((p) => p.id === editing) ?? null}
					common={data.common}
					onkept={() => (editing = null)}
				/>{/key}
		{:else}
			<p class="text-soft">Choose a paste to see or change what its maker says of it.</p>
		{/if}
		<p class="text-sm text-soft">
			Where plants differ: an opened jar goes back to the fridge never, or once; the mixer is for warm paste only; a top-up does not start
			the stencil’s clock anew here, the oldest gram governs, because it stays in the bead: the mean age of a topped-up bead stands beside
			it on Jars.
		</p>
		<Caution
			text="Paste may contain lead; its flux irritates skin and lungs. The maker’s data and safety sheets come before these values."
		/>
	{/snippet}
</StationFrame>
