<script lang="ts">
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
	let part = $state('');
	let mm3 = $state<number | null>(null);
	let why = $state('');
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
	const needMm3 = $derived(byPin ? (computed?.pasteMm3 ?? null) : mm3);
	const because = $derived(
		byPin ? `pin ${pin.aMm}${pin.round ? '' : ` × ${pin.bMm}`} mm in a hole of ${pin.holeMm} mm, ${boardMm} mm board` : why
	);
	const keepNeed = (refDes: string, neededMm3: number | null, reason: string) =>
		act(
			'PUT',
			`/api/v1/sides/${sideId}/needs`,
			{ refDes, neededMm3, why: reason, startedFrom: needs.find((n) => n.refDes === refDes)?.neededMm3 ?? null },
			neededMm3 === null ? 'Taken back' : 'Need kept'
		);
</script>

<section data-testid="needs">
	<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Joints that need so much paste</h2>
	<table class="rows text-sm">
		<tbody
			>{#each needs as n (n.refDes)}<tr
					><td>{n.refDes}: {n.why}</td><td class="n whitespace-nowrap">{quantity(n.neededMm3, 3, 'mm³')}</td><td
						><button class="underline" disabled={!can('openingRules.set')} onclick={() => keepNeed(n.refDes, null, n.why)}>Take back</button
						></td
					></tr
				>{:else}<tr><td class="text-soft">None said: coplanarity of a connector, a pin in paste.</td></tr>{/each}</tbody
		>
	</table>
	<form
		class="mt-1 grid grid-cols-2 gap-2"
		onsubmit={(event) => {
			event.preventDefault();
			void keepNeed(part, Number(needMm3!.toPrecision(5)), because);
		}}
	>
		<select class="select h-11 w-full border-line bg-sheet" bind:value={part} aria-label="Part that needs paste"
			><option value="">part</option>{#each parts as p (p)}<option>{p}</option>{/each}</select
		>
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
			<NumberField
				bare
				label="Paste a joint needs, mm³"
				class="h-11 w-full"
				step="any"
				bind:value={mm3}
				placeholder="mm³ a joint"
				min={-Infinity}
			/>
			<input class="input h-11 w-full border-line bg-sheet" bind:value={why} placeholder="why" aria-label="Why it needs it" />
		{/if}
		<button
			class="btn col-span-2 min-h-11 border-line bg-transparent font-normal"
			disabled={!part || !needMm3 || !because || !can('openingRules.set')}>Say what it needs</button
		>
	</form>
</section>
