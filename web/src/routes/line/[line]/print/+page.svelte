<script lang="ts">
	import { page } from '$app/state';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import Leave from '$lib/ui/Leave.svelte';
	import { noData } from '@keen-relay/core/judgement';
	import Blades from '$lib/ui/Blades.svelte';
	import Caution from '$lib/ui/Caution.svelte';
	import Chart, { type Palette } from '$lib/ui/Chart.svelte';
	import { axis, limitLine, roomFor } from '$lib/ui/chart-parts.ts';
	import DoNext from '$lib/ui/DoNext.svelte';
	import KeyFigure from '$lib/ui/KeyFigure.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import { fixed, quantity, say } from '$lib/ui/theirs.svelte.ts';

	let { data } = $props();
	/** Rejected panels that have room beside the picture. */
	const MOST_REJECTS = 3;
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
				annotation: { annotations: data.takt?.taktS ? { takt: limitLine(p, data.takt.taktS, `takt ${fixed(data.takt.taktS, 1)} s`) } : {} }
			}
		}
	}));
</script>

<StationFrame {verdict}>
	{#snippet about()}
		{#if data.stencil}Stencil {data.stencil.revision}, {quantity(data.stencil.foilUm, 0, 'µm')}, released.{:else}No stencil is released for
			this board.{/if}
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
		<KeyFigure
			value={summary?.figure ?? '–'}
			unit=""
			label={summary?.words === 'a print' ? 'a print, wipes included' : (summary?.words ?? '')}
			{verdict}
		/>
		{#if data.rejects.length}
			<section data-testid="rejects">
				<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Held before the placers</h2>
				{#each data.rejects.slice(0, MOST_REJECTS) as held, i (held.id)}
					<div class="flex flex-col gap-2 border-b border-hair py-2" data-testid="reject-{held.subject}">
						<p>
							<a class="figure font-semibold underline" href="/panels/{encodeURIComponent(held.subject)}">{held.subject}</a>
							<span class="text-sm">{say(held.why)}</span>
						</p>
						{#if held.wash === null}
							<div class="flex flex-wrap gap-3">
								<button
									class="btn min-h-16 grow text-lg {i ? 'border-ink bg-transparent' : 'btn-primary'}"
									disabled={!can('misprint.record')}
									onclick={() =>
										act<{ statement: string; actionId?: number }>(
											'POST',
											`/api/v1/panels/${encodeURIComponent(held.subject)}/misprint`,
											{},
											`${held.subject} is taken off`
										)}>Take it off and wash it</button
								>
								<Leave holdId={held.id} subject={held.subject} />
							</div>
						{:else if held.wash.words}
							<button
								class="btn min-h-16 justify-start border-ink bg-transparent text-left"
								disabled={!can('misprint.record')}
								onclick={() =>
									act('POST', `/api/v1/misprints/${held.wash!.misprintId}/steps`, { step: held.wash!.step }, `${held.wash!.words}: done`)}
								>{held.wash.step + 1} of {held.wash.of}. {held.wash.words}: done</button
							>
						{:else if held.wash.decision === 'wash_and_reprint'}
							<p class="text-sm text-soft">Washed and dry: the printer takes it next.</p>
						{:else}
							<div class="flex flex-wrap items-center gap-3">
								<p class="text-sm text-soft">It is not washed again: an engineer decides.</p>
								<Leave holdId={held.id} subject={held.subject} />
							</div>
						{/if}
					</div>
				{/each}
				{#if data.rejects.length > MOST_REJECTS}<p class="py-2 text-sm">
						<a class="link" href="/panels/holds">{data.rejects.length - MOST_REJECTS} more are held</a>
					</p>{/if}
			</section>
		{:else}
			<DoNext actions={verdict.doNext} />
		{/if}
		<section>
			<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Latest print</h2>
			{#if last}
				<dl class="facts">
					<div>
						<dt>panel</dt>
						<dd class="n"><a class="underline" href="/panels/{last.serial}">{last.serial}</a></dd>
					</div>
					<div>
						<dt>stroke</dt>
						<dd class="n">{last.stroke === 'F' ? 'front' : 'rear'}</dd>
					</div>
					<div>
						<dt>prints since wipe</dt>
						<dd class="n">{last.printsSinceWipe}</dd>
					</div>
					<div>
						<dt>cycle, s</dt>
						<dd class="n">{fixed(last.cycleS, 1)}</dd>
					</div>
					<div>
						<dt>line takt, s</dt>
						<dd class="n">{fixed(data.takt?.taktS, 1) ?? '–'}</dd>
					</div>
				</dl>
			{:else}<p class="py-2 text-soft">Nothing printed yet.</p>{/if}
		</section>
		<Blades lineId={data.lineId} blades={data.blades} />
		<Caution text="Moving blades and gantry, sharp foil edges; paste may contain lead, its flux irritates: gloves on, wash hands." />
	{/snippet}
</StationFrame>
