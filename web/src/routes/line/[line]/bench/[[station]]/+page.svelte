<script lang="ts">
	import { page } from '$app/state';
	import { noData } from '@keen-relay/core/judgement';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import Caution from '$lib/ui/Caution.svelte';
	import { plantTime } from '$lib/ui/clock.svelte.ts';
	import { clockTime } from '$lib/ui/format.ts';
	import { defectWords } from '$lib/rules/index.ts';
	import KeyFigure from '$lib/ui/KeyFigure.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';

	let { data } = $props();
	const summary = $derived(page.data.line?.stations.find((s) => s.stationId === data.station.id));
	const verdict = $derived(summary?.verdict ?? noData('No run on this line.'));
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const most = $derived(data.byPlace[0]?.count ?? 1);
	let panel = $state('');
	let circuit = $state(1);
	let attempt = $state(1);
	let place = $state('');
	let reason = $state('');

	/** A fail names place and reason; a pass needs neither. */
	async function report(result: 'pass' | 'fail') {
		const done = await act(
			'POST',
			'/api/v1/reports',
			{
				stationId: data.station.id,
				type: 'bench_inspection',
				formId: crypto.randomUUID(),
				fields: {
					panel: panel.trim(),
					circuit: circuit - 1,
					attempt,
					startedAt: new Date(plantTime.now).toISOString(),
					result,
					calls: result === 'fail' ? [{ refDes: place.trim(), code: reason.trim() }] : []
				}
			},
			`${panel.trim()}, circuit ${circuit}: ${result}`
		);
		if (done) [place, reason, attempt] = ['', '', 1];
	}
	const ready = $derived(panel.trim() !== '' && circuit > 0);
</script>

<StationFrame {verdict}>
	{#snippet about()}Pass or fail by circuit, with place and reason; a device at the bench may report the same.{/snippet}
	{#snippet picture()}
		<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
		<div class="h-full overflow-y-auto" role="group" aria-label="What fails where" tabindex="0">
			<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">What fails where</h2>
			<ul class="grid gap-1 py-2">
				{#each data.byPlace.slice(0, 8) as row (row.key)}
					<li class="grid grid-cols-[14rem_minmax(0,1fr)_auto] items-center gap-3">
						<span class="truncate">{row.key}</span>
						<span class="block h-4 bg-hair"><span class="block h-4 bg-soft" style="width:{(100 * row.count) / most}%"></span></span>
						<span class="figure">{row.count}</span>
					</li>
				{:else}<li class="border border-dashed border-(color:--none) p-6 text-soft">Nothing has failed here in this run.</li>{/each}
			</ul>
			<h2 class="mt-3 border-b border-hair pb-1 text-sm font-semibold text-soft">Latest fails</h2>
			<table class="rows" data-testid="fails">
				<tbody>
					{#each data.latest as call, i (i)}
						<tr>
							<td class="figure">{clockTime(call.startedAt, zone)}</td>
							<td><a class="figure underline" href="/panels/{encodeURIComponent(call.serial)}">{call.serial}</a></td>
							<td>circuit {call.circuit + 1}</td><td>{call.refDes}</td><td>{defectWords(call.code, page.data.defects)}</td>
						</tr>
					{:else}<tr><td class="text-soft">None yet.</td></tr>{/each}
				</tbody>
			</table>
		</div>
	{/snippet}
	{#snippet side()}
		<KeyFigure value={summary?.figure ?? '–'} unit="" label="of the circuits pass at first" {verdict} />
		<form class="grid grid-cols-2 gap-3" aria-label="Inspect" onsubmit={(e) => e.preventDefault()}>
			<label class="col-span-2 text-sm"
				><span class="text-soft">Panel</span><input
					class="figure input h-14 w-full border-line bg-sheet text-lg"
					bind:value={panel}
					aria-label="Panel"
				/></label
			>
			<label class="text-sm"
				><span class="text-soft">Circuit</span><NumberField
					bare
					label="Circuit"
					whole
					class="h-12 w-full"
					min={1}
					bind:value={circuit}
				/></label
			>
			<label class="text-sm"
				><span class="text-soft">Attempt</span><NumberField
					bare
					label="Attempt"
					whole
					class="h-12 w-full"
					min={1}
					bind:value={attempt}
				/></label
			>
			<button
				type="button"
				class="btn col-span-2 min-h-16 text-lg btn-primary"
				disabled={!ready || !can('message.type')}
				onclick={() => report('pass')}>Pass</button
			>
			<label class="text-sm"
				><span class="text-soft">Place</span><input
					class="input h-12 w-full border-line bg-sheet"
					bind:value={place}
					placeholder="R12"
				/></label
			>
			<label class="text-sm"
				><span class="text-soft">Reason</span><input
					class="input h-12 w-full border-line bg-sheet"
					bind:value={reason}
					list="defects"
					placeholder="skew"
				/></label
			>
			<datalist id="defects"
				>{#each page.data.defects.codes.filter((known) => known.inUse) as { code, words } (code)}<option value={code}>{words}</option
					>{/each}</datalist
			>
			<button
				type="button"
				class="btn col-span-2 min-h-16 border-ink bg-transparent text-lg"
				disabled={!ready || place.trim() === '' || reason.trim() === '' || !can('message.type')}
				onclick={() => report('fail')}>Fail, with place and reason</button
			>
		</form>
		<Caution text="Static kills parts: strap on. Sharp edges and hot joints after rework; lamps and magnifiers as their manuals say." />
	{/snippet}
</StationFrame>
