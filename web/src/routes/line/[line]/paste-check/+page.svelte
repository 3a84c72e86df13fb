<script lang="ts">
	import DataTable from '$lib/ui/DataTable.svelte';
	import { tick, untrack } from 'svelte';
	import { browser } from '$app/environment';
	import { goto, replaceState } from '$app/navigation';
	import { page } from '$app/state';
	import { panelGeometry } from '@keen-relay/core/artwork';
	import { gapAcrossWebMm, judgePads, panelSizes } from '@keen-relay/core/inspection';
	import { noData } from '@keen-relay/core/judgement';
	import { PAD_CLASS_NAMES } from '@keen-relay/core/parts';
	import { websOf } from '@keen-relay/core/stencil';
	import { openingNames } from '@keen-relay/core/boards';
	import type { PadReadings } from '$lib/model/types.ts';
	import { send } from '$lib/ui/api.ts';
	import BoardDrawing from '$lib/ui/BoardDrawing.svelte';
	import Caution from '$lib/ui/Caution.svelte';
	import Chart, { type Palette } from '$lib/ui/Chart.svelte';
	import { axis, limitLine, roomFor } from '$lib/ui/chart-parts.ts';
	import DoNext from '$lib/ui/DoNext.svelte';
	import { loadGeometry, type SideGeometry } from '$lib/ui/geometry.ts';
	import KeyFigure from '$lib/ui/KeyFigure.svelte';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import { figure, fixed, say, titled, unitName } from '$lib/ui/theirs.svelte.ts';

	let { data } = $props();
	let geometry = $state.raw<SideGeometry | null>(null);
	let readings = $state.raw<PadReadings | null>(null);
	let history: { serial: string; volumePct: number }[] = $state.raw([]);
	/** What is looked at stands in the address: it is there again after Back, and can be handed on. */
	const asked = browser ? new URL(location.href).searchParams : untrack(() => page.url.searchParams);
	let pad = $state<number | null>(/^\d{1,6}$/.test(asked.get('pad') ?? '') ? Number(asked.get('pad')) : null);
	/** A panel that was chosen on the chart; null follows the latest. */
	let held = $state<string | null>(asked.get('panel'));

	const summary = $derived(page.data.line?.stations.find((s) => s.stationId === data.station.id));
	const verdict = $derived(summary?.verdict ?? noData('No run on this line.'));
	const serial = $derived(held ?? data.series.at(-1)?.serial ?? null);
	const shown = $derived(data.series.find((s) => s.serial === serial) ?? null);

	$effect(() => {
		if (data.side)
			loadGeometry(data.side.id).then(
				(g) => (geometry = g),
				() => (geometry = null)
			);
	});
	/** What the drawing shows: one panel, or the middle of the latest panels of one stroke. */
	let source = $state<'panel' | 'F' | 'R'>((['F', 'R'] as const).find((s) => s === asked.get('drawn')) ?? 'panel');
	let shade = $state<keyof typeof SHADES | 'verdict'>(
		(['volume', 'height', 'area', 'offset'] as const).find((s) => s === asked.get('shade')) ?? 'verdict'
	);
	$effect(() => {
		const state = {
			pad: pad === null ? '' : String(pad),
			panel: held ?? '',
			drawn: source === 'panel' ? '' : source,
			shade: shade === 'verdict' ? '' : shade
		};
		// The browser’s own address: after Back the router’s still is the page before.
		const url = new URL(location.href);
		for (const [name, value] of Object.entries(state)) {
			if (value) url.searchParams.set(name, value);
			else url.searchParams.delete(name);
		}
		// The router is not there yet while the page comes alive.
		if (url.href !== location.href) void tick().then(() => replaceState(url, {}));
	});
	/** Quantities that the drawing shades by, from little to much. */
	const SHADES = {
		volume: { name: 'volume', from: 50, to: 150, unit: '%', of: (r: PadReadings, i: number) => r.volumePct[i]! },
		height: {
			name: 'height',
			from: 50,
			to: 150,
			unit: '% of the foil',
			of: (r: PadReadings, i: number) => (100 * r.heightUm[i]!) / (data.foilUm ?? 100)
		},
		area: { name: 'area', from: 50, to: 150, unit: '%', of: (r: PadReadings, i: number) => r.areaPct[i]! },
		offset: { name: 'offset', from: 0, to: 90, unit: 'µm', of: (r: PadReadings, i: number) => Math.hypot(r.offsetXUm[i]!, r.offsetYUm[i]!) }
	};
	const STEPS = [0, 1, 2, 3, 4, 5, 6];
	/** A reading that is missing comes as null. */
	const whole = (r: PadReadings) =>
		Object.fromEntries(
			Object.entries(r).map(([key, list]) => [key, Array.isArray(list) ? list.map((v) => v ?? NaN) : list])
		) as unknown as PadReadings;
	$effect(() => {
		const wanted =
			source === 'panel'
				? serial && `/api/v1/panels/${encodeURIComponent(serial)}/paste`
				: data.runId && `/api/v1/runs/${data.runId}/pads?stroke=${source}`;
		// The middle of a stroke moves with every panel.
		void data.series.length;
		if (!wanted) return void (readings = null);
		let stale = false;
		send<PadReadings>('GET', wanted).then((answer) => {
			if (!stale && answer.data) readings = whole(answer.data);
		});
		return () => {
			stale = true;
		};
	});
	$effect(() => {
		if (pad === null || !data.side || !data.runId || !serial) return void (history = []);
		send<typeof history>('GET', `/api/v1/sides/${data.side.id}/pads/${pad}?run=${data.runId}`).then(
			(answer) => (history = answer.data ?? [])
		);
	});

	const names = $derived(geometry ? openingNames(geometry.apertures) : []);
	/** A panel by the limits that judged it; a stroke's middle by those that hold now. */
	const limits = $derived(readings?.limits ?? data.limits);
	const judged = $derived.by(() => {
		if (!readings || !geometry || !data.foilUm || !data.side) return [];
		const { apertures } = geometry;
		return judgePads(
			{ ...readings, bridgedPads: readings.bridged },
			{
				classes: apertures.map((a) => a.padClass),
				sizes: panelSizes(apertures, panelGeometry(geometry, data.side.panel, data.side.side)),
				refDes: apertures.map((a) => a.refDes)
			},
			data.foilUm,
			limits
		);
	});
	/** A level's colour, or how much there is of the quantity. */
	const colourOf = $derived.by(() => {
		const levels = judged;
		const of = readings;
		if (shade === 'verdict' || !of)
			return (i: number) => {
				const level = levels[i]?.level ?? 'noData';
				return level === 'noData' ? null : level;
			};
		const s = SHADES[shade];
		return (i: number) => {
			const value = s.of(of, i);
			return Number.isFinite(value) ? `step-${Math.max(0, Math.min(6, Math.floor((7 * (value - s.from)) / (s.to - s.from))))}` : null;
		};
	});
	const padName = (i: number) => (geometry ? `${names[i % names.length]}, circuit ${Math.floor(i / names.length) + 1}` : `pad ${i + 1}`);
	const padAperture = $derived(pad !== null && geometry ? geometry.apertures[pad % geometry.apertures.length]! : null);

	/** Foil beside each opening: how near the next pad is. */
	const webs = $derived(geometry && pad !== null ? websOf(geometry.apertures, 2) : []);
	/** Room between the chosen deposit and the pad next to it; null where none is near. */
	const gap = $derived.by(() => {
		if (!geometry || !readings || !padAperture || pad === null) return null;
		const { webMm, neighbour } = webs[pad % geometry.apertures.length]!;
		if (webMm === null || neighbour === null) return null;
		return { to: names[neighbour], mm: gapAcrossWebMm(webMm, readings.offsetXUm[pad]!, readings.offsetYUm[pad]!) };
	});

	const config = $derived((p: Palette) => {
		const chart = data.control.chart;
		const wanted = serial;
		return {
			type: 'scatter' as const,
			data: {
				datasets: [
					{
						data: data.series.map((s, i) => ({ x: i + 1, y: s.value })),
						showLine: true,
						borderColor: p.soft,
						borderWidth: 1,
						pointRadius: data.series.map((s, i) => (s.serial === wanted ? 7 : chart?.beyond.includes(i) ? 6 : 2.5)),
						pointStyle: data.series.map((s, i) =>
							chart?.beyond.includes(i) ? ('rectRot' as const) : s.stroke === 'F' ? ('triangle' as const) : ('rect' as const)
						),
						pointBackgroundColor: data.series.map((s, i) =>
							s.serial === wanted ? p.copper : chart?.beyond.includes(i) ? p.act : s.stroke === 'F' ? p.ink : p.paper
						),
						pointBorderColor: p.ink,
						pointBorderWidth: 1
					}
				]
			},
			options: {
				maintainAspectRatio: false,
				scales: {
					x: axis(p, 'panel, the latest 120 of this run (▲ front, □ rear); stroke and wipe phase taken out', {
						min: 0,
						max: Math.max(10, data.series.length + 1)
					}),
					y: axis(
						p,
						'mean volume, %',
						roomFor(
							data.series.map((s) => s.value),
							chart ? [chart.lower, chart.upper] : []
						)
					)
				},
				plugins: {
					annotation: {
						annotations: chart
							? {
									upper: limitLine(p, chart.upper, `upper ${fixed(chart.upper, 1)}`),
									lower: limitLine(p, chart.lower, `lower ${fixed(chart.lower, 1)}`)
								}
							: {}
					}
				}
			}
		};
	});
	const historyConfig = $derived((p: Palette) => {
		const [low, high] = padAperture ? limits[padAperture.padClass].volumePct.fail : [60, 140];
		return {
			type: 'scatter' as const,
			data: {
				datasets: [
					{
						data: history.map((h, i) => ({ x: i + 1, y: h.volumePct })),
						showLine: true,
						borderColor: p.ink,
						borderWidth: 1,
						pointRadius: 1.5,
						pointBackgroundColor: p.ink
					}
				]
			},
			options: {
				maintainAspectRatio: false,
				scales: { x: axis(p, 'panel of this run', { min: 0 }), y: axis(p, 'volume, %', { min: 0, max: 200 }) },
				plugins: {
					annotation: { annotations: { low: limitLine(p, low!, `${low}`), high: limitLine(p, high!, `${high}`) } }
				}
			}
		};
	});
</script>

<StationFrame {verdict}>
	{#snippet about()}
		{#if shown}Panel <a class="underline" href="/panels/{shown.serial}">{shown.serial}</a>{held ? ', held' : ', the latest'}: {shown.fails} of
			{shown.pads} pads fail, {shown.warnings} warn.
			{#if source !== 'panel'}Drawn: each pad’s middle over the {source === 'F' ? 'front' : 'rear'} strokes of the latest 40 panels.{/if}
			{#if held}<button class="underline" onclick={() => (held = null)}>Follow the latest</button>{/if}{:else}Nothing inspected in this run
			yet.{/if}
	{/snippet}
	{#snippet picture()}
		{#if geometry && readings && data.side}
			<div class="grid h-full grid-rows-[minmax(0,1fr)_170px] gap-1">
				<BoardDrawing
					widthMm={data.side.geometry.widthMm}
					heightMm={data.side.geometry.heightMm}
					origins={data.side.geometry.origins}
					circuit={geometry}
					pads={geometry.apertures}
					fiducials={data.side.panel.fiducials}
					{colourOf}
					selected={pad}
					onpick={(i) => (pad = i)}
					label="Paste volume of every pad of the panel"
				/>
				<Chart {config} label="Control chart of the mean paste volume by panel" onpick={(i) => (held = data.series[i]?.serial ?? null)} />
			</div>
		{:else}
			<p class="border border-dashed border-(color:--none) p-8 text-soft">
				No data. Pads are drawn here as soon as the first panel of a run is inspected.
			</p>
		{/if}
	{/snippet}
	{#snippet side()}
		<KeyFigure value={summary?.figure ?? '–'} unit="" label="of the panels pass at first" {verdict} />
		<DoNext actions={verdict.doNext} />
		<label class="flex items-center justify-between gap-2">
			<span class="text-sm text-soft">Chart</span>
			<select
				class="select h-11 border-line bg-sheet"
				value={data.chosen}
				onchange={(event) => {
					const url = new URL(location.href);
					url.searchParams.set('class', event.currentTarget.value);
					void goto(url, { keepFocus: true, noScroll: true });
				}}
				aria-label="Pad class of the chart"
			>
				<option value="all">all pads</option>
				{#each data.classes as c (c.key)}<option value={c.key}>{c.name}</option>{/each}
			</select>
		</label>
		<p class="flex items-center gap-2 text-sm"><LevelMark level={data.control.verdict.level} />{say(data.control.verdict.statement)}</p>
		<div class="grid grid-cols-2 gap-2">
			<label
				><span class="text-sm text-soft">Drawn</span><select
					class="select h-11 w-full border-line bg-sheet"
					bind:value={source}
					aria-label="What is drawn"
					><option value="panel">this panel</option><option value="F">front strokes</option><option value="R">rear strokes</option></select
				></label
			>
			<label
				><span class="text-sm text-soft">Shaded by</span><select
					class="select h-11 w-full border-line bg-sheet"
					bind:value={shade}
					aria-label="Shaded by"
					><option value="verdict">verdict</option>{#each Object.entries(SHADES) as [key, s] (key)}<option value={key}>{s.name}</option
						>{/each}</select
				></label
			>
		</div>
		{#if shade !== 'verdict'}
			{@const s = SHADES[shade]}
			<p class="flex items-center gap-2 text-sm" data-testid="shades">
				<span class="figure">{s.from}</span><span class="flex flex-1"
					>{#each STEPS as k (k)}<span class="h-4 flex-1" style="background: var(--step-{k})"></span>{/each}</span
				><span class="figure">{s.to}</span>{s.unit}
			</p>
		{/if}
		{#if pad !== null && readings && padAperture}
			<section data-testid="pad">
				<h2 class="border-b border-hair pb-1 font-semibold">{padName(pad)}</h2>
				<dl class="facts text-sm">
					<div>
						<dt>volume, %</dt>
						<dd class="n">{fixed(readings.volumePct[pad]!, 1)}</dd>
					</div>
					<div>
						<dt>{titled('height, µm')}</dt>
						<dd class="n">{figure(readings.heightUm[pad]!, 1, 'µm')}</dd>
					</div>
					<div>
						<dt>area, %</dt>
						<dd class="n">{fixed(readings.areaPct[pad]!, 1)}</dd>
					</div>
					<div>
						<dt>{titled('offset, µm')}</dt>
						<dd class="n">{figure(readings.offsetXUm[pad]!, 0, 'µm')}, {figure(readings.offsetYUm[pad]!, 0, 'µm')}</dd>
					</div>
					{#if gap && Number.isFinite(gap.mm)}<div>
							<dt>gap to the pad of {gap.to}, {unitName('mm')}</dt>
							<dd class="n" title="pitch − pad/2 − opening/2 − |offset|; a pad taken as large as its opening">{figure(gap.mm, 3, 'mm')}</dd>
						</div>{/if}
					<div>
						<dt>class</dt>
						<dd class="text-right">{PAD_CLASS_NAMES[padAperture.padClass]}</dd>
					</div>
					<div>
						<dt>found</dt>
						<dd class="text-right font-semibold">{judged[pad]?.codes.join(', ') || 'in limits'}</dd>
					</div>
					<div>
						<dt>judged by</dt>
						<dd class="text-right">
							{source !== 'panel'
								? 'the limits that hold now'
								: readings.limitRevision
									? `limits, revision ${readings.limitRevision}${readings.limitRevision === data.limitRevision ? '' : '; others hold now'}`
									: 'the limits to start from'}
						</dd>
					</div>
				</dl>
				<div class="h-[150px]"><Chart config={historyConfig} label="Volume of this pad through the run" /></div>
			</section>
		{:else if shown}
			<section class="min-h-0">
				<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Pads that fail on this panel</h2>
				{#snippet named({ pad: of }: { pad: number })}<button class="text-left" onclick={() => (pad = of)}>{padName(of)}</button>{/snippet}
				<DataTable
					small
					whole
					name="failing-pads"
					label="Pads that fail on this panel"
					rows={shown.worst.slice(0, 12)}
					key={(w) => w.pad}
					onpick={(w) => (pad = w.pad)}
					columns={[
						{ id: 'pad', title: 'Pad', value: (w) => padName(w.pad), cell: named },
						{ id: 'code', title: 'Found', value: (w) => w.code },
						{ id: 'volume', title: 'volume, %', value: (w) => w.volumePct, decimals: 0 }
					]}
					empty="None. Choose a pad on the panel to see its history."
				/>
			</section>
		{/if}
		{#if pad !== null}<button class="btn min-h-11 border-line bg-transparent font-normal" onclick={() => (pad = null)}>All pads</button
			>{/if}
		<Caution text="Laser and projector light: covers stay closed." />
	{/snippet}
</StationFrame>
