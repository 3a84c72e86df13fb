<script lang="ts">
	import DataTable from '$lib/ui/DataTable.svelte';
	import { page } from '$app/state';
	import { judgePullPlan } from '@keen-relay/core/paste';
	import Caution from '$lib/ui/Caution.svelte';
	import DoNext from '$lib/ui/DoNext.svelte';
	import { dayTime, sayLength, sayWhen } from '$lib/ui/format.ts';
	import KeyFigure from '$lib/ui/KeyFigure.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import { figure, quantity, unitName } from '$lib/ui/theirs.svelte.ts';
	import JobStart from './JobStart.svelte';

	let { data } = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const cold = (jar: string) => ['cold', 'received'].includes(data.states[jar] ?? '');
	const verdict = $derived(
		judgePullPlan(data.plan, data.jobs.length, cold, data.nowMs, (ms) => `${dayTime(ms, zone)} (${sayWhen(ms, data.nowMs)})`)
	);
	type Opening = (typeof data.plan.opens)[number];
	const fromMs = $derived(Math.min(data.nowMs, ...data.jobs.map((j) => j.startMs)));
	const toMs = $derived(Math.max(data.nowMs + 4 * 3_600_000, ...data.jobs.map((j) => j.endMs)));
	let width = $state(800);
	const LABEL = 190;
	const x = $derived((ms: number) => LABEL + ((ms - fromMs) / (toMs - fromMs)) * (width - LABEL - 12));
	const ROW = 34;
	const opens = $derived(data.plan.opens.filter((o) => o.serves.length > 0));
	/** As many instants as have room for their words. */
	const TICK_PX = 130;
	const spaces = $derived(Math.max(1, Math.min(4, Math.floor((width - LABEL) / TICK_PX) - 1)));
	const hours = $derived(Array.from({ length: spaces + 1 }, (_, i) => fromMs + ((toMs - fromMs) * i) / spaces));
</script>

<StationFrame {verdict}>
	{#snippet about()}{data.jobs.length}
		{data.jobs.length === 1 ? 'job' : 'jobs'} ahead, each at its time or in the order of entry, 30 min between them{data.jobs.length
			? `; ${[...new Set(data.jobs.map((j) => j.paste))].join(', ')}`
			: ''}.{/snippet}
	{#snippet picture()}
		<!-- svelte-ignore a11y_no_noninteractive_tabindex (what scrolls is reached by keys too) -->
		<div class="h-full overflow-auto" tabindex="0" role="region" aria-label="Fridge plan" bind:clientWidth={width}>
			{#if data.jobs.length}
				<svg
					{width}
					height={(data.jobs.length + opens.length + 2) * ROW + 30}
					role="img"
					aria-label="Jobs ahead and the jars that serve them"
					font-size="14"
					fill="var(--ink)"
				>
					{#each hours as h, i (i)}
						<line x1={x(h)} x2={x(h)} y1="22" y2={(data.jobs.length + opens.length + 1) * ROW + 20} stroke="var(--hair)" />
						<text
							x={x(h)}
							y="14"
							text-anchor={i === spaces ? 'end' : i === 0 ? 'start' : 'middle'}
							class="figure"
							fill="var(--soft)"
							font-size="12">{dayTime(h, zone)}</text
						>
					{/each}
					{#each data.jobs as job, i (job.number)}
						{@const y = 28 + i * ROW}
						<text x="0" y={y + 19}>{job.number}</text>
						<text x={LABEL - 12} y={y + 19} text-anchor="end" class="figure">{quantity(job.grams, 0, 'g')}</text>
						<rect
							x={x(job.startMs)}
							{y}
							width={Math.max(3, x(job.endMs) - x(job.startMs))}
							height={ROW - 10}
							fill="var(--sheet)"
							stroke="var(--ink)"
						/>
						{@const narrow = x(job.endMs) - x(job.startMs) < 80}
						<text x={x(job.startMs) + (narrow ? -6 : 6)} y={y + 17} text-anchor={narrow ? 'end' : 'start'} font-size="12"
							>{job.panels} panels</text
						>
					{/each}
					{#each opens as o, i (o.jar)}
						{@const y = 28 + (data.jobs.length + i + 0.5) * ROW}
						{@const end = Math.max(...o.serves.map((s) => data.jobs.find((j) => j.number === s.job.split(', part')[0])?.endMs ?? o.openMs))}
						<text x="0" y={y + 19}>{o.jar}, {(data.states[o.jar] ?? '').replace('_', ' ')}</text>
						<text x={LABEL - 12} y={y + 19} text-anchor="end" class="figure"
							>{quantity(
								o.serves.reduce((s, v) => s + v.grams, 0),
								0,
								'g'
							)}</text
						>
						{#if o.sealed}
							<line
								x1={x(Math.max(fromMs, o.takeOutByMs))}
								x2={x(o.openMs)}
								y1={y + 12}
								y2={y + 12}
								stroke="var(--copper)"
								stroke-width="2"
								stroke-dasharray="3 4"
							/>
						{/if}
						<rect
							x={x(Math.max(fromMs, o.openMs))}
							{y}
							width={Math.max(3, x(end) - x(Math.max(fromMs, o.openMs)))}
							height={ROW - 10}
							fill="var(--copper)"
							fill-opacity="0.28"
							stroke="var(--copper)"
						/>
					{/each}
					<line
						x1={x(data.nowMs)}
						x2={x(data.nowMs)}
						y1="18"
						y2={(data.jobs.length + opens.length + 1) * ROW + 20}
						stroke="var(--ink)"
						stroke-width="2"
					/>
				</svg>
				<p class="text-sm text-soft">
					Outlined: jobs. Filled: a jar from its opening to the end of the last job that it serves. Dotted: it warms by itself.
				</p>
			{:else}<p class="border border-dashed border-(color:--none) p-8 text-soft">
					No data. A plan needs a run or a job that is released for this line.
				</p>{/if}
		</div>
	{/snippet}
	{#snippet side()}
		<KeyFigure value={figure(data.plan.discardedG, 0, 'g')} unit={unitName('g')} label="thrown away, at the least" {verdict} />
		<DoNext actions={verdict.doNext} />
		<section data-testid="ahead">
			<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Jobs ahead: when each is wanted</h2>
			<ul>
				{#each data.jobs as job (job.number)}
					<li class="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-3 border-b border-hair py-1.5 text-sm">
						<span>{job.number}</span><span class="figure">{dayTime(job.startMs, zone)}</span>
						{#if job.jobId}
							<span class="font-semibold">{job.lateMin >= 1 ? `${sayLength(job.lateMin * 60_000)} late` : ''}</span>
							<JobStart job={{ ...job, jobId: job.jobId }} lineId={data.lineId} {zone} />
						{:else}<span class="text-soft">runs now</span>{/if}
					</li>
				{/each}
			</ul>
		</section>
		<section>
			<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Jars, in the order of opening</h2>
			{#snippet jarLink(o: Opening)}<a class="underline" href="/line/{page.params.line}/paste?jar={o.jar}">{o.jar}</a>{/snippet}
			<DataTable
				small
				whole
				name="jars-ahead"
				label="Jars, in the order of opening"
				testid="plan"
				rows={data.plan.opens}
				key={(o) => o.jar}
				columns={[
					{ id: 'jar', title: 'Jar', value: (o) => o.jar, cell: jarLink, class: 'whitespace-nowrap' },
					{
						id: 'out',
						title: 'out by',
						value: (o) => (cold(o.jar) ? o.takeOutByMs : 0),
						words: (o) => (cold(o.jar) ? dayTime(o.takeOutByMs, zone) : 'is out')
					},
					{
						id: 'open',
						title: 'open at',
						value: (o) => (o.sealed ? o.openMs : 0),
						words: (o) => (o.sealed ? dayTime(o.openMs, zone) : 'is open')
					},
					{ id: 'left', title: 'left over, g', value: (o) => o.discardedG, decimals: 0 }
				]}
				empty="No jar of this paste."
			/>
		</section>
		{#if data.leftOut.length}
			<section>
				<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Not for these jobs</h2>
				<DataTable
					small
					whole
					name="jars-left-out"
					label="Not for these jobs"
					rows={data.leftOut}
					key={(l) => l.id}
					rowClass={() => 'text-soft'}
					columns={[
						{ id: 'jar', title: 'Jar', value: (l) => l.id },
						{ id: 'why', title: 'Why', value: (l) => l.why }
					]}
					empty="None."
				/>
			</section>
		{/if}
		<Caution text="A jar warms by itself, never on a heater; cold paste is neither opened nor stirred." />
	{/snippet}
</StationFrame>
