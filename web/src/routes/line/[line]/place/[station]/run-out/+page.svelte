<script lang="ts">
	import { page } from '$app/state';
	import Caution from '$lib/ui/Caution.svelte';
	import DataTable from '$lib/ui/DataTable.svelte';
	import { clockTime, sayWhen } from '$lib/ui/format.ts';
	import KeyFigure from '$lib/ui/KeyFigure.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import { fixed } from '$lib/ui/theirs.svelte.ts';

	import EndForm from './EndForm.svelte';

	let { data } = $props();
	/** What a stop is for: a slot, or an end of the line. */
	interface End {
		machine: string;
		slot: number | null;
		partNumber: string;
		pieces: number | null;
		lossShare: number | null;
		panels: number;
		endMs: number;
		earliestMs: number;
		latestMs: number;
	}
	const ENDS = { loader: 'Loader empty', unloader: 'Unloader full' } as const;
	const ends = $derived<End[]>(
		[
			...data.ends,
			...data.standing.map(({ end, left, endMs }) => ({
				machine: ENDS[end],
				slot: null,
				partNumber: '',
				pieces: null,
				lossShare: null,
				panels: left,
				endMs,
				earliestMs: endMs,
				latestMs: endMs
			}))
		].sort((a, b) => a.endMs - b.endMs)
	);
	const nameOf = (end: End) => (end.slot === null ? end.machine : `${end.machine}, slot ${end.slot}`);
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const stops = $derived(data.round?.stops ?? []);
	const next = $derived(ends[0] ?? null);
	/** The time that the picture shows, ms. */
	const AHEAD_MS = 4 * 3_600_000;
	let width = $state(800);
	const ROW = 22;
	const LABEL = 150;
	const x = $derived((ms: number) => LABEL + (Math.min(Math.max(ms - data.nowMs, 0), AHEAD_MS) / AHEAD_MS) * (width - LABEL - 16));
	const shown = $derived(ends.filter((end) => end.earliestMs - data.nowMs < AHEAD_MS));
	const xOf = $derived((m: number) => 4 + (m / data.lengthM) * 300);
	const at = (stop: { machine: string; slot: number }) => data.ends.find((e) => e.machine === stop.machine && e.slot === stop.slot);
</script>

<StationFrame verdict={data.verdict}>
	{#snippet about()}The whole line’s slots: what is spliced at one placer keeps the others going. Looked ahead {data.aheadH} h of work, breaks
		left out.{/snippet}
	{#snippet picture()}
		<div class="flex h-full flex-col gap-3">
			<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
			<div class="max-h-[46%] shrink-0 overflow-y-auto" tabindex="0" role="region" aria-label="When slots run out" bind:clientWidth={width}>
				{#if shown.length}
					<svg
						{width}
						height={shown.length * ROW + 26}
						role="img"
						aria-label="When each slot runs out, with the range in which it lies"
						font-size="13"
						fill="var(--ink)"
					>
						{#each [0, 1, 2, 3, 4] as h (h)}
							{@const hx = x(data.nowMs + h * 3_600_000)}
							<line x1={hx} x2={hx} y1="18" y2={shown.length * ROW + 22} stroke="var(--hair)" />
							<text
								x={hx}
								y="12"
								text-anchor={h === 0 ? 'start' : h === 4 ? 'end' : 'middle'}
								class="figure"
								font-size="12"
								fill="var(--soft)">{h === 0 ? 'now' : clockTime(data.nowMs + h * 3_600_000, zone)}</text
							>
						{/each}
						{#each shown as end, i (nameOf(end))}
							{@const y = 22 + i * ROW}
							<text x="0" y={y + 15}>{nameOf(end)}</text>
							<rect x={x(data.nowMs)} y={y + 5} width={Math.max(2, x(end.endMs) - x(data.nowMs))} height="12" fill="var(--line)" />
							<line x1={x(end.earliestMs)} x2={x(end.latestMs)} y1={y + 11} y2={y + 11} stroke="var(--ink)" stroke-width="2" />
							<rect x={x(end.endMs) - 2} y={y + 3} width="4" height="16" fill="var(--copper)" />
						{/each}
					</svg>
				{:else}<p class="border border-dashed border-(color:--none) p-6 text-soft">No slot runs out in the next four hours.</p>{/if}
			</div>
			<div class="min-h-0 flex-1">
				<DataTable
					small
					name="run-out"
					label="When slots run out"
					testid="run-out"
					rows={ends}
					key={nameOf}
					columns={[
						{ id: 'machine', title: 'Where', value: (e: End) => e.machine },
						{ id: 'slot', title: 'Slot', value: (e: End) => e.slot, figures: true },
						{ id: 'part', title: 'Part', value: (e: End) => e.partNumber },
						{ id: 'pieces', title: 'Pieces', value: (e: End) => e.pieces, figures: true },
						{ id: 'lost', title: 'Lost, %', value: (e: End) => (e.lossShare === null ? null : 100 * e.lossShare), decimals: 2 },
						{ id: 'panels', title: 'Panels', value: (e: End) => e.panels, figures: true },
						{ id: 'ends', title: 'Ends', value: (e: End) => e.endMs, words: (e: End) => clockTime(e.endMs, zone), figures: true },
						{
							id: 'range',
							title: 'between',
							value: (e: End) => e.earliestMs,
							words: (e: End) => `${clockTime(e.earliestMs, zone)}–${clockTime(e.latestMs, zone)}`,
							figures: true
						}
					]}
					empty="Every slot that is loaded, the loader and the unloader outlast the run."
				/>
			</div>
		</div>
	{/snippet}
	{#snippet side()}
		<KeyFigure
			value={next ? clockTime(next.endMs, zone) : '–'}
			unit=""
			label={next
				? next.slot === null
					? `${next.machine} first, ${sayWhen(next.endMs, data.nowMs)}`
					: `${next.machine} stops at slot ${next.slot} first, ${sayWhen(next.endMs, data.nowMs)}`
				: 'nothing runs out in this run'}
			verdict={data.verdict}
		/>
		{#if stops.length}
			<section>
				<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">One technician’s round</h2>
				<svg viewBox="0 0 308 44" class="w-full" role="img" aria-label="The placers along the line, to scale, with the round">
					{#each data.banks as bank (bank.id)}
						<line x1={xOf(bank.fromM)} x2={xOf(bank.fromM) + 2} y1="30" y2="30" stroke="var(--line)" />
						<text x={xOf(bank.fromM)} y="42" font-size="11" fill="var(--soft)">{bank.name}</text>
					{/each}
					<line x1="4" x2="304" y1="28" y2="28" stroke="var(--line)" stroke-width="2" />
					{#each stops as stop, i (i)}
						{@const end = at(stop)}
						{#if end}<circle cx={xOf(end.xM)} cy="28" r="5" fill="var(--copper)" /><text
								x={xOf(end.xM)}
								y={i % 2 ? 9 : 19}
								text-anchor="middle"
								class="figure"
								font-size="11"
								fill="var(--ink)">{i + 1}</text
							>{/if}
					{/each}
				</svg>
				<ol class="py-1" data-testid="round">
					{#each stops as stop, i (i)}
						<li class="grid grid-cols-[20px_minmax(0,1fr)_auto] gap-2 border-b border-hair py-1">
							<span class="figure">{i + 1}</span>
							<span
								><a
									class="underline"
									href="/line/{page.params.line}/place/{data.banks.find((b) => b.name === stop.machine)?.id}?slot={stop.slot}"
									>{stop.machine}, slot {stop.slot}</a
								><span class="block text-sm text-soft"
									>leave {clockTime(stop.leaveMs, zone)}, be there {clockTime(stop.startMs, zone)}; {stop.partNumber}</span
								></span
							>
							<span class="text-right text-sm {stop.spareS < 0 ? 'font-semibold' : 'text-soft'}"
								>{stop.spareS < 0
									? `${fixed(-stop.spareS, 0)} s late`
									: stop.spareS < 120
										? `spare ${fixed(stop.spareS, 0)} s`
										: `spare ${fixed(stop.spareS / 60, 0)} min`}</span
							>
						</li>
					{/each}
				</ol>
			</section>
		{/if}
		<section>
			<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Loader and unloader</h2>
			{#each ['loader', 'unloader'] as const as end (end)}
				<EndForm {end} lineId={data.lineId} magazine={data.magazines.find((m) => m.end === end) ?? null} {zone} />
			{/each}
		</section>
		<p class="text-sm text-soft">
			{#if data.rule}A splice takes {fixed(data.rule.spliceS, 0)} s and is begun when the reel feeds {fixed(data.rule.tailMin, 0)} min at the
				most; walking at {fixed(data.rule.walkMPerS, 1)} m/s; the line {data.rule.lineStands ? 'stands in' : 'runs through'} its breaks (<a
					class="underline"
					href="/plant/rules?rule=splices">rule</a
				>).{/if} Lost picks are 0.5 % to begin with, then what the slot has shown. Machines in series wait for one another: the latest splice
			counts, not the sum. Pieces are as counted or labelled: a wrong count is not in the range.
		</p>
		<Caution text="Feeder gears, cutters and tape knives cut: splice only as the machine’s manual allows while it runs; never reach in." />
	{/snippet}
</StationFrame>
