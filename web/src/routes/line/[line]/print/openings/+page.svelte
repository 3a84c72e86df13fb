<script lang="ts">
	import DataTable from '$lib/ui/DataTable.svelte';
	import { combine, noData } from '@keen-relay/core/judgement';
	import { PAD_CLASS_NAMES, PAD_CLASSES, type PadClass } from '@keen-relay/core/parts';
	import { judgePowder, suggestPowder } from '@keen-relay/core/paste';
	import {
		AREA_RATIO_LIMIT,
		STOCK_FOILS_MM,
		turningAreaRatio,
		wallModel,
		WALLS,
		type OpeningRule,
		type StencilRules,
		type Wall
	} from '@keen-relay/core/stencil';
	import type { JudgedOpenings, OpeningsTask } from '@keen-relay/core/stencil';
	import { openingNames } from '@keen-relay/core/boards';
	import { bodies } from '$lib/api/bodies.ts';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import BoardDrawing from '$lib/ui/BoardDrawing.svelte';
	import Caution from '$lib/ui/Caution.svelte';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import { loadGeometry, type SideGeometry } from '$lib/ui/geometry.ts';
	import JointNeeds from '$lib/ui/JointNeeds.svelte';
	import OpeningCurves from '$lib/ui/OpeningCurves.svelte';
	import { same } from '$lib/ui/same.ts';
	import SideChoice from '$lib/ui/SideChoice.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import { working } from '$lib/ui/working.svelte.ts';
	import { judgeInWorker } from '$lib/workers/openings.ts';
	import TextField from '$lib/ui/TextField.svelte';
	import { figure, fixed, quantity, say, titled } from '$lib/ui/theirs.svelte.ts';
	import NumberField from '$lib/ui/NumberField.svelte';

	let { data } = $props();
	/** What a rule is made of, each with its unit. */
	const KEY_WORDS: Partial<Record<string, string>> = {
		widthPct: 'width −%',
		lengthPct: 'length −%',
		pointShare: 'point share',
		radiusShare: 'radius share',
		coverage: 'open share',
		marginMm: 'margin, mm',
		overMm: 'if over, mm'
	};
	let geometry = $state.raw<SideGeometry | null>(null);
	const { form, enhance, draft, errors } = entry({
		id: 'opening-rules',
		schema: bodies.openingRules,
		start: () => ({ rules: structuredClone(data.rules), note: '', startedFrom: data.revision }),
		follows: true,
		method: 'PUT',
		path: '/api/v1/opening-rules',
		done: () => 'Rules kept',
		draft: { subject: 'opening-rules', base: () => (data.revision ? `revision ${data.revision}` : 'the rules to start from') }
	});
	let selected = $state<number | null>(null);
	let view = $state<'layer' | 'transfer' | 'foil' | 'alternatives'>('layer');
	$effect(() => {
		const id = data.side?.id;
		if (id)
			loadGeometry(id).then(
				(g) => (geometry = g),
				() => (geometry = null)
			);
	});
	const KINDS: [OpeningRule['kind'], string][] = [
		['asDrawn', 'as drawn'],
		['reduce', 'reduced'],
		['homePlate', 'point to the part'],
		['invertedHomePlate', 'notch to the part'],
		['roundedSquare', 'rounded square'],
		['windows', 'windows']
	];
	const FOILS_MM = Array.from({ length: 81 }, (_, i) => 0.06 + i * 0.0015);
	const START: Record<OpeningRule['kind'], OpeningRule> = {
		asDrawn: { kind: 'asDrawn' },
		reduce: { kind: 'reduce', widthPct: 5, lengthPct: 5 },
		homePlate: { kind: 'homePlate', pointShare: 0.35 },
		invertedHomePlate: { kind: 'invertedHomePlate', pointShare: 0.3 },
		roundedSquare: { kind: 'roundedSquare', radiusShare: 0.2 },
		windows: { kind: 'windows', coverage: 0.6, marginMm: 0.1, overMm: 3 }
	};
	const foilMm = $derived((data.stencil?.foilUm ?? 100) / 1000);
	const wall = $derived<Wall>(data.stencil?.wall ?? 'laser');
	const names = $derived(geometry ? openingNames(geometry.apertures) : []);
	let answered = $state.raw<{ sideId: number; judged: JudgedOpenings } | null>(null);
	/** Holds while the same side is read anew, so that news of the boards leaves no gap. */
	const answer = $derived(answered && answered.sideId === data.side?.id ? answered.judged : null);
	let judge: ReturnType<typeof judgeInWorker> | null = $state.raw(null);
	$effect(() => {
		if (!geometry) return;
		const { sideId, apertures } = geometry;
		const own = judgeInWorker(apertures, names, (judged) => (answered = { sideId, judged }));
		judge = own;
		return () => own.end();
	});
	$effect(() => {
		const task: OpeningsTask = {
			rules: structuredClone($form.rules) as StencilRules,
			needs: data.needs.map(({ refDes, neededMm3 }) => ({ refDes, neededMm3 })),
			lowPct: data.lowPct,
			foilMm,
			wall,
			model: data.model,
			taperUm: data.stencil?.taperUm ?? null,
			factors: data.factors,
			measured: data.measured,
			view,
			foilsMm: FOILS_MM,
			selected: view === 'foil' ? selected : null
		};
		judge?.ask(task);
	});
	const judged = $derived(answer?.openings.length ? answer : null);
	const colourOf = $derived.by(() => {
		const results = judged?.results ?? [];
		return (i: number) => COLOUR[results[i] ?? 'pass'];
	});
	const effects = $derived(new Map(judged?.effects.map((e) => [e.padClass, e])));
	const powder = $derived(
		judged && data.paste?.powder && judged.narrowestUm !== null
			? judgePowder(data.paste.powder, { slotUm: judged.narrowestUm, circleUm: judged.narrowestCircleUm })
			: null
	);
	const verdict = $derived(
		answer ? combine([answer.verdict, ...(powder ? [powder] : [])]) : noData(data.side ? 'Reading the openings…' : 'No board yet.')
	);
	working.offer(() => verdict);
	const parts = $derived([...new Set((geometry?.apertures ?? []).flatMap((a) => (a.refDes ? [a.refDes] : [])))].sort());
	const stepRings = $derived(
		(judged?.boxes ?? []).map(({ minX, minY, maxX, maxY }) => [
			{ x: minX, y: minY },
			{ x: maxX, y: minY },
			{ x: maxX, y: maxY },
			{ x: minX, y: maxY }
		])
	);
	const changed = $derived(!same($form.rules, data.rules));
	const COLOUR = { pass: 'good', marginal: 'watch', fail: 'act' } as const;
	type Alternative = NonNullable<typeof judged>['alternatives'][number];
	type Alternatives = { on: Wall; own: Alternative[] };
	const sayStep = (step: Alternative | undefined) =>
		step ? `${figure(1000 * step.foilMm, 0, 'µm')} to ${quantity(1000 * step.stepMm!, 0, 'µm')}: ${sayShort(step.shortPads)}` : '–';
	const sayShort = (pads: number) => (pads < 0.05 ? '< 0.1' : pads < 100 ? fixed(pads, 1) : fixed(pads, 0));
	const turning = $derived(turningAreaRatio(wallModel(wall, data.model)));
</script>

<StationFrame {verdict}>
	{#snippet about()}
		{#if judged && judged.narrowestUm !== null}{judged.openings.length} openings under {changed ? 'these' : 'the plant’s'} rules{data.revision
				? `, revision ${data.revision}`
				: ''}. Coarsest powder: {suggestPowder(judged.narrowestUm) ?? 'none'} by five balls across {quantity(
				judged.narrowestUm,
				0,
				'µm'
			)}{#if judged.narrowestCircleUm !== null},
				{suggestPowder(judged.narrowestCircleUm, 'circle', 'eight') ?? 'none'} by eight across the circle of {quantity(
					judged.narrowestCircleUm,
					0,
					'µm'
				)}{/if}{#if data.paste?.powder}; printed with {data.paste.powder}{/if}.{/if}
	{/snippet}
	{#snippet bar()}<SideChoice sides={data.sides} sideId={data.side?.id ?? null} />
	{/snippet}
	{#snippet picture()}
		{#if view === 'alternatives'}
			<div class="h-full overflow-y-auto" role="group" aria-label="Pads expected short">
				<p class="pb-2 text-soft">
					Pads with too little paste expected in 1000 panels (model), ● where every opening keeps its ratio and every joint gets its paste
				</p>
				<DataTable
					whole
					name="alternatives"
					label="Foils and walls"
					testid="alternatives"
					rows={WALLS.map((on) => ({ on, own: (judged?.alternatives ?? []).filter((a) => a.wall === on) }))}
					key={({ on }) => on}
					rowClass={({ on }) => (on === wall ? 'font-semibold' : '')}
					columns={[
						{ id: 'walls', title: 'Walls', value: ({ on }) => AREA_RATIO_LIMIT[on].name },
						...STOCK_FOILS_MM.map((mm) => {
							const at = ({ own }: Alternatives) => own.find((a) => a.stepMm === null && a.foilMm === mm);
							return {
								id: `foil-${1000 * mm}`,
								title: quantity(1000 * mm, 0, 'µm'),
								value: (row: Alternatives) => at(row)?.shortPads,
								words: (row: Alternatives) => `${at(row)?.works ? '● ' : ''}${at(row) ? sayShort(at(row)!.shortPads) : ''}`,
								figures: true
							};
						}),
						{
							id: 'step',
							title: 'with a step',
							value: ({ own }) => own.find((a) => a.stepMm !== null)?.shortPads,
							words: ({ own }) => sayStep(own.find((a) => a.stepMm !== null)),
							figures: true
						}
					]}
					empty="None."
				/>
			</div>
		{:else if view === 'foil' && !data.measured}
			<p class="border border-dashed border-(color:--none) p-8 text-soft">
				No data. No area ratio was measured yet: fit the curve to a run, or open a board whose run has pad readings.
			</p>
		{:else if view !== 'layer'}
			<OpeningCurves
				{view}
				model={wallModel(wall, data.model)}
				groups={data.groups}
				openings={judged?.critical ?? []}
				foilsMm={FOILS_MM}
				{foilMm}
			/>
		{:else if geometry && judged}
			<BoardDrawing
				widthMm={geometry.widthMm}
				heightMm={geometry.heightMm}
				under={stepRings}
				pads={judged.openings}
				{colourOf}
				{selected}
				onpick={(i) => (selected = i)}
				label="Openings under the rules, coloured by the web of foil beside them"
			/>
		{/if}
	{/snippet}
	{#snippet side()}
		<select class="select h-11 w-full border-line bg-sheet" bind:value={view} aria-label="Shown"
			><option value="layer">openings, by their webs</option><option value="transfer">paste delivered, by area ratio</option><option
				value="foil">paste delivered, by foil</option
			><option value="alternatives">pads expected short, by foil and walls</option></select
		>
		<EntryForm {enhance} {draft} id="opening-rules" label="Rules by class">
			<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Rules by class</h2>
			{#each PAD_CLASSES as c (c)}
				{@const rule = $form.rules[c]!}
				{@const effect = effects.get(c)}
				<div class="border-b border-hair py-1.5 text-sm">
					<div class="flex items-center justify-between gap-2">
						<span>{PAD_CLASS_NAMES[c]}</span>
						<select
							class="select h-10 w-44 border-line bg-sheet"
							value={rule.kind}
							onchange={(e) => ($form.rules[c as PadClass] = structuredClone(START[e.currentTarget.value as OpeningRule['kind']]))}
							aria-label="Rule for {PAD_CLASS_NAMES[c]}"
							>{#each KINDS as [kind, name] (kind)}<option value={kind}>{name}</option>{/each}</select
						>
					</div>
					{#if rule.kind !== 'asDrawn'}
						<div class="mt-1 flex gap-2">
							{#each Object.keys(rule).filter((k) => k !== 'kind') as key (key)}
								<label class="text-xs"
									><span class="text-soft">{titled(KEY_WORDS[key] ?? key)}</span><NumberField
										bare
										label={KEY_WORDS[key] ?? key}
										class="h-9 w-full"
										step={key.endsWith('Pct') ? 1 : 0.05}
										bind:value={($form.rules[c as PadClass] as unknown as Record<string, number>)[key]}
										min={-Infinity}
									/></label
								>
							{/each}
						</div>
						{#if effect && Math.abs(effect.cutNl - effect.drawnNl) > 1e-9}<p class="pt-1 text-xs text-soft">
								{names[effect.opening]}, as drawn
								<span class="figure">{fixed(effect.drawnNl, 2)} nL ±{fixed(effect.drawnCvPct, 0)} %</span>, now
								<span class="figure">{fixed(effect.cutNl, 2)} nL ±{fixed(effect.cutCvPct, 0)} %</span> (model)
							</p>{/if}
					{/if}
				</div>
			{/each}
		</EntryForm>
		{#if data.side}<JointNeeds
				sideId={data.side.id}
				needs={data.needs}
				{parts}
				boardMm={data.side.build.thicknessMm}
				paste={data.paste}
			/>{/if}
		{#if judged}
			<p class="text-sm">
				<span class="figure">{sayShort(judged.shortPads)}</span> pads expected short in 1000 panels at {quantity(foilMm * 1000, 0, 'µm')} (model).
				{#if turning && data.groups.some((g) => g.areaRatio < turning)}Below an area ratio of {fixed(turning, 2)} this plant’s curve delivers
					less from a thicker foil.{/if}
			</p>
		{/if}
		<TextField label="Why, for the record" form="opening-rules" class="h-11" bind:value={$form.note} errors={$errors.note} />
		<button class="btn min-h-16 text-lg btn-primary" disabled={!changed || !can('openingRules.set') || !judged} form="opening-rules"
			>{changed ? 'Keep these rules' : 'These rules are kept'}</button
		>
		{#if data.side}
			<div class="grid grid-cols-3 gap-2">
				<a class="btn min-h-12 border-line bg-transparent px-1 font-normal" target="_blank" href="/sheets/stencil-order?side={data.side.id}"
					>Order sheet</a
				>
				<a class="btn min-h-12 border-line bg-transparent px-1 font-normal" href="/api/v1/sides/{data.side.id}/openings" download>Layer</a>
				<a class="btn min-h-12 border-line bg-transparent px-1 font-normal" href="/api/v1/sides/{data.side.id}/openings?as=csv" download
					>Table</a
				>
			</div>
		{/if}
		<button
			class="btn min-h-12 border-ink bg-transparent"
			disabled={!data.runId || data.groups.length === 0 || !can('transfer.fit')}
			onclick={() => act('POST', '/api/v1/transfer-fits', { runId: data.runId }, 'Curve fitted and kept')}>Fit the curve to this run</button
		>
		{#if data.fit}<p class="text-sm text-soft">Curve {data.fit.revision}: {say(data.fit.fit.statement)}</p>{/if}
		<section data-testid="factors">
			<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">This wall and paste beside the plant’s curve</h2>
			<DataTable
				small
				whole
				name="transfer-factors"
				label="Shapes beside the plant’s curve"
				rows={data.factors[wall] ?? []}
				key={(f) => f.shape}
				columns={[
					{ id: 'shape', title: 'Shape', value: (f) => f.shape },
					{ id: 'factor', title: 'factor', value: (f) => f.factor, decimals: 3 },
					{ id: 'pads', title: 'pads', value: (f) => f.pads, figures: true }
				]}
				empty="No curve was fitted with this wall and paste: × 1."
			/>
			<p class="text-sm text-soft">
				Each shape’s own share, drawn towards the curve where few pads speak (n/(n + 200)); the forecast uses it.
			</p>
		</section>
		<p class="text-sm text-soft">
			A pin is named where the layer’s attributes, a netlist or a land pattern confirmed on <a class="underline" href="/boards/packages"
				>Packages</a
			>
			say so. Elsewhere the openings of a part are counted in the order of the file, which every export of the same layer keeps.
		</p>
		<Caution text="Foil edges cut." />
	{/snippet}
</StationFrame>
