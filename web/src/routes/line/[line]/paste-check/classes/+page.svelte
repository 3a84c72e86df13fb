<script lang="ts">
	import DataTable from '$lib/ui/DataTable.svelte';
	import { goto } from '$app/navigation';
	import { untrack } from 'svelte';
	import { page } from '$app/state';
	import { noData } from '@keen-relay/core/judgement';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import { dayTime } from '$lib/ui/format.ts';
	import Caution from '$lib/ui/Caution.svelte';
	import Chart, { type Palette } from '$lib/ui/Chart.svelte';
	import { axis, limitLine, roomFor } from '$lib/ui/chart-parts.ts';
	import DoNext from '$lib/ui/DoNext.svelte';
	import KeyFigure from '$lib/ui/KeyFigure.svelte';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import { fixed } from '$lib/ui/theirs.svelte.ts';

	let { data } = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	let chosen = $state<string | null>(null);
	type Class = (typeof data.classes)[number];
	/** Of fewer deposits no capability is said. */
	const enough = ({ capability }: Class) => (capability && capability.n >= 50 ? capability : null);
	let costs = $state(untrack(() => ({ ...data.costs })));
	/** The class that allows the shortest interval speaks first. */
	const worst = $derived(
		[...data.classes].sort(
			(a, b) => (a.advice.allows ?? 99) - (b.advice.allows ?? 99) || (a.capability?.cpkLower ?? 9) - (b.capability?.cpkLower ?? 9)
		)[0] ?? null
	);
	const c = $derived(data.classes.find((k) => k.padClass === chosen) ?? worst);
	const replay = $derived(
		c
			? (data.replays as Record<string, { wipesAfter: number[]; savedS: number; belowFixed: number; belowAdaptive: number }>)[c.padClass]
			: null
	);
	const verdict = $derived(c?.advice.verdict ?? noData(`${data.panels} panels in this run; 4 are needed.`));
	const chart = $derived((p: Palette) => ({
		type: 'scatter' as const,
		data: {
			datasets: (['F', 'R'] as const)
				.map((stroke) => ({
					data: (c?.series ?? []).flatMap((s, i) => (s.stroke === stroke ? [{ x: i + 1, y: s.cleared }] : [])),
					pointStyle: stroke === 'F' ? ('triangle' as const) : ('rect' as const),
					pointRadius: 5,
					backgroundColor: stroke === 'F' ? p.ink : p.paper,
					borderColor: p.ink
				}))
				.concat(
					c?.ewma
						? [
								{
									data: c.ewma.points.map((y, i) => ({ x: i + 1, y })),
									pointStyle: 'triangle',
									pointRadius: 0,
									showLine: true,
									backgroundColor: p.copper,
									borderColor: p.copper
								} as never
							]
						: []
				)
		},
		options: {
			maintainAspectRatio: false,
			scales: {
				x: axis(p, 'panel (▲ front, □ rear stroke; line: weighted average); stroke and wipe phase taken out', { min: 0 }),
				y: axis(
					p,
					'class mean, %',
					c
						? roomFor(
								c.series.map((s) => s.cleared),
								[c.chart.lower, c.chart.upper]
							)
						: {}
				)
			},
			plugins: {
				annotation: {
					annotations: c
						? {
								up: limitLine(p, c.chart.upper, `upper ${fixed(c.chart.upper, 1)}`),
								low: limitLine(p, c.chart.lower, `lower ${fixed(c.chart.lower, 1)}`)
							}
						: {}
				}
			}
		}
	}));
	const drift = $derived((p: Palette) => ({
		type: 'scatter' as const,
		data: {
			datasets: [
				{
					data: (c?.series ?? []).map((s) => ({ x: s.sinceWipe, y: s.value })),
					pointRadius: 3,
					pointBackgroundColor: p.ink,
					borderColor: p.ink
				},
				{
					data: c ? [0, c.advice.observed - 1].map((x) => ({ x, y: c.advice.a + c.advice.b * x })) : [],
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
				x: axis(p, 'prints since the wipe; stroke taken out', { min: -0.5 }),
				y: axis(
					p,
					'mean volume, %',
					c
						? roomFor(
								c.series.map((s) => s.value),
								[]
							)
						: {}
				)
			}
		}
	}));
</script>

<StationFrame {verdict}>
	{#snippet about()}{#if c}{c.name}: {c.pads} pads on {data.panels} panels.{/if}{/snippet}
	{#snippet picture()}
		{#if c}
			<div class="grid h-full grid-rows-2 gap-1">
				<Chart config={chart} label="Control chart of the class" /><Chart config={drift} label="Volume over prints since the wipe" />
			</div>
		{:else}<p class="border border-dashed border-(color:--none) p-8 text-soft">
				No data. Charts by class need at least 4 inspected panels.
			</p>{/if}
	{/snippet}
	{#snippet side()}
		<KeyFigure value={c ? String(c.advice.offer) : '–'} unit="prints" label="between wipes may be tried" {verdict} />
		<DoNext actions={verdict.doNext} />
		{#if data.base}
			<section class="text-sm" data-testid="chart-baseline">
				<p>
					{#if data.base.panels < data.base.needed}The charts’ limits come from the {data.base.panels} panels so far; from {data.base
							.needed} on they stand.
					{:else if data.base.fromAt}Limits by baseline {data.base.revision}: {data.base.panels} panels from {dayTime(
							data.base.fromAt,
							zone
						)}, taken by {data.base.by}.
					{:else}Limits by the run’s first {data.base.panels} panels. They stand until somebody takes them anew.{/if}
				</p>
				<button
					class="btn mt-1 h-11 border-line bg-transparent font-normal"
					disabled={!can('limits.set') || data.panels < data.base.needed}
					onclick={() => act('POST', `/api/v1/runs/${data.runId}/chart-baseline`, {}, 'The charts stand on a new baseline')}
					>Take the latest {data.base.needed} as baseline</button
				>
			</section>
		{/if}
		<section>
			<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Classes</h2>
			{#snippet mark(k: Class)}<LevelMark level={k.advice.verdict.level} />{/snippet}
			{#snippet named(k: Class)}<button class="text-left underline" onclick={() => (chosen = k.padClass)}>{k.name}</button>{/snippet}
			<DataTable
				small
				whole
				name="pad-classes"
				label="Classes"
				testid="classes"
				rows={data.classes}
				key={(k) => k.padClass}
				picked={(k) => c === k}
				columns={[
					{ id: 'mark', title: '', value: () => null, cell: mark, class: 'w-6' },
					{ id: 'class', title: 'Class', value: (k) => k.name, cell: named },
					{
						id: 'cpk',
						title: 'Cpk',
						value: (k) => enough(k)?.cpk,
						words: (k) => (enough(k) ? fixed(enough(k)!.cpk, 2) : 'few'),
						figures: true
					},
					{ id: 'least', title: 'at least', value: (k) => enough(k)?.cpkLower, decimals: 2 },
					{
						id: 'wipe',
						title: 'wipe',
						value: (k) => k.advice.allows ?? Infinity,
						words: (k) => String(k.advice.allows ?? 'any'),
						figures: true
					}
				]}
				empty="No class has deposits yet."
			/>
			{#if c?.capability}<p class="py-1 text-sm text-soft">
					Cpk from the spread within each pad; "at least" is its 95 % lower bound; {#if c.capability.ppkPercentile !== null}
						by percentiles {fixed(c.capability.ppkPercentile, 2)}.{:else}
						{c.capability.remark}.{/if}
				</p>{/if}
			{#if c?.firstAfterWipe}<p class="py-1 text-sm" data-testid="after-wipe">
					The first print after a wipe: <span class="figure"
						>{c.firstAfterWipe.pct > 0 ? '+' : ''}{fixed(c.firstAfterWipe.pct, 1)} ± {fixed(c.firstAfterWipe.within, 1)} %</span
					>
					against the later ones’ line, from {c.firstAfterWipe.prints}{Math.abs(c.firstAfterWipe.pct) > c.firstAfterWipe.within
						? '.'
						: ': not told from none.'}
				</p>{/if}
		</section>
		{#if data.economic && replay}
			<section data-testid="wipe-cost">
				<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">What a wipe costs and saves</h2>
				<dl class="facts text-sm">
					<div>
						<dt>cheapest interval, all classes</dt>
						<dd class="n">{data.economic.best} prints</dd>
						<dd class="n">{fixed(data.economic.atBest, 3)} a panel</dd>
					</div>
					<div>
						<dt>interval now</dt>
						<dd class="n">{data.economic.fixedEvery} prints</dd>
						<dd class="n">{data.economic.now === null ? '–' : `${fixed(data.economic.now, 3)} a panel`}</dd>
					</div>
					<div>
						<dt>wiping only at risk, these {data.panels} panels</dt>
						<dd class="n">{replay.wipesAfter.length} wipes</dd>
						<dd class="n">{replay.savedS >= 0 ? `${fixed(replay.savedS, 0)} s saved` : `${fixed(-replay.savedS, 0)} s more`}</dd>
					</div>
					<div>
						<dt>class means below the limit then and now</dt>
						<dd class="n">{replay.belowAdaptive}</dd>
						<dd class="n">{replay.belowFixed}</dd>
					</div>
				</dl>
				<form
					class="grid grid-cols-3 gap-2 py-1 text-sm"
					onsubmit={(e) => {
						e.preventDefault();
						void goto(`?wipe=${costs.wipeS}&second=${costs.second}&defect=${costs.defect}`, { keepFocus: true });
					}}
				>
					{#each [['wipeS', 'a wipe, s'], ['second', 'a second costs'], ['defect', 'a defect costs']] as const as [key, name] (key)}
						<NumberField label={name} bind:value={costs[key]} />
					{/each}
					<button class="btn col-span-3 min-h-11 border-line bg-transparent font-normal">Work it out with these costs</button>
				</form>
				<p class="text-sm text-soft">
					Some plants wipe often, some as little as possible, some by drift, some by cost: all are shown, none is set by itself. At risk:
					more than 1 in 100 that the next print’s class mean falls below its limit.
				</p>
			</section>
		{/if}
		<Caution text="Wipe solvents burn and irritate: ventilate." />
	{/snippet}
</StationFrame>
