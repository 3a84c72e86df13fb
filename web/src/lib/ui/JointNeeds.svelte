<script lang="ts">
	import DataTable from './DataTable.svelte';
	import { bodies } from '$lib/api/bodies.ts';
	import SelectField from './SelectField.svelte';
	import TextField from './TextField.svelte';
	import EntryForm from './EntryForm.svelte';
	import { entry } from './entry.svelte.ts';
	import { untrack } from 'svelte';
	import { z } from 'zod';
	import { InputError } from '@keen-relay/core/judgement';
	import { pasteDensity } from '@keen-relay/core/paste';
	import { pinAreaMm2, pinInPaste } from '@keen-relay/core/stencil';
	import { act } from './api.ts';
	import { can } from './can.ts';
	import NumberField from './NumberField.svelte';
	import { fixed, quantity } from './theirs.svelte.ts';

	interface Props {
		sideId: number;
		needs: { refDes: string; neededMm3: number; why: string }[];
		/** Parts with openings. */
		parts: string[];
		boardMm: number;
		/** Of the paste that the side is printed with. */
		paste: { name: string; metalMassShare: number; metalGPerCm3: number } | null;
	}
	let { sideId, needs, parts, boardMm, paste }: Props = $props();
	let byPin = $state(false);
	let pin = $state<{ holeMm: number | null; round: boolean; aMm: number | null; bMm: number | null; filletsMm3: number }>({
		holeMm: null,
		round: true,
		aMm: null,
		bMm: null,
		filletsMm3: 0.25
	});
	const metalShare = $derived((paste ? pasteDensity(paste.metalMassShare, paste.metalGPerCm3) : pasteDensity()).metalShare);
	const computed = $derived.by(() => {
		const { holeMm, round, aMm, bMm, filletsMm3 } = pin;
		if (!byPin || !holeMm || !aMm || (!round && !bMm)) return null;
		try {
			return { ...pinInPaste(holeMm, pinAreaMm2(aMm, round ? null : bMm), boardMm, filletsMm3, metalShare), problem: '' };
		} catch (error) {
			if (error instanceof InputError) return { metalMm3: 0, pasteMm3: null, problem: error.message };
			throw error;
		}
	});
	/** The pin's need, and why, where a pin is what needs it. */
	const ofPin = $derived(
		byPin && computed?.pasteMm3
			? {
					neededMm3: Number(computed.pasteMm3.toPrecision(5)),
					why: `pin ${pin.aMm}${pin.round ? '' : ` × ${pin.bMm}`} mm in a hole of ${pin.holeMm} mm, ${boardMm} mm board`
				}
			: null
	);
	const startedFrom = (refDes: string) => needs.find((n) => n.refDes === refDes)?.neededMm3 ?? null;
	const takeBack = ({ refDes, why }: (typeof needs)[number]) =>
		act('PUT', `/api/v1/sides/${sideId}/needs`, { refDes, neededMm3: null, why, startedFrom: startedFrom(refDes) }, 'Taken back');
	const { form, errors, enhance, draft } = entry({
		id: 'need',
		schema: bodies.jointNeed
			.omit({ startedFrom: true })
			.extend({ refDes: z.string().min(1, 'choose the part'), neededMm3: bodies.jointNeed.shape.neededMm3.unwrap() }),
		start: () => ({ refDes: '', neededMm3: null, why: '' }),
		method: 'PUT',
		path: () => `/api/v1/sides/${sideId}/needs`,
		body: (need) => ({ ...need, startedFrom: startedFrom(need.refDes) }),
		done: () => 'Need kept',
		draft: { subject: `need-${untrack(() => sideId)}` }
	});
	$effect(() => {
		if (ofPin) form.update((need) => ({ ...need, ...ofPin }));
	});
</script>

<section data-testid="needs">
	<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Joints that need so much paste</h2>
	{#snippet back(need: (typeof needs)[number])}<button class="underline" disabled={!can('openingRules.set')} onclick={() => takeBack(need)}
			>Take back</button
		>{/snippet}
	<DataTable
		small
		whole
		name="joint-needs"
		label="Joints that need more paste"
		rows={needs}
		key={(n) => n.refDes}
		columns={[
			{ id: 'part', title: 'Part', value: (n) => n.refDes },
			{ id: 'why', title: 'Why', value: (n) => n.why },
			{ id: 'needed', title: 'needs, mm³', value: (n) => n.neededMm3, decimals: 3 },
			{ id: 'back', title: '', value: () => null, cell: back }
		]}
		empty="None said: coplanarity of a connector, a pin in paste."
	/>
	<EntryForm {enhance} {draft} label="Need of a joint" class="mt-1 grid grid-cols-2 items-end gap-2">
		<SelectField
			label="Part"
			spoken="Part that needs paste"
			bind:value={$form.refDes}
			errors={$errors.refDes}
			options={parts.map((p) => [p, p])}
			class="h-11"
		/>
		<label class="flex items-center gap-2 text-sm"><input type="checkbox" class="checkbox" bind:checked={byPin} />pin in paste</label>
		{#if byPin}
			<NumberField label="hole, mm" bind:value={pin.holeMm} />
			<label class="text-xs"
				><span class="text-soft">pin</span><select class="select h-11 w-full border-line bg-sheet" bind:value={pin.round}
					><option value={true}>round</option><option value={false}>rectangular</option></select
				></label
			>
			<NumberField label={pin.round ? 'diameter, mm' : 'pin one side, mm'} bind:value={pin.aMm} />
			{#if !pin.round}<NumberField label="other side, mm" bind:value={pin.bMm} />{/if}
			<NumberField label="both fillets, mm³" bind:value={pin.filletsMm3} />
			<p class="col-span-2 text-sm" aria-live="polite">
				{#if computed?.problem}{computed.problem}
				{:else if computed?.pasteMm3}<span class="figure">{quantity(computed.metalMm3, 3, 'mm³')}</span> of metal in {quantity(
						boardMm,
						1,
						'mm'
					)} of board, so
					<span class="figure">{quantity(computed.pasteMm3, 3, 'mm³')}</span> of paste: {fixed(100 * metalShare, 0)} % of the volume of {paste?.name ??
						'a usual paste'} is metal.
				{:else}Hole and pin give what it needs; half of the paste’s volume vanishes in the oven.{/if}
			</p>
		{:else}
			<NumberField label="Paste a joint needs, mm³" bind:value={$form.neededMm3} errors={$errors.neededMm3} />
			<TextField label="Why" spoken="Why it needs it" bind:value={$form.why} errors={$errors.why} class="h-11" />
		{/if}
		<button class="btn col-span-2 min-h-11 border-line bg-transparent font-normal" disabled={(byPin && !ofPin) || !can('openingRules.set')}
			>Say what it needs</button
		>
	</EntryForm>
</section>
