<script lang="ts">
	import DataTable from './DataTable.svelte';
	import { page } from '$app/state';
	import type { PanelGeometry } from '@keen-relay/core/artwork';
	import type { FailRow } from '@keen-relay/core/inspection';
	import { noData } from '@keen-relay/core/judgement';
	import { defectWords } from '$lib/rules/index.ts';
	import BoardDrawing from './BoardDrawing.svelte';
	import Caution from './Caution.svelte';
	import DoNext from './DoNext.svelte';
	import { clockTime } from './format.ts';
	import { drawnParts, loadGeometry, type SideGeometry } from './geometry.ts';
	import KeyFigure from './KeyFigure.svelte';
	import StationFrame from './StationFrame.svelte';

	interface Props {
		station: { id: number; name: string };
		side: { id: number; geometry: PanelGeometry } | null;
		byPlace: FailRow[];
		byCode: FailRow[];
		total: number;
		latest: {
			refDes: string;
			pin: string | null;
			code: string;
			measured: string | null;
			circuit: number;
			startedAt: Date;
			serial: string;
		}[];
		caution: string;
	}
	let { station, side, byPlace, byCode, total, latest, caution }: Props = $props();
	let geometry = $state.raw<SideGeometry | null>(null);
	let picked = $state<string | null>(null);
	$effect(() => {
		if (side)
			loadGeometry(side.id).then(
				(g) => (geometry = g),
				() => (geometry = null)
			);
	});
	const summary = $derived(page.data.line?.stations.find((s) => s.stationId === station.id));
	const verdict = $derived(summary?.verdict ?? noData('No run on this line.'));
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const SHOWN = 12;
	const counts = $derived.by(() => {
		const sums = new Map<string, number>();
		for (const row of byPlace) {
			const refDes = row.key.split(' ')[0]!;
			sums.set(refDes, (sums.get(refDes) ?? 0) + row.count);
		}
		return sums;
	});
	const most = $derived(byPlace[0]?.count ?? 1);
	const chosenRef = $derived((picked ?? byPlace[0]?.key)?.split(' ')[0] ?? null);
	const ring = $derived.by(() => {
		const part = geometry?.parts.find((p) => p.refDes === chosenRef);
		return part ? { x: part.xMm, y: part.yMm } : null;
	});
</script>

<StationFrame {verdict}>
	{#snippet about()}
		{total}
		{total === 1 ? 'call' : 'calls'} in this run; machine yield, before anybody reviewed a call. The board below shows one circuit: parts that
		were called are filled.
	{/snippet}
	{#snippet picture()}
		{#if geometry}
			<BoardDrawing
				widthMm={geometry.widthMm}
				heightMm={geometry.heightMm}
				pads={geometry.apertures}
				parts={drawnParts(geometry.parts)}
				colourOf={(i) => {
					const n = counts.get(geometry!.apertures[i]!.refDes ?? '') ?? 0;
					return n === 0 ? null : n >= most ? 'act' : 'watch';
				}}
				onpick={(i) => (picked = geometry!.apertures[i]!.refDes)}
				{ring}
				label="Where calls were made on the board"
			/>
		{:else}
			<p class="border border-dashed border-(color:--none) p-8 text-soft">
				No data. What fails where is drawn here once a run reports inspections.
			</p>
		{/if}
	{/snippet}
	{#snippet side()}
		<KeyFigure value={summary?.figure ?? '–'} unit="" label="of the circuits pass at first" {verdict} />
		<DoNext actions={verdict.doNext} />
		<section>
			<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">What fails where</h2>
			<ul class="py-1" data-testid="fails">
				{#each byPlace.slice(0, SHOWN) as row (row.key)}
					<li>
						<button
							class="grid w-full grid-cols-[1fr_110px_36px] items-center gap-2 py-0.5 text-left text-sm {picked === row.key
								? 'font-semibold'
								: ''}"
							onclick={() => (picked = row.key)}
						>
							<span class="truncate">{row.key}</span>
							<span class="h-3 bg-hair"><span class="block h-3 bg-soft" style="width:{(100 * row.count) / most}%"></span></span>
							<span class="figure text-right">{row.count}</span>
						</button>
					</li>
				{:else}<li class="py-1 text-soft">Nothing has failed in this run.</li>{/each}
			</ul>
		</section>
		{#if byCode.length}
			<p class="text-sm text-soft">By kind: {byCode.map((row) => `${defectWords(row.key, page.data.defects)} ${row.count}`).join(', ')}.</p>
		{/if}
		{#if latest.length}
			<section>
				<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Latest calls</h2>
				{#snippet panel({ serial }: (typeof latest)[number])}<a class="underline" href="/panels/{serial}">{serial}</a>{/snippet}
				<DataTable
					small
					whole
					name="latest-calls"
					label="Latest calls"
					rows={latest.slice(0, 8).map((call, i) => ({ ...call, i }))}
					key={({ i }) => i}
					columns={[
						{
							id: 'at',
							title: 'At',
							value: (call) => new Date(call.startedAt).getTime(),
							words: (call) => clockTime(call.startedAt, zone)
						},
						{ id: 'panel', title: 'Panel', value: (call) => call.serial, cell: panel },
						{
							id: 'call',
							title: 'Call',
							value: (call) => `${call.refDes} ${defectWords(call.code, page.data.defects)}${call.measured ? `, ${call.measured}` : ''}`
						}
					]}
					empty="No call."
				/>
			</section>
		{/if}
		<Caution text={caution} />
	{/snippet}
</StationFrame>
