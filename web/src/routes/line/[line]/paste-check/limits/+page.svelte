<script lang="ts">
	import DataTable from '$lib/ui/DataTable.svelte';
	import { checkLimits, LIMIT_PANELS, statisticalLimits, widened, type LimitSet } from '@keen-relay/core/inspection';
	import { InputError, type Verdict } from '@keen-relay/core/judgement';
	import { PAD_CLASS_NAMES, PAD_CLASSES, type PadClass } from '@keen-relay/core/parts';
	import { bodies } from '$lib/api/bodies.ts';
	import { can } from '$lib/ui/can.ts';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import { same } from '$lib/ui/same.ts';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import TextField from '$lib/ui/TextField.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';

	let { data } = $props();
	const { form, enhance, draft, errors } = entry({
		id: 'limits',
		schema: bodies.pasteLimits,
		start: () => ({ limits: structuredClone(data.limits), note: '', startedFrom: data.revision }),
		follows: true,
		method: 'PUT',
		path: '/api/v1/paste-limits',
		done: () => 'Limits kept',
		draft: { subject: 'paste-limits', base: () => (data.revision ? `revision ${data.revision}` : 'common practice') }
	});
	const problem = $derived.by(() => {
		try {
			checkLimits($form.limits as LimitSet);
			return '';
		} catch (error) {
			if (error instanceof InputError) return error.message;
			throw error;
		}
	});
	const wider = $derived(problem ? [] : widened(data.limits, $form.limits as LimitSet));
	const changed = $derived(!same($form.limits, data.limits));
	const verdict = $derived<Verdict>(
		problem
			? { level: 'act', statement: problem, because: [], doNext: [] }
			: wider.length
				? { level: 'watch', statement: `Wider than now: ${wider.join(', ')}. A second person approves that.`, because: [], doNext: [] }
				: {
						level: 'good',
						statement: changed
							? 'Tighter or equal everywhere.'
							: `These limits judge every panel${data.revision ? `, revision ${data.revision}` : ': common practice, to start from'}.`,
						because: [],
						doNext: []
					}
	);
	/** How many spreads from the mean a statistical limit lies. */
	let k = $state(4);
	const enough = $derived(data.spreads.filter((s) => s.panels >= LIMIT_PANELS));
	function tighten() {
		for (const s of enough) $form.limits[s.padClass] = statisticalLimits($form.limits[s.padClass]!, s.meanPct, s.sigmaPct, k);
		if (!$form.note) $form.note = `volume: mean ± ${k} spreads of ${data.run}`;
	}
	const COLUMNS = [
		['volume fails below', (c: LimitSet[PadClass]) => c.volumePct.fail, 0],
		['above', (c: LimitSet[PadClass]) => c.volumePct.fail, 1],
		['warns below', (c: LimitSet[PadClass]) => c.volumePct.warn, 0],
		['above', (c: LimitSet[PadClass]) => c.volumePct.warn, 1],
		['height from', (c: LimitSet[PadClass]) => c.heightPct, 0],
		['to', (c: LimitSet[PadClass]) => c.heightPct, 1],
		['area from', (c: LimitSet[PadClass]) => c.areaPct, 0],
		['to', (c: LimitSet[PadClass]) => c.areaPct, 1]
	] as const;
	function set(c: PadClass, of: (limits: LimitSet[PadClass]) => [number, number], end: 0 | 1, value: number | null) {
		const limits = structuredClone($form.limits[c]!);
		of(limits)[end] = value ?? 0;
		$form.limits[c] = limits;
	}
</script>

<StationFrame {verdict}>
	{#snippet about()}All in % of the nominal; a value on a limit passes. Offsets as a share of the opening’s width.{/snippet}
	{#snippet picture()}
		<EntryForm {enhance} {draft} id="limits" label="Limits by class" class="h-full overflow-auto">
			<table class="rows text-sm" data-testid="limits">
				<thead
					><tr
						><th>Class</th>{#each COLUMNS as [name], i (i)}<th class="n">{name}</th>{/each}<th class="n">offset</th></tr
					></thead
				>
				<tbody>
					{#each PAD_CLASSES as c (c)}
						<tr>
							<td>{PAD_CLASS_NAMES[c]}</td>
							{#each COLUMNS as [name, of, k], i (i)}<td class="n"
									><NumberField
										bare
										label="{PAD_CLASS_NAMES[c]}: {name}"
										class="h-11 w-16 px-1! text-right max-[1179px]:w-11 max-[1179px]:text-sm"
										value={of($form.limits[c]!)[k]}
										onvalue={(v) => set(c, of, k, v)}
										min={-Infinity}
									/></td
								>{/each}
							<td class="n"
								><NumberField
									bare
									label="{PAD_CLASS_NAMES[c]}: offset"
									class="h-11 w-16 px-1! text-right max-[1179px]:w-11 max-[1179px]:text-sm"
									step={0.01}
									bind:value={$form.limits[c]!.offsetShare}
									min={-Infinity}
								/></td
							>
						</tr>
					{/each}
				</tbody>
			</table>
		</EntryForm>
	{/snippet}
	{#snippet side()}
		<TextField label="Why, for the record" form="limits" bind:value={$form.note} errors={$errors.note} />
		<button
			class="btn min-h-16 text-lg btn-primary"
			disabled={!changed || problem !== '' || !can(wider.length ? 'limits.widen' : 'limits.set')}
			form="limits">{changed ? 'Keep these limits' : 'These limits are kept'}</button
		>
		<section data-testid="statistical">
			<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Volume limits from the spread of {data.run ?? 'a run'}</h2>
			<DataTable
				small
				whole
				name="volume-spreads"
				label="Volume from the spread"
				rows={data.spreads}
				key={(s) => s.padClass}
				rowClass={(s) => (s.panels < LIMIT_PANELS ? 'text-soft' : '')}
				columns={[
					{ id: 'class', title: 'Class', value: (s) => PAD_CLASS_NAMES[s.padClass] },
					{ id: 'mean', title: 'mean, %', value: (s) => s.meanPct, decimals: 1 },
					{ id: 'sigma', title: 'spread, %', value: (s) => s.sigmaPct, decimals: 1 },
					{ id: 'panels', title: 'panels', value: (s) => s.panels, figures: true }
				]}
				empty="No panel has passed yet."
			/>
			<div class="mt-2 flex items-center gap-2 text-sm">
				<label class="flex items-center gap-2"
					>mean ± <NumberField bare label="mean ±" class="h-11 w-16" min={3} max={6} step={0.5} bind:value={k} /> spreads</label
				>
				<button class="btn min-h-11 flex-1 border-line bg-transparent font-normal" disabled={enough.length === 0} onclick={tighten}
					>Tighten to them</button
				>
			</div>
			<p class="text-sm text-soft">
				{enough.length < data.spreads.length ? `A class needs ${LIMIT_PANELS} panels that passed. ` : ''}They only ever tighten, and nothing
				is kept before you keep it.
			</p>
		</section>
		<p class="text-sm text-soft">
			Some plants use one fixed limit for all, others one a class, others limits from their own spread. Here they are by class; limits from
			the spread may only tighten them. Widening stops fewer panels and asks for a named second person.
		</p>
		<section>
			<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Revisions</h2>
			<DataTable
				small
				whole
				name="limit-revisions"
				label="Revisions"
				rows={data.revisions}
				key={(r) => r.revision}
				columns={[
					{ id: 'revision', title: 'No.', value: (r) => r.revision, figures: true },
					{ id: 'at', title: 'Since', value: (r) => new Date(r.createdAt).getTime(), time: true },
					{ id: 'by', title: 'By', value: (r) => `${r.by ?? ''}${r.approvedBy ? `, approved by ${r.approvedBy}` : ''}` },
					{ id: 'why', title: 'Why', value: (r) => r.note }
				]}
				empty="None yet: common practice."
			/>
		</section>
	{/snippet}
</StationFrame>
