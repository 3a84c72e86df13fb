<script lang="ts">
	import DataTable from '$lib/ui/DataTable.svelte';
	import { noData } from '@keen-relay/core/judgement';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import Caution from '$lib/ui/Caution.svelte';
	import DoNext from '$lib/ui/DoNext.svelte';
	import KeyFigure from '$lib/ui/KeyFigure.svelte';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import { fixed } from '$lib/ui/theirs.svelte.ts';

	let { data } = $props();
	type Row = NonNullable<typeof data.gauge>['rows'][number];
	const verdict = $derived(data.verdict ?? noData('No run on this line: nothing to compare.'));
	const worst = $derived([...(data.gauge?.rows ?? [])].sort((a, b) => b.share - a.share)[0] ?? null);
	let box = $state(700);
	const LOW = 0.75;
	const HIGH = 1.25;
	const x = $derived((factor: number) => 210 + ((Math.min(HIGH, Math.max(LOW, factor)) - LOW) / (HIGH - LOW)) * (box - 230));
</script>

<StationFrame {verdict}>
	{#snippet about()}Units differ by design: it is the factor moving that says the measurement is wrong.{/snippet}
	{#snippet picture()}
		<!-- svelte-ignore a11y_no_noninteractive_tabindex (what scrolls is reached by keys too) -->
		<div class="h-full overflow-auto" tabindex="0" role="region" aria-label="Repeatability" bind:clientWidth={box}>
			{#if data.rows.length}
				<svg
					width={box}
					height={data.rows.length * 32 + 60}
					role="img"
					aria-label="Factor of each class against the learned one"
					font-size="14"
					fill="var(--ink)"
				>
					{#each [0.8, 0.9, 1, 1.1, 1.2] as tick (tick)}
						<line x1={x(tick)} x2={x(tick)} y1="10" y2={data.rows.length * 32 + 20} stroke="var(--hair)" />
						<text x={x(tick)} y={data.rows.length * 32 + 36} text-anchor="middle" class="figure" fill="var(--soft)" font-size="12"
							>{fixed(tick, 1)}</text
						>
					{/each}
					<text x={x(1)} y={data.rows.length * 32 + 54} text-anchor="middle" fill="var(--soft)" font-size="13"
						>volume over area × height; the band is the learned factor ± 10 %</text
					>
					{#each data.rows as r, i (r.group)}
						{@const y = 16 + i * 32}
						{@const base = r.learned && r.learned.readings >= 200 ? r.learned.factor : 1}
						<text x="0" y={y + 15}>{r.name}</text>
						<rect
							x={x(0.9 * base)}
							{y}
							width={x(1.1 * base) - x(0.9 * base)}
							height="20"
							fill="var(--sheet)"
							stroke="var(--line)"
							stroke-dasharray={r.learned ? '' : '4 4'}
						/>
						<line x1={x(base)} x2={x(base)} y1={y} y2={y + 20} stroke="var(--line)" stroke-width="2" />
						<circle cx={x(r.factor)} cy={y + 10} r="7" fill={Math.abs(r.factor / base - 1) > 0.1 ? 'var(--act)' : 'var(--copper)'} />
					{/each}
				</svg>
			{:else}<p class="border border-dashed border-(color:--none) p-8 text-soft">
					No data. Panels of the run that is on, with their pads, are compared here.
				</p>{/if}
			<section class="mt-2 max-w-3xl">
				<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Repeatability: one panel measured again and again</h2>
				{#if data.gauge}
					{#snippet mark(r: Row)}<LevelMark level={r.enough ? 'good' : r.share > 0.3 ? 'act' : 'watch'} />{/snippet}
					<DataTable
						small
						whole
						name="gauge"
						label="Repeatability by class"
						testid="gauge"
						rows={data.gauge.rows}
						key={(r) => r.padClass}
						columns={[
							{ id: 'mark', title: '', value: () => null, cell: mark, class: 'w-6' },
							{ id: 'class', title: 'Class', value: (r) => r.name },
							{ id: 'pads', title: 'pads', value: (r) => r.pads, figures: true },
							{ id: 'sigma', title: 'σ of the unit, %', value: (r) => r.sigma, decimals: 2 },
							{ id: 'share', title: '6σ of the tolerance, %', value: (r) => 100 * r.share, decimals: 1 }
						]}
						empty="No class was measured."
					/>
					<p class="py-1 text-sm text-soft">
						Panel <a class="underline" href="/panels/{data.gauge.panel}">{data.gauge.panel}</a>, {data.gauge.repeats} measurements without a print
						between. At most 10 % of the tolerance is common practice; above it the limits judge the unit and not the print.
					</p>
				{:else}
					<p class="py-1 text-sm">
						Not measured yet. Send one panel through the unit ten times without printing it again; each measurement is a further inspection
						of the same print (inspectionAttempt 2, 3, …), from the machine or from a file.
					</p>
				{/if}
			</section>
		</div>
	{/snippet}
	{#snippet side()}
		<KeyFigure
			value={worst ? fixed(100 * worst.share, 0) : '–'}
			unit={worst ? '%' : 'not measured'}
			label="of the tolerance is the unit’s own spread"
			{verdict}
		/>
		<DoNext actions={verdict.doNext} />
		<button
			class="btn min-h-16 border-ink bg-transparent text-lg"
			disabled={data.runId === null || data.rows.length === 0 || !can('unit.learn')}
			onclick={() => act('POST', `/api/v1/runs/${data.runId}/unit-factors`, { lineId: data.lineId }, 'Factors learned')}
			>Learn the factors from this run’s good panels</button
		>
		<DataTable
			small
			whole
			name="unit-factors"
			label="Transfer factors"
			testid="factors"
			rows={data.rows}
			key={(r) => r.group}
			columns={[
				{ id: 'class', title: 'Class', value: (r) => r.name },
				{ id: 'now', title: 'Factor now', value: (r) => r.factor, decimals: 3 },
				{ id: 'learned', title: 'Learned', value: (r) => r.learned?.factor ?? null, decimals: 3 },
				{ id: 'by', title: 'By', value: (r) => r.learned?.by ?? '' },
				{ id: 'at', title: 'On', value: (r) => (r.learned ? new Date(r.learned.createdAt).getTime() : null), time: true, away: true }
			]}
			empty="Nothing measured yet: factors come from a run’s good panels."
		/>
		<Caution text="The unit measures with light or laser: covers stay closed." />
	{/snippet}
</StationFrame>
