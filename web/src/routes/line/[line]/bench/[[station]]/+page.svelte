<script lang="ts">
	import DataTable from '$lib/ui/DataTable.svelte';
	import TextField from '$lib/ui/TextField.svelte';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import { page } from '$app/state';
	import { z } from 'zod';
	import { noData } from '@keen-relay/core/judgement';
	import { can } from '$lib/ui/can.ts';
	import Caution from '$lib/ui/Caution.svelte';
	import { plantTime } from '$lib/ui/clock.svelte.ts';
	import { defectWords } from '$lib/rules/index.ts';
	import KeyFigure from '$lib/ui/KeyFigure.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';

	let { data } = $props();
	const summary = $derived(page.data.line?.stations.find((s) => s.stationId === data.station.id));
	const verdict = $derived(summary?.verdict ?? noData('No run on this line.'));
	type Call = (typeof data.latest)[number];
	const most = $derived(data.byPlace[0]?.count ?? 1);
	/** A fail names place and reason; a pass needs neither. */
	const inspected = z
		.object({
			panel: z.string().trim().min(1, 'scan or type the panel'),
			circuit: z.int().min(1),
			attempt: z.int().min(1),
			result: z.enum(['pass', 'fail']),
			place: z.string().trim(),
			reason: z.string().trim()
		})
		.superRefine(({ result, place, reason }, context) => {
			if (result === 'pass') return;
			if (!place) context.addIssue({ code: 'custom', path: ['place'], message: 'say where it fails' });
			if (!reason) context.addIssue({ code: 'custom', path: ['reason'], message: 'say why it fails' });
		});
	const { form, errors, enhance } = entry({
		id: 'inspect',
		schema: inspected,
		// The next circuit of the panel follows.
		start: (after) => ({
			panel: after?.panel ?? '',
			circuit: after?.circuit ?? 1,
			attempt: 1,
			result: 'pass' as 'pass' | 'fail',
			place: '',
			reason: ''
		}),
		path: '/api/v1/reports',
		body: ({ panel, circuit, attempt, result, place, reason }) => ({
			stationId: data.station.id,
			type: 'bench_inspection',
			formId: crypto.randomUUID(),
			fields: {
				panel,
				circuit: circuit - 1,
				attempt,
				startedAt: new Date(plantTime.now).toISOString(),
				result,
				calls: result === 'fail' ? [{ refDes: place, code: reason }] : []
			}
		}),
		done: ({ panel, circuit, result }) => `${panel}, circuit ${circuit}: ${result}`
	});
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
			{#snippet serial(call: Call)}<a class="figure underline" href="/panels/{encodeURIComponent(call.serial)}">{call.serial}</a>{/snippet}
			<DataTable
				small
				whole
				name="bench-fails"
				label="Latest fails"
				testid="fails"
				rows={data.latest}
				key={(call) => data.latest.indexOf(call)}
				columns={[
					{ id: 'at', title: 'Time', value: (call) => new Date(call.startedAt).getTime(), time: true },
					{ id: 'panel', title: 'Panel', value: (call) => call.serial, cell: serial },
					{ id: 'circuit', title: 'Circuit', value: (call) => call.circuit + 1, figures: true },
					{ id: 'place', title: 'Place', value: (call) => call.refDes },
					{ id: 'reason', title: 'Reason', value: (call) => defectWords(call.code, page.data.defects) }
				]}
				empty="None yet."
			/>
		</div>
	{/snippet}
	{#snippet side()}
		<KeyFigure value={summary?.figure ?? '–'} unit="" label="of the circuits pass at first" {verdict} />
		<EntryForm {enhance} label="Inspect" class="grid grid-cols-2 gap-3">
			<TextField label="Panel" bind:value={$form.panel} errors={$errors.panel} figure class="h-14 text-lg" around="col-span-2" />
			<NumberField label="Circuit" whole class="h-12" min={1} bind:value={$form.circuit} errors={$errors.circuit} />
			<NumberField label="Attempt" whole class="h-12" min={1} bind:value={$form.attempt} errors={$errors.attempt} />
			<button class="btn col-span-2 min-h-16 text-lg btn-primary" disabled={!can('message.type')} onclick={() => ($form.result = 'pass')}
				>Pass</button
			>
			<TextField label="Place" bind:value={$form.place} errors={$errors.place} placeholder="R12" />
			<TextField label="Reason" bind:value={$form.reason} errors={$errors.reason} list="defects" placeholder="skew" />
			<datalist id="defects"
				>{#each page.data.defects.codes.filter((known) => known.inUse) as { code, words } (code)}<option value={code}>{words}</option
					>{/each}</datalist
			>
			<button
				class="btn col-span-2 min-h-16 border-ink bg-transparent text-lg"
				disabled={!can('message.type')}
				onclick={() => ($form.result = 'fail')}>Fail, with place and reason</button
			>
		</EntryForm>
		<Caution text="Static kills parts: strap on. Sharp edges and hot joints after rework; lamps and magnifiers as their manuals say." />
	{/snippet}
</StationFrame>
