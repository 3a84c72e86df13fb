<script lang="ts">
	import DataTable from '$lib/ui/DataTable.svelte';
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { untrack } from 'svelte';
	import { noData } from '@keen-relay/core/judgement';
	import Chart, { type Palette } from '$lib/ui/Chart.svelte';
	import { axis, decadeName } from '$lib/ui/chart-parts.ts';
	import DoNext from '$lib/ui/DoNext.svelte';
	import KeyFigure from '$lib/ui/KeyFigure.svelte';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import { fixed } from '$lib/ui/theirs.svelte.ts';

	let { data } = $props();
	let chosen = $state<string | null>(null);
	type Class = (typeof data.classes)[number];
	let costs = $state(untrack(() => ({ ...data.costs })));
	const c = $derived(data.classes.find((k) => k.padClass === chosen) ?? [...data.classes].sort((a, b) => b.defects - a.defects)[0] ?? null);
	const verdict = $derived(c?.verdict ?? noData('No deposit of this board has been followed to an inspection after the oven yet.'));
	const chart = $derived((p: Palette) => ({
		type: 'scatter' as const,
		data: {
			datasets: [
				{
					data: (c?.curve ?? []).map((v) => ({ x: v.volumePct, y: 100 * v.probability })),
					showLine: true,
					pointRadius: 0,
					borderColor: p.copper,
					borderWidth: 2.5
				}
			]
		},
		options: {
			maintainAspectRatio: false,
			scales: {
				x: axis(p, 'volume of the deposit, % of nominal, over the range that was seen'),
				y: {
					...axis(p, 'chance of a defect at its joint, %'),
					type: 'logarithmic' as const,
					ticks: { color: p.soft, callback: decadeName }
				}
			},
			plugins: {
				annotation: {
					annotations: Object.fromEntries(
						(c?.limits ?? [])
							.filter((l) => l.side !== 'offset')
							.flatMap((l) => [
								[`${l.side}Now`, mark(l.now, `now ${fixed(l.now, 0)}`, p.soft, 'start' as const)],
								...(l.value === null ? [] : [[l.side, mark(l.value, `break-even ${fixed(l.value, 0)}`, p.copper, 'end' as const)]])
							])
					)
				}
			}
		}
	}));
	function mark(x: number, name: string, colour: string, position: 'start' | 'end') {
		return {
			type: 'line' as const,
			xMin: x,
			xMax: x,
			borderColor: colour,
			borderWidth: 1.4,
			borderDash: [2, 4],
			label: { display: true, content: name, position, backgroundColor: 'transparent', color: colour, font: { size: 12 }, padding: 2 }
		};
	}
	const words = (side: 'low' | 'high' | 'offset', v: number) => (side === 'offset' ? fixed(v, 2) : `${fixed(v, 0)} %`);
	const NAMES = { low: 'lowest volume', high: 'highest volume', offset: 'offset, share of width' } as const;
</script>

<StationFrame {verdict}>
	{#snippet about()}{#if c}{data.board}, {c.name}: {c.defects} defects on {c.deposits.toLocaleString('en')} deposits that were looked at after
			the oven.{/if}{/snippet}
	{#snippet picture()}
		{#if c && c.curve.length}
			<Chart config={chart} label="Chance of a defect over the volume of the deposit" />
		{:else}<p class="border border-dashed border-(color:--none) p-8 text-soft">
				No curve. Calls of optical and in-circuit inspection are joined to the deposits by serial number, circuit and part; five defects
				make a curve, thirty may widen a limit.
			</p>{/if}
	{/snippet}
	{#snippet side()}
		<KeyFigure
			value={c ? String(c.defects) : '–'}
			unit="defects"
			label={c?.mayWiden ? 'enough to widen a limit' : 'too few to widen a limit'}
			{verdict}
		/>
		<DoNext actions={verdict.doNext} />
		<form
			class="grid grid-cols-2 gap-2 text-sm"
			onsubmit={(e) => {
				e.preventDefault();
				void goto(`?stop=${costs.stop}&defect=${costs.defect}`, { keepFocus: true });
			}}
		>
			<NumberField label="Stopping a good deposit costs" min={0.001} bind:value={costs.stop} />
			<NumberField label="A defect that goes on costs" min={0.01} bind:value={costs.defect} />
			<button class="btn col-span-2 min-h-12 border-ink bg-transparent" disabled={!(costs.defect > costs.stop && costs.stop > 0)}
				>Work it out with these costs</button
			>
		</form>
		{#if c && c.limits.length}
			<DataTable
				whole
				small
				name="break-even"
				label="Limits and their break-even"
				testid="break-even"
				rows={c.limits}
				key={(l) => l.side}
				columns={[
					{ id: 'limit', title: 'Limit', value: (l) => NAMES[l.side] },
					{ id: 'now', title: 'now', value: (l) => l.now, words: (l) => words(l.side, l.now), figures: true },
					{
						id: 'even',
						title: 'break-even, 95 %',
						value: (l) => l.value,
						words: (l) =>
							l.value === null ? 'not seen' : `${words(l.side, l.value)} (${words(l.side, l.low)} to ${words(l.side, l.high)})`,
						figures: true
					},
					{ id: 'proposed', title: 'proposed', value: (l) => l.proposed, words: (l) => words(l.side, l.proposed), figures: true }
				]}
				empty="No limit was seen to matter."
			/>
		{/if}
		<section>
			<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Classes</h2>
			{#snippet mark(k: Class)}<LevelMark level={k.verdict.level} />{/snippet}
			{#snippet named(k: Class)}<button class="text-left underline" onclick={() => (chosen = k.padClass)}>{k.name}</button>{/snippet}
			<DataTable
				small
				whole
				name="classes-with-defects"
				label="Classes"
				testid="classes"
				rows={data.classes}
				key={(k) => k.padClass}
				picked={(k) => c === k}
				columns={[
					{ id: 'mark', title: '', value: () => null, cell: mark, class: 'w-6' },
					{ id: 'class', title: 'Class', value: (k) => k.name, cell: named },
					{ id: 'defects', title: 'defects', value: (k) => k.defects, figures: true }
				]}
				empty="No class has deposits yet."
			/>
		</section>
		<p class="text-sm text-soft">
			A call that names no pin is put to the worst deposit of its part. Calls count as the machines made them. Panels that were stopped have
			no outcome, so nothing is said outside what was let through. Enter limits on <a
				class="underline"
				href="/line/{page.params.line}/paste-check/limits">Limits</a
			>.
		</p>
	{/snippet}
</StationFrame>
