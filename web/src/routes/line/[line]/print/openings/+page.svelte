<script lang="ts">
	import { untrack } from 'svelte';
	import { combine, InputError, noData, type Verdict } from '@keen-relay/core/judgement';
	import { PAD_CLASS_NAMES, PAD_CLASSES, type PadClass } from '@keen-relay/core/parts';
	import { suggestPowder } from '@keen-relay/core/paste';
	import {
		applyRules,
		chooseFoil,
		expectedShortPads,
		judgeStepArea,
		judgeWeb,
		stepArea,
		STOCK_FOILS_MM,
		transferEfficiency,
		turningAreaRatio,
		websOf,
		withNeeds,
		type OpeningRule,
		type StencilRules
	} from '@keen-relay/core/stencil';
	import { openingNames } from '$lib/model/openings.ts';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import BoardDrawing from '$lib/ui/BoardDrawing.svelte';
	import Caution from '$lib/ui/Caution.svelte';
	import Chart, { type Palette } from '$lib/ui/Chart.svelte';
	import { axis } from '$lib/ui/chart-parts.ts';
	import { loadGeometry, type SideGeometry } from '$lib/ui/geometry.ts';
	import { same } from '$lib/ui/same.ts';
	import PrintTabs from '$lib/ui/PrintTabs.svelte';
	import SideChoice from '$lib/ui/SideChoice.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import { working } from '$lib/ui/working.svelte.ts';

	let { data } = $props();
	let geometry = $state.raw<SideGeometry | null>(null);
	let rules = $state<StencilRules>(untrack(() => structuredClone(data.rules)));
	let selected = $state<number | null>(null);
	let view = $state<'layer' | 'transfer'>('layer');
	let note = $state('');
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
	const START: Record<OpeningRule['kind'], OpeningRule> = {
		asDrawn: { kind: 'asDrawn' },
		reduce: { kind: 'reduce', widthPct: 5, lengthPct: 5 },
		homePlate: { kind: 'homePlate', pointShare: 0.35 },
		invertedHomePlate: { kind: 'invertedHomePlate', pointShare: 0.3 },
		roundedSquare: { kind: 'roundedSquare', radiusShare: 0.2 },
		windows: { kind: 'windows', coverage: 0.6, marginMm: 0.1, overMm: 3 }
	};
	const foilMm = $derived((data.stencil?.foilUm ?? 100) / 1000);
	const wall = $derived(data.stencil?.wall ?? 'laser');
	const cut = $derived.by(() => {
		if (!geometry) return { openings: [], refusal: '' };
		try {
			return { openings: applyRules(geometry.apertures, $state.snapshot(rules)), refusal: '' };
		} catch (error) {
			if (error instanceof InputError) return { openings: [], refusal: error.message };
			throw error;
		}
	});
	const names = $derived(geometry ? openingNames(geometry.apertures) : []);
	const judged = $derived.by(() => {
		const { openings } = cut;
		if (openings.length === 0) return null;
		const needOf = new Map(data.needs.map((n) => [n.refDes, n.neededMm3]));
		const named = withNeeds(openings, (refDes) => needOf.get(refDes) ?? null).map((o) => ({
			...o,
			name: names[o.from] ?? '',
			lowPct: data.lowPct[o.padClass] ?? 60
		}));
		const webs = websOf(openings, 0.6);
		const results = webs.map((w) => (w.webMm === null ? 'pass' : judgeWeb(w.webMm, foilMm)));
		const choice = chooseFoil(named, wall, data.model);
		const area = choice.kind === 'step' ? stepArea(named, choice.inStep, choice.stepUm) : null;
		const edge = area && judgeStepArea(area, (i) => named[i]!.name);
		const narrowest = openings.reduce((a, b) => (b.widthMm < a.widthMm ? b : a));
		const tooThin = results.filter((r) => r === 'fail').length;
		const narrow = results.filter((r) => r === 'marginal').length;
		const worst = webs.reduce((a, w, i) => (w.webMm !== null && (a < 0 || w.webMm < webs[a]!.webMm!) ? i : a), -1);
		const web: Verdict = {
			level: tooThin ? 'act' : results.includes('marginal') ? 'watch' : 'good',
			statement: tooThin
				? `${tooThin} webs of foil are too thin: ${named[worst]!.name} and ${named[webs[worst]!.neighbour!]!.name}, ${webs[worst]!.webMm!.toFixed(3)} mm.`
				: narrow
					? `${narrow} webs of foil are under the advised 0.20 mm: ${named[worst]!.name} and ${named[webs[worst]!.neighbour!]!.name}, ${webs[worst]!.webMm!.toFixed(3)} mm.`
					: 'Every web of foil is wide enough.',
			because:
				worst < 0
					? []
					: [
							{
								quantity: 'Thinnest web',
								value: webs[worst]!.webMm,
								unit: 'mm',
								limit: `at least ${Math.max(0.15, 1.25 * foilMm).toFixed(3)}`,
								source: 'common practice'
							}
						],
			doNext: tooThin
				? ['Reduce one of the two, or thin the foil']
				: narrow
					? ['Handle this foil with care when it is cleaned, or reduce one of the two']
					: []
		};
		return {
			results,
			area,
			verdict: combine([choice.verdict, web, ...(edge ? [edge] : [])]),
			choice,
			powder: suggestPowder(narrowest.widthMm * 1000, narrowest.shape === 'circle' ? 'circle' : 'slot'),
			narrowestUm: narrowest.widthMm * 1000,
			shortBy: STOCK_FOILS_MM.map((mm) => ({ mm, pads: expectedShortPads(named, mm, wall, data.model) }))
		};
	});
	const verdict = $derived(judged?.verdict ?? noData(cut.refusal || (data.side ? 'Reading the openings…' : 'No board yet.')));
	working.offer(() => verdict);
	/** The part whose need is being said. */
	let needPart = $state('');
	let needMm3 = $state<number | null>(null);
	let needWhy = $state('');
	const parts = $derived([...new Set((geometry?.apertures ?? []).flatMap((a) => (a.refDes ? [a.refDes] : [])))].sort());
	const stepRings = $derived(
		(judged?.area?.boxes ?? []).map(({ minX, minY, maxX, maxY }) => [
			{ x: minX, y: minY },
			{ x: maxX, y: minY },
			{ x: maxX, y: maxY },
			{ x: minX, y: maxY }
		])
	);
	const sayNeed = (refDes: string, neededMm3: number | null, why: string) =>
		act('PUT', `/api/v1/sides/${data.side!.id}/needs`, { refDes, neededMm3, why }, neededMm3 === null ? 'Taken back' : 'Need kept');
	const changed = $derived(!same($state.snapshot(rules), data.rules));
	const COLOUR = { pass: 'good', marginal: 'watch', fail: 'act' } as const;
	const turning = $derived(turningAreaRatio(data.model));
	const config = $derived((p: Palette) => ({
		type: 'scatter' as const,
		data: {
			datasets: [
				{
					data: data.groups.map((g) => ({ x: g.areaRatio, y: 100 * g.efficiency })),
					pointRadius: data.groups.map((g) => Math.min(9, 2 + Math.sqrt(g.pads) / 3)),
					pointBackgroundColor: p.ink,
					borderColor: p.ink
				},
				{
					data: Array.from({ length: 80 }, (_, i) => ({ x: 0.3 + i * 0.025, y: 100 * transferEfficiency(0.3 + i * 0.025, data.model) })),
					showLine: true,
					pointRadius: 0,
					borderColor: p.copper,
					borderWidth: 2
				}
			]
		},
		options: {
			maintainAspectRatio: false,
			scales: {
				x: axis(p, 'area ratio (● measured on this run, line: the plant’s curve)', { min: 0.3, max: 2.3 }),
				y: axis(p, 'paste delivered, % of the opening’s volume', { min: 0, max: 130 })
			}
		}
	}));
</script>

<StationFrame {verdict}>
	{#snippet about()}
		{#if judged}{cut.openings.length} openings under {changed ? 'these' : 'the plant’s'} rules{data.revision
				? `, revision ${data.revision}`
				: ''}. Coarsest powder for {judged.narrowestUm.toFixed(0)} µm: {judged.powder ?? 'none: too narrow'}.{/if}
	{/snippet}
	{#snippet bar()}
		<PrintTabs /><SideChoice sides={data.sides} sideId={data.side?.id ?? null} />
	{/snippet}
	{#snippet picture()}
		{#if view === 'transfer'}
			<Chart {config} label="Paste delivered over area ratio: measured, and the plant’s curve" />
		{:else if geometry && judged}
			<BoardDrawing
				widthMm={geometry.widthMm}
				heightMm={geometry.heightMm}
				under={stepRings}
				pads={cut.openings}
				colourOf={(i) => COLOUR[judged.results[i]!]}
				{selected}
				onpick={(i) => (selected = i)}
				label="Openings under the rules, coloured by the web of foil beside them"
			/>
		{/if}
	{/snippet}
	{#snippet side()}
		<button class="btn min-h-11 border-line bg-transparent font-normal" onclick={() => (view = view === 'layer' ? 'transfer' : 'layer')}
			>{view === 'layer' ? 'Transfer curve' : 'Openings'}</button
		>
		<section>
			<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Rules by class</h2>
			{#each PAD_CLASSES as c (c)}
				{@const rule = rules[c]}
				<div class="border-b border-hair py-1.5 text-sm">
					<div class="flex items-center justify-between gap-2">
						<span>{PAD_CLASS_NAMES[c]}</span>
						<select
							class="select h-10 w-44 border-line bg-sheet"
							value={rule.kind}
							onchange={(e) => (rules[c as PadClass] = structuredClone(START[e.currentTarget.value as OpeningRule['kind']]))}
							aria-label="Rule for {PAD_CLASS_NAMES[c]}"
							>{#each KINDS as [kind, name] (kind)}<option value={kind}>{name}</option>{/each}</select
						>
					</div>
					{#if rule.kind !== 'asDrawn'}
						<div class="mt-1 flex gap-2">
							{#each Object.keys(rule).filter((k) => k !== 'kind') as key (key)}
								<label class="text-xs"
									><span class="text-soft"
										>{{
											widthPct: 'width −%',
											lengthPct: 'length −%',
											pointShare: 'point share',
											radiusShare: 'radius share',
											coverage: 'open share',
											marginMm: 'margin, mm',
											overMm: 'if over, mm'
										}[key]}</span
									><input
										class="figure input h-9 w-full border-line bg-sheet px-2"
										type="number"
										step={key.endsWith('Pct') ? 1 : 0.05}
										bind:value={(rules[c as PadClass] as unknown as Record<string, number>)[key]}
									/></label
								>
							{/each}
						</div>
					{/if}
				</div>
			{/each}
		</section>
		<section data-testid="needs">
			<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Joints that need so much paste</h2>
			<table class="rows text-sm">
				<tbody
					>{#each data.needs as n (n.refDes)}<tr
							><td>{n.refDes}: {n.why}</td><td class="n">{n.neededMm3.toFixed(3)} mm³</td><td
								><button class="underline" disabled={!can('openingRules.set')} onclick={() => sayNeed(n.refDes, null, n.why)}
									>Take back</button
								></td
							></tr
						>{:else}<tr><td class="text-soft">None said: coplanarity of a connector, a pin in paste.</td></tr>{/each}</tbody
				>
			</table>
			<form
				class="mt-1 grid grid-cols-[1fr_1fr] gap-2"
				onsubmit={(event) => {
					event.preventDefault();
					void sayNeed(needPart, needMm3, needWhy);
				}}
			>
				<select class="select h-11 w-full border-line bg-sheet" bind:value={needPart} aria-label="Part that needs paste"
					><option value="">part</option>{#each parts as p (p)}<option>{p}</option>{/each}</select
				>
				<input
					class="figure input h-11 w-full border-line bg-sheet"
					type="number"
					step="any"
					bind:value={needMm3}
					placeholder="mm³ a joint"
					aria-label="Paste a joint needs, mm³"
				/>
				<input class="input h-11 w-full border-line bg-sheet" bind:value={needWhy} placeholder="why" aria-label="Why it needs it" />
				<button
					class="btn min-h-11 border-line bg-transparent font-normal"
					disabled={!needPart || !needMm3 || !needWhy || !can('openingRules.set')}>Say what it needs</button
				>
			</form>
		</section>
		{#if judged}
			<section>
				<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Pads expected short in 1000 panels (model)</h2>
				<table class="rows text-sm">
					<tbody
						>{#each judged.shortBy as s (s.mm)}<tr class={Math.abs(s.mm - foilMm) < 1e-6 ? 'font-semibold' : ''}
								><td>{Math.round(s.mm * 1000)} µm</td><td class="n">{s.pads < 0.05 ? '< 0.1' : s.pads.toFixed(1)}</td></tr
							>{/each}</tbody
					>
				</table>
				{#if turning && data.groups.some((g) => g.areaRatio < turning)}<p class="py-1 text-sm">
						Below an area ratio of {turning.toFixed(2)} this plant’s curve delivers less from a thicker foil.
					</p>{/if}
			</section>
		{/if}
		<label class="text-sm"
			><span class="text-soft">Why, for the record</span><input class="input h-11 w-full border-line bg-sheet" bind:value={note} /></label
		>
		<button
			class="btn min-h-16 text-lg btn-primary"
			disabled={!changed || !can('openingRules.set') || !judged}
			onclick={() => act('PUT', '/api/v1/opening-rules', { rules: $state.snapshot(rules), note }, 'Rules kept')}
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
		{#if data.fit}<p class="text-sm text-soft">Curve {data.fit.revision}: {data.fit.fit.statement}</p>{/if}
		<p class="text-sm text-soft">
			A pin is named where the layer’s attributes, a netlist or a land pattern confirmed on <a class="underline" href="/packages"
				>Packages</a
			>
			say so. Elsewhere the openings of a part are counted in the order of the file, which every export of the same layer keeps.
		</p>
		<Caution text="Foil edges cut." />
	{/snippet}
</StationFrame>
