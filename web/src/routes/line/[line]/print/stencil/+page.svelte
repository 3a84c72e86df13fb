<script lang="ts">
	import DataTable from '$lib/ui/DataTable.svelte';
	import { untrack } from 'svelte';
	import { InputError, noData } from '@keen-relay/core/judgement';
	import {
		AREA_RATIO_LIMIT,
		asMade,
		checkStencil,
		MOST_TAPER_UM,
		OWN_LIMIT,
		STOCK_FOILS_MM,
		withOwnLimits,
		type StencilCheck,
		type Wall
	} from '@keen-relay/core/stencil';
	import { namedOpenings } from '@keen-relay/core/boards';
	import { bodies } from '$lib/api/bodies.ts';
	import { can } from '$lib/ui/can.ts';
	import BoardDrawing from '$lib/ui/BoardDrawing.svelte';
	import Caution from '$lib/ui/Caution.svelte';
	import DraftOffer from '$lib/ui/DraftOffer.svelte';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import { drawnParts, loadGeometry, type SideGeometry } from '$lib/ui/geometry.ts';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import { same } from '$lib/ui/same.ts';
	import SideChoice from '$lib/ui/SideChoice.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import { working } from '$lib/ui/working.svelte.ts';
	import { theirs, figure, fixed, quantity, titled, unitName } from '$lib/ui/theirs.svelte.ts';
	import NumberField from '$lib/ui/NumberField.svelte';

	let { data } = $props();
	let geometry = $state.raw<SideGeometry | null>(null);
	let problem = $state('');
	// Starts from what is released; an edit shows its consequence before anything is kept.
	const { form, enhance, draft, errors } = entry({
		id: 'stencil',
		schema: bodies.stencil,
		start: () => ({
			sideId: data.side?.id ?? 0,
			foilUm: data.stencil?.foilUm ?? 100,
			wall: data.stencil?.wall ?? 'laser',
			taperUm: data.stencil?.taperUm ?? null,
			ownLimits: { ...data.stencil?.ownLimits },
			startedFrom: data.stencil?.revision ?? null
		}),
		follows: true,
		path: '/api/v1/stencils',
		done: ({ foilUm }) => `Stencil of ${foilUm} µm released`,
		draft: {
			subject: untrack(() => `stencil.${data.side?.id ?? 0}`),
			base: () => (data.stencil ? `stencil ${data.stencil.revision}` : 'no stencil')
		}
	});
	const foilUm = $derived($form.foilUm);
	const wall = $derived($form.wall as Wall);
	const taperUm = $derived($form.taperUm ?? null);
	const ownLimits = $derived($form.ownLimits ?? {});
	let selected = $state<number | null>(null);

	$effect(() => {
		if (data.side)
			loadGeometry(data.side.id).then(
				(g) => (geometry = g),
				(e: Error) => (problem = e.message)
			);
	});

	const openings = $derived(
		geometry ? withOwnLimits(asMade(namedOpenings(geometry.apertures), { taperUm, factors: data.factors[wall] ?? [] }), ownLimits) : []
	);
	function setOwnLimit(i: number, value: number | null) {
		const { [i]: _before, ...others } = ownLimits;
		$form.ownLimits = value === null ? others : { ...others, [i]: value };
	}
	const checked: { check: StencilCheck | null; refusal: string } = $derived.by(() => {
		try {
			return { check: openings.length ? checkStencil(openings, foilUm / 1000, wall, data.model) : null, refusal: '' };
		} catch (error) {
			if (error instanceof InputError)
				return {
					check: null,
					refusal:
						error.path === 'taperUm'
							? `A taper of ${taperUm} µm is no taper: 0 to ${MOST_TAPER_UM} µm, or leave it empty.`
							: error.path.includes('areaRatioLimit')
								? `An area ratio of an opening’s own lies between ${OWN_LIMIT.least} and ${OWN_LIMIT.most}.`
								: !Number.isFinite(foilUm)
									? 'Type the foil’s thickness: 30 to 300 µm are possible.'
									: `A foil of ${foilUm} µm cannot be checked: 30 to 300 µm are possible.`
				};
			throw error;
		}
	});
	const check = $derived(checked.check);
	const verdict = $derived(check?.verdict ?? noData(checked.refusal || problem || (data.side ? 'Reading the openings…' : 'No board yet.')));
	working.offer(() => verdict);
	const COLOUR = { pass: 'good', marginal: 'watch', fail: 'act' } as const;
	const colourOf = $derived.by(() => {
		const forecasts = check?.forecasts ?? [];
		return (i: number) => COLOUR[forecasts[i]?.result ?? 'pass'];
	});
	const design = $derived({ foilUm, wall, taperUm, ownLimits });
	const releasedDesign = $derived(
		data.stencil && {
			foilUm: data.stencil.foilUm,
			wall: data.stencil.wall,
			taperUm: data.stencil.taperUm,
			ownLimits: data.stencil.ownLimits
		}
	);
	const changed = $derived(!same(design, releasedDesign));
	const allowed = $derived(data.side && can('stencil.release'));
	const parts = $derived(geometry ? drawnParts(geometry.parts) : []);
	/** The openings with the least room, the nearest first. */
	const nearest = $derived(
		(check?.ranking ?? []).slice(0, 10).map((i) => {
			const forecast = check!.forecasts[i]!;
			return { i, name: openings[i]!.name, forecast, ratio: forecast.ruledBy === 'area' ? forecast.areaRatio : forecast.aspectRatio };
		})
	);
	type Near = (typeof nearest)[number];
</script>

<StationFrame {verdict}>
	{#snippet about()}
		{#if check}{openings.length} openings: {check.counts.pass} pass, {check.counts.marginal} close to the limit, {check.counts.fail} fail.
			{#if check.workingFoilsMm.length}Stock foils that work: {check.workingFoilsMm.map((mm) => figure(mm * 1000, 0, 'µm')).join(', ')}
				{unitName('µm')}.{/if}{/if}
	{/snippet}
	{#snippet bar()}
		{#if draft}<DraftOffer {draft} />{/if}
		<SideChoice sides={data.sides} sideId={data.side?.id ?? null} />
	{/snippet}
	{#snippet picture()}
		{#if geometry && check}
			<BoardDrawing
				widthMm={geometry.widthMm}
				heightMm={geometry.heightMm}
				pads={geometry.apertures}
				{parts}
				{colourOf}
				{selected}
				onpick={(i) => (selected = i)}
				label="Openings of the stencil, coloured by their ratio"
			/>
		{/if}
	{/snippet}
	{#snippet side()}
		<EntryForm {enhance} label="Stencil" class="flex flex-col gap-4">
			<div class="flex items-end gap-3">
				<label class="flex flex-1 flex-col gap-1">
					<span class="text-sm text-soft">{titled('Foil, µm')}</span>
					<NumberField bare label="Foil, µm" class="h-16 w-full text-3xl" min={30} max={300} step={1} bind:value={$form.foilUm} />
				</label>
				<button type="button" class="btn h-12 border-ink bg-transparent px-4" onclick={() => working.show(verdict)}
					>Working <kbd class="kbd kbd-sm">w</kbd></button
				>
			</div>
			<div class="flex gap-3">
				{#each STOCK_FOILS_MM as mm (mm)}
					<button
						type="button"
						class="btn h-11 flex-1 border-line px-0 {foilUm === mm * 1000 ? 'border-2 border-copper bg-paper' : 'bg-sheet'}"
						onclick={() => ($form.foilUm = Math.round(mm * 1e4) / 10)}
					>
						<span class="figure">{theirs().inField(Math.round(mm * 1e4) / 10, 'µm')}</span>
					</button>
				{/each}
			</div>
			<label class="flex items-center justify-between gap-2">
				<span class="text-sm text-soft">Walls</span>
				<select class="select h-11 border-line bg-sheet" bind:value={$form.wall} aria-label="Walls">
					{#each Object.entries(AREA_RATIO_LIMIT) as [key, { name, limit }] (key)}<option value={key}>{name}, {limit}</option>{/each}
				</select>
			</label>
			<label class="flex items-center justify-between gap-2">
				<span class="text-sm text-soft">{titled('Taper, µm')} wider at the board side</span>
				<NumberField
					bare
					label="Taper, µm"
					class="h-11 w-28"
					min={0}
					max={MOST_TAPER_UM}
					step={0.5}
					placeholder="not known"
					bind:value={$form.taperUm}
					errors={$errors.taperUm}
					hint="Over the whole width of an opening; laser-cut walls have 2 to 10 µm. Volumes go by the mean of both sides; left empty, the walls count as straight."
				/>
			</label>
			{#if check}
				<button class="btn min-h-16 text-lg btn-primary" disabled={!allowed || !changed}>
					{changed ? `Release ${quantity(foilUm, 0, 'µm')}` : `Stencil ${data.stencil?.revision} is released`}
				</button>
				{#if !allowed}<p class="text-sm text-soft">An engineer or lead releases stencils.</p>{/if}
			{/if}
		</EntryForm>
		{#if check}
			<section>
				<h2 class="text-sm font-semibold text-soft">Nearest to the limit</h2>
				{#snippet mark({ forecast }: Near)}<LevelMark level={COLOUR[forecast.result]} />{/snippet}
				{#snippet named({ i, name }: Near)}<button class="text-left" onclick={() => (selected = i)}>{name}</button>{/snippet}
				<DataTable
					small
					whole
					name="openings-near-the-limit"
					label="Openings nearest to the limit"
					testid="worst-openings"
					rows={nearest}
					key={({ i }) => i}
					onpick={({ i }) => (selected = i)}
					picked={({ i }) => i === selected}
					columns={[
						{ id: 'mark', title: '', value: () => null, cell: mark, class: 'w-6' },
						{ id: 'opening', title: 'Opening', value: ({ name }) => name, cell: named },
						{ id: 'ratio', title: 'ratio', value: ({ ratio }) => ratio, decimals: 3 },
						{ id: 'volume', title: 'nL', value: ({ forecast }) => forecast.volumeNl, decimals: 2 },
						{ id: 'to', title: 'to, µm', value: ({ forecast }) => Math.floor(forecast.thickestMm * 1000), decimals: 0 }
					]}
					empty="No opening."
				/>
				{#if selected !== null && check.forecasts[selected]}
					{@const f = check.forecasts[selected]!}
					{@const o = openings[selected]!}
					<p class="mt-2 text-sm">
						<strong>{o.name}</strong>: <span class="figure">{figure(o.widthMm, 3, 'mm')} × {quantity(o.lengthMm, 3, 'mm')}</span>, area
						ratio
						<span class="figure">{fixed(f.areaRatio, 3)}</span>, aspect <span class="figure">{fixed(f.aspectRatio, 2)}</span>, about
						<span class="figure">{fixed(f.deliveredNl, 2)} nL</span> delivered (model, ±{fixed(f.cvPct, 0)} %).
					</p>
					<label class="mt-2 flex items-center justify-between gap-2 text-sm">
						<span class="text-soft">Its own least area ratio, where a trial has shown one</span>
						<NumberField
							bare
							label="Least area ratio of this opening"
							class="h-11 w-24"
							min={OWN_LIMIT.least}
							max={OWN_LIMIT.most}
							step={0.01}
							placeholder={String(AREA_RATIO_LIMIT[wall].limit)}
							value={ownLimits[selected] ?? null}
							onvalue={(v) => setOwnLimit(selected!, v)}
						/>
					</label>
				{/if}
			</section>
		{/if}
		<Caution text="Foil edges cut; solvents for cleaning burn and irritate." />
	{/snippet}
</StationFrame>
