<script lang="ts">
	import { page } from '$app/state';
	import { noData } from '@keen-relay/core/judgement';
	import Blades from '$lib/ui/Blades.svelte';
	import Caution from '$lib/ui/Caution.svelte';
	import Chart, { type Palette } from '$lib/ui/Chart.svelte';
	import { axis, limitLine, roomFor } from '$lib/ui/chart-parts.ts';
	import DoNext from '$lib/ui/DoNext.svelte';
	import KeyFigure from '$lib/ui/KeyFigure.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';

	let { data } = $props();
	const summary = $derived(page.data.line?.stations.find((s) => s.stationId === data.station.id));
	const verdict = $derived(summary?.verdict ?? noData('No run on this line.'));
	const last = $derived(data.latest.at(-1));

	const config = $derived((p: Palette) => ({
		type: 'scatter' as const,
		data: {
			datasets: (['F', 'R'] as const).map((stroke) => ({
				label: stroke === 'F' ? 'front stroke' : 'rear stroke',
				data: data.latest.flatMap((print, i) => (print.stroke === stroke ? [{ x: i + 1, y: print.cycleS }] : [])),
				pointStyle: stroke === 'F' ? ('triangle' as const) : ('rect' as const),
				pointRadius: 6,
				backgroundColor: stroke === 'F' ? p.ink : p.paper,
				borderColor: p.ink
			}))
		},
		options: {
			maintainAspectRatio: false,
			scales: {
				x: axis(p, 'print of this run, the latest 60 (▲ front stroke, □ rear stroke)', {
					min: 0,
					max: Math.max(10, data.latest.length + 1)
				}),
				y: axis(p, 'print cycle, s', {
					min: 0,
					max: roomFor(
						data.latest.map((print) => print.cycleS),
						[0, data.takt?.taktS ?? 0]
					).max
				})
			},
			plugins: {
				annotation: { annotations: data.takt?.taktS ? { takt: limitLine(p, data.takt.taktS, `takt ${data.takt.taktS.toFixed(1)} s`) } : {} }
			}
		}
	}));
</script>

<StationFrame {verdict}>
	{#snippet about()}
		{#if data.stencil}Stencil {data.stencil.revision}, {data.stencil.foilUm} µm, released.{:else}No stencil is released for this board.{/if}
	{/snippet}
	{#snippet picture()}
		{#if data.latest.length}
			<Chart {config} label="Print cycle of the latest prints against the takt" />
		{:else}
			<p class="border border-dashed border-(color:--none) p-8 text-soft">
				No data. Prints of the running job appear here as they are reported.
			</p>
		{/if}
	{/snippet}
	{#snippet side()}
		<KeyFigure value={summary?.figure ?? '–'} unit="" label="a print, wipes included" {verdict} />
		<DoNext actions={verdict.doNext} />
		<section>
			<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Latest print</h2>
			{#if last}
				<table class="rows">
					<tbody>
						<tr><td>panel</td><td class="n"><a class="underline" href="/panels/{last.serial}">{last.serial}</a></td></tr>
						<tr><td>stroke</td><td class="n">{last.stroke === 'F' ? 'front' : 'rear'}</td></tr>
						<tr><td>prints since wipe</td><td class="n">{last.printsSinceWipe}</td></tr>
						<tr><td>cycle, s</td><td class="n">{last.cycleS.toFixed(1)}</td></tr>
						<tr><td>line takt, s</td><td class="n">{data.takt?.taktS?.toFixed(1) ?? '–'}</td></tr>
					</tbody>
				</table>
			{:else}<p class="py-2 text-soft">Nothing printed yet.</p>{/if}
		</section>
		<Blades lineId={data.lineId} blades={data.blades} />
		<Caution text="Moving blades and gantry, sharp foil edges; paste may contain lead, its flux irritates: gloves on, wash hands." />
	{/snippet}
</StationFrame>
