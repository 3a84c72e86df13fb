<script lang="ts">
	import DataTable from '$lib/ui/DataTable.svelte';
	import { noData } from '@keen-relay/core/judgement';
	import Caution from '$lib/ui/Caution.svelte';
	import DoNext from '$lib/ui/DoNext.svelte';
	import KeyFigure from '$lib/ui/KeyFigure.svelte';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import { figure, fixed, quantity, titled, unitName } from '$lib/ui/theirs.svelte.ts';

	let { data } = $props();
	let chosen = $state<string | null>(null);
	const shown = $derived(data.readings.find((r) => r.serial === chosen) ?? data.readings[0] ?? null);
	const verdict = $derived(shown?.result.verdict ?? noData('No alignment has been reported in this run.', ['Print the first panel']));
	let box = $state({ width: 600, height: 400 });
	const scale = $derived(data.panel ? Math.min((box.width - 80) / data.panel.widthMm, (box.height - 80) / data.panel.heightMm) : 1);
	/** Residuals are drawn this many times larger than the panel. */
	const LARGER = 400;
	/** The panel stands in the middle of its room. */
	const left = $derived((box.width - (data.panel?.widthMm ?? 0) * scale) / 2);
	const at = $derived((x: number, y: number) => ({ x: left + x * scale, y: 40 + ((data.panel?.heightMm ?? 0) - y) * scale }));
</script>

<StationFrame {verdict}>
	{#snippet about()}
		{#if shown}Panel <a class="underline" href="/panels/{shown.serial}">{shown.serial}</a>{chosen ? '' : ', the latest'}; residuals drawn {LARGER}
			times larger than the panel.{/if}
	{/snippet}
	{#snippet picture()}
		{#if data.panel && shown}
			<div class="h-full" bind:clientWidth={box.width} bind:clientHeight={box.height}>
				<svg
					width={box.width}
					height={box.height}
					role="img"
					aria-label="Marks of the panel with their residuals"
					font-size="14"
					fill="var(--ink)"
				>
					<rect
						x={at(0, data.panel.heightMm).x}
						y={at(0, data.panel.heightMm).y}
						width={data.panel.widthMm * scale}
						height={data.panel.heightMm * scale}
						fill="var(--sheet)"
						stroke="var(--line)"
					/>
					{#each shown.marks as m, i (i)}
						{@const p = at(m.x, m.y)}
						{@const r = shown.result.residuals[i]!}
						{@const dx = (r.dxUm / 1000) * LARGER * scale}
						{@const dy = (-r.dyUm / 1000) * LARGER * scale}
						<circle
							cx={p.x}
							cy={p.y}
							r="9"
							fill="none"
							stroke={shown.result.suspect === i ? 'var(--act)' : 'var(--ink)'}
							stroke-width="1.5"
						/>
						<line x1={p.x} y1={p.y} x2={p.x + dx} y2={p.y + dy} stroke="var(--copper)" stroke-width="2.5" />
						<circle cx={p.x + dx} cy={p.y + dy} r="3.5" fill="var(--copper)" />
						<text
							x={p.x + (p.x > box.width / 2 ? -14 : 14)}
							y={p.y + (p.y > box.height / 2 ? -12 : 22)}
							text-anchor={p.x > box.width / 2 ? 'end' : 'start'}
							class="figure">{i + 1}: {quantity(r.lengthUm, 1, 'µm')}</text
						>
					{/each}
				</svg>
			</div>
		{:else}<p class="border border-dashed border-(color:--none) p-8 text-soft">
				No data. The printer’s readings of the fiducials appear here with each print.
			</p>{/if}
	{/snippet}
	{#snippet side()}
		<KeyFigure
			value={shown ? figure(shown.result.worstPadUm, 0, 'µm') : '–'}
			unit={unitName('µm')}
			label="off at the farthest opening, after the move"
			{verdict}
		/>
		<DoNext actions={verdict.doNext} />
		{#if shown}
			<dl class="facts text-sm">
				<div>
					<dt>{titled('move x, y, mm')}</dt>
					<dd class="n">{figure(shown.result.dxMm, 3, 'mm')}, {figure(shown.result.dyMm, 3, 'mm')}</dd>
				</div>
				<div>
					<dt>turn, °</dt>
					<dd class="n">{fixed(shown.result.thetaDeg, 4)}</dd>
				</div>
				<div>
					<dt>stretch, ppm{shown.result.stretchProven ? '' : ' (not proven)'}</dt>
					<dd class="n">{fixed(shown.result.stretchPpm, 0)} ± {fixed(shown.result.stretchStandardErrorPpm, 0)}</dd>
				</div>
				{#if shown.result.xPpm !== null}<div>
						<dt>along x, y; shear, ppm</dt>
						<dd class="n">{fixed(shown.result.xPpm, 0)}, {fixed(shown.result.yPpm, 0)}; {fixed(shown.result.shearPpm, 0)}</dd>
					</div>{/if}
				<div>
					<dt>RMS of {shown.marks.length} marks, {shown.result.freedom} to spare, {unitName('µm')}</dt>
					<dd class="n">{figure(shown.result.rmsUm, 1, 'µm')}</dd>
				</div>
			</dl>
		{/if}
		{#if data.feedback}
			<section data-testid="feedback">
				<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">
					Offset that paste inspection saw, {data.feedback.panels} panels
				</h2>
				<DataTable
					whole
					small
					name="offset-feedback"
					label="Offset that paste inspection saw"
					rows={[
						{ along: 'x', ...data.feedback.x },
						{ along: 'y', ...data.feedback.y }
					]}
					key={(f) => f.along}
					columns={[
						{ id: 'along', title: 'along', value: (f) => f.along },
						{ id: 'mean', title: 'mean, µm', value: (f) => f.meanUm, decimals: 1 },
						{
							id: 'enter',
							title: 'enter, µm',
							value: (f) => f.correctionUm,
							words: (f) => (f.correctionUm ? figure(f.correctionUm, 1, 'µm') : 'nothing'),
							figures: true
						}
					]}
					empty="None."
				/>
				<p class="py-1 text-sm text-soft">
					Front and rear averaged apart, {quantity(10, 0, 'µm')} left alone, 0.3 of the rest: on pure noise that widens the spread by {fixed(
						100 * (data.feedback.x.noiseSdFactor - 1),
						0
					)} %, the whole of it would by 41 %. Suggested only; nothing is sent to the printer.
				</p>
			</section>
		{/if}
		{#if data.groups.length}
			<section>
				<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">
					Stretch of {data.readings.length} boards, {quantity(data.toleranceUm ?? 0, 0, 'µm')} allowed
				</h2>
				<dl class="facts text-sm" data-testid="stretch">
					{#each data.groups as g (g.lowPpm)}<div>
							<dt>stencil scaled by</dt>
							<dd class="n">{fixed(g.scalePpm, 0)} ppm</dd>
							<dd class="n">{g.boards.length} boards</dd>
						</div>{/each}
				</dl>
				<p class="py-1 text-sm">
					{data.groups.length === 1
						? 'One stencil serves them all.'
						: `${data.groups.length} scaled stencils would serve them all: sort the boards.`}
					{data.rescued
						? `A stencil of the drawn size misses ${data.rescued} of them at its farthest opening; scaled, they are rescued.`
						: 'One of the drawn size meets every one of them.'}
				</p>
			</section>
		{/if}
		<section class="min-h-0">
			<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Latest prints</h2>
			{#snippet mark({ result }: (typeof data.readings)[number])}<LevelMark level={result.verdict.level} />{/snippet}
			{#snippet named({ serial }: (typeof data.readings)[number])}<button class="text-left" onclick={() => (chosen = serial)}
					>{serial}</button
				>{/snippet}
			<DataTable
				small
				whole
				name="alignment"
				label="Latest prints"
				testid="alignments"
				rows={data.readings.slice(0, 14)}
				key={(r) => r.serial}
				onpick={(r) => (chosen = r.serial)}
				picked={(r) => shown?.serial === r.serial}
				columns={[
					{ id: 'mark', title: '', value: () => null, cell: mark, class: 'w-6' },
					{ id: 'panel', title: 'Panel', value: (r) => r.serial, cell: named },
					{ id: 'off', title: 'farthest, µm', value: (r) => r.result.maxUm, decimals: 1 },
					{ id: 'stretch', title: 'stretch, ppm', value: (r) => r.result.stretchPpm, decimals: 0 }
				]}
				empty="No print was aligned yet."
			/>
		</section>
		<Caution text="The stage moves by itself: covers stay closed while it aligns." />
	{/snippet}
</StationFrame>
