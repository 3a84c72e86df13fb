<script lang="ts">
	import DataTable from '$lib/ui/DataTable.svelte';
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { judgeSignatures, waits } from '@keen-relay/core/inspection';
	import { noData } from '@keen-relay/core/judgement';
	import Caution from '$lib/ui/Caution.svelte';
	import Chart, { type Palette } from '$lib/ui/Chart.svelte';
	import { axis, roomFor } from '$lib/ui/chart-parts.ts';
	import { clockTime } from '$lib/ui/format.ts';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import { working } from '$lib/ui/working.svelte.ts';
	import { fixed, say } from '$lib/ui/theirs.svelte.ts';
	import CaseForm from './CaseForm.svelte';

	let { data } = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const found = $derived(data.report?.signatures ?? []);
	type Cause = (typeof found)[number];
	let code = $state<string | null>(null);
	const shown = $derived(found.find((s) => s.code === code) ?? found.find((s) => waits(data.cases, s.code)) ?? found[0] ?? null);
	const cas = $derived(data.cases.find((c) => c.code === shown?.code) ?? null);
	const verdict = $derived(data.report ? judgeSignatures(data.report, data.cases) : noData('No run on this line.'));
	working.offer(() => verdict);
	const sure = (c: number) => `${Math.round(100 * c)} %`;
	const STATE = { open: 'open', done: 'done, being watched', better: 'better', noBetter: 'no better', dismissed: 'laid aside' } as const;
	/** What the panels' medians are drawn over: the counter that the cause goes by. */
	const over = $derived(
		shown?.code === 'CLOG_WIPE' || shown?.code === 'BRIDGE_WIPE'
			? { title: 'prints since the wipe', of: (i: number) => data.panels[i]!.printsSinceWipe, small: true }
			: shown?.code === 'TOPUP_STARVE'
				? { title: 'prints since the top-up', of: (i: number) => data.panels[i]!.printsSinceTopup, small: false }
				: { title: 'panel', of: (i: number) => i + 1, small: shown?.code === 'ABANDON' }
	);
	const series = $derived((over.small ? data.report?.series.small : data.report?.series.all) ?? []);
	const evidence = $derived((p: Palette) => ({
		type: 'scatter' as const,
		data: {
			datasets: (['F', 'R'] as const).map((stroke) => ({
				data: series.flatMap((y, i) => (data.panels[i]?.stroke === stroke ? [{ x: over.of(i), y }] : [])),
				pointStyle: stroke === 'F' ? ('triangle' as const) : ('rect' as const),
				pointRadius: 5,
				backgroundColor: stroke === 'F' ? p.ink : p.paper,
				borderColor: p.ink
			}))
		},
		options: {
			maintainAspectRatio: false,
			scales: {
				x: axis(p, `${over.title} (▲ front, □ rear)`),
				y: axis(p, over.small ? 'small openings, ± %' : 'panel median, ± %', roomFor(series, [-3, 3]))
			}
		}
	}));
	let box = $state({ width: 600, height: 300 });
	const bounds = $derived.by(() => {
		const xs = data.pads.map((p) => p.xMm);
		const ys = data.pads.map((p) => p.yMm);
		return { minX: Math.min(...xs) - 4, maxX: Math.max(...xs) + 4, minY: Math.min(...ys) - 4, maxY: Math.max(...ys) + 4 };
	});
	const scale = $derived(Math.min(box.width / (bounds.maxX - bounds.minX), box.height / (bounds.maxY - bounds.minY)));
	let canvas: HTMLCanvasElement | undefined = $state();
	$effect(() => {
		const ctx = canvas?.getContext('2d');
		if (!ctx || data.pads.length === 0) return;
		const dpr = devicePixelRatio;
		canvas!.width = box.width * dpr;
		canvas!.height = box.height * dpr;
		ctx.setTransform(dpr, 0, 0, dpr, 0, 0);
		ctx.clearRect(0, 0, box.width, box.height);
		const style = getComputedStyle(document.documentElement);
		const ink = (name: string) => style.getPropertyValue(`--${name}`).trim();
		const [x, y] = [
			(mm: number) => (box.width - (bounds.maxX - bounds.minX) * scale) / 2 + (mm - bounds.minX) * scale,
			(mm: number) => (bounds.maxY - mm) * scale
		];
		if (shown?.where.stripMm) {
			ctx.fillStyle = ink('hair');
			ctx.fillRect(x(shown.where.stripMm[0]), 0, (shown.where.stripMm[1] - shown.where.stripMm[0]) * scale, box.height);
		}
		const hot = new Set(shown?.where.pads ?? []);
		data.pads.forEach((p, i) => {
			const size = Math.max(1.6, p.sizeMm * scale);
			ctx.fillStyle = ink(hot.has(i) ? 'act' : 'soft');
			ctx.globalAlpha = hot.size && !hot.has(i) ? 0.4 : 1;
			ctx.fillRect(x(p.xMm) - size / 2, y(p.yMm) - size / 2, size, size);
		});
		ctx.globalAlpha = 1;
		if (shown?.where.at && !shown.where.stripMm) {
			ctx.strokeStyle = ink('act');
			ctx.lineWidth = 2;
			ctx.beginPath();
			ctx.arc(x(shown.where.at.xMm), y(shown.where.at.yMm), 13 * scale, 0, 7);
			ctx.stroke();
		}
	});
</script>

<StationFrame {verdict}>
	{#snippet about()}
		{#if data.report && data.report.panels > 0}From the latest {data.report.panels} panels of {data.report.pads} pads{data.report
				.blindShare > 0.3
				? `; ${Math.round(100 * data.report.blindShare)} % of the area has too few pads to show a local fault`
				: ''}.{/if}
	{/snippet}
	{#snippet bar()}
		<select
			class="select ml-auto h-11 w-40 shrink-0 border-line bg-sheet px-2"
			value={data.runId ?? ''}
			onchange={(e) => goto(`?run=${e.currentTarget.value}`, { keepFocus: true })}
			aria-label="Run"
		>
			{#each data.past as r (r.id)}<option value={r.id}>{r.number}, {r.side}{r.endedAt ? '' : ', now'}</option>{/each}
		</select>
	{/snippet}
	{#snippet picture()}
		<div class="grid h-full grid-rows-[minmax(0,1fr)_auto] gap-2">
			<div class="grid min-h-0 grid-cols-[minmax(0,3fr)_minmax(0,2fr)] gap-3">
				<div class="min-h-0" bind:clientWidth={box.width} bind:clientHeight={box.height}>
					<!-- svelte-ignore a11y_no_interactive_element_to_noninteractive_role -->
					<canvas
						bind:this={canvas}
						style="width:{box.width}px;height:{box.height}px"
						role="img"
						aria-label="Pads of the panel; those that show the chosen cause are marked"
					></canvas>
				</div>
				{#if series.length}<Chart config={evidence} label="Median of each panel, front and rear strokes apart" />{/if}
			</div>
			{#snippet mark(s: Cause)}<LevelMark level={s.symptomOf || !waits(data.cases, s.code) ? 'watch' : 'act'} />{/snippet}
			{#snippet named(s: Cause)}<button class="text-left underline" onclick={() => (code = s.code)}>{s.text.name}</button>{/snippet}
			<div class="flex max-h-[210px] flex-col">
				<DataTable
					small
					name="causes"
					label="Causes found"
					testid="causes"
					rows={found}
					key={(s) => s.code + (s.where.at?.xMm ?? '')}
					picked={(s) => shown === s}
					columns={[
						{ id: 'mark', title: '', value: () => null, cell: mark, class: 'w-6' },
						{ id: 'cause', title: 'Cause', value: (s) => s.text.name, cell: named },
						{
							id: 'size',
							title: 'size',
							value: (s) => s.size,
							words: (s) => `${fixed(s.size, Math.abs(s.size) < 2 ? 2 : 1)} ${s.unit === 'lp' ? '%' : s.unit}`,
							figures: true
						},
						{ id: 'from', title: 'names from', value: (s) => s.threshold, figures: true },
						{ id: 't', title: '|t|', value: (s) => (s.t === null ? null : Math.abs(s.t)), decimals: 1 },
						{ id: 'sure', title: 'sure', value: (s) => s.confidence, words: (s) => sure(s.confidence), figures: true },
						{
							id: 'case',
							title: 'Case',
							value: (s) => {
								const c = data.cases.find((x) => x.code === s.code);
								return c ? STATE[c.state] : '';
							}
						}
					]}
					empty="No cause is named."
				>
					{#snippet after()}{#each data.report?.notJudged ?? [] as n, i (i)}<p class="flex items-center gap-2 py-1 text-sm text-soft">
								<LevelMark level="noData" />{say(n.why)}
								{n.test}.
							</p>{/each}{/snippet}
				</DataTable>
			</div>
		</div>
	{/snippet}
	{#snippet side()}
		{#if shown}
			<h2 class="text-xl font-semibold">{shown.text.name}</h2>
			<p>
				Probably: {shown.text.cause}.{#if shown.candidates}
					Either {shown.candidates.join(' or ')}.{/if}
			</p>
			<p class="text-lg font-semibold" data-testid="action">{say(shown.text.action)}.</p>
			<p class="text-sm">To tell it from its look-alike: {shown.text.test}.</p>
			<p class="text-sm text-soft">
				Sure to {sure(shown.confidence)}: how often a cause named like this was right in our simulated runs; your plant may differ.
			</p>
			{#if cas}
				<section data-testid="case">
					<p class="font-semibold">
						{STATE[cas.state]}{cas.reopened ? `; came back ${cas.reopened} time${cas.reopened > 1 ? 's' : ''}` : ''}
					</p>
					{#if cas.answer}<p data-testid="answer">{say(cas.answer.statement)}</p>{:else if cas.state === 'done'}<p>
							Too early: the next panels are compared with those before.
						</p>{/if}
				</section>
				{#if cas.state === 'open' || cas.state === 'noBetter'}
					{#key cas.id}<CaseForm caseId={cas.id} />{/key}
				{/if}
			{/if}
		{/if}
		{#if data.explained}
			<section>
				<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">What explains the spread</h2>
				<dl class="facts text-sm">
					{#each data.explained.steps as s (s.pattern)}<div>
							<dt>{s.pattern}</dt>
							<dd class="n">{fixed(100 * s.share, 0)} %</dd>
						</div>{/each}
					<div>
						<dt class="text-soft">no pattern: chance, pad by pad</dt>
						<dd class="n">{fixed(100 * data.explained.unexplained, 0)} %</dd>
					</div>
				</dl>
			</section>
		{/if}
		{#if data.cases.some((c) => !found.some((s) => s.code === c.code))}
			<section>
				<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Earlier in this run</h2>
				<DataTable
					small
					whole
					name="earlier-cases"
					label="Earlier in this run"
					rows={data.cases.filter((c) => !found.some((s) => s.code === c.code))}
					key={(c) => c.id}
					columns={[
						{ id: 'opened', title: 'Since', value: (c) => new Date(c.openedAt).getTime(), words: (c) => clockTime(c.openedAt, zone) },
						{ id: 'cause', title: 'Cause', value: (c) => c.text.name },
						{ id: 'stands', title: 'Stands', value: (c) => (c.answer ? c.answer.statement : STATE[c.state]) }
					]}
					empty="None."
				/>
			</section>
		{/if}
		<Caution text="Actions at the printer: covers open only with the machine stopped, by trained staff." />
	{/snippet}
</StationFrame>
