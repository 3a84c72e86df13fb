<script lang="ts">
	import { page } from '$app/state';
	import { untrack } from 'svelte';
	import { checkLimits, LIMIT_PANELS, statisticalLimits, widened, type LimitSet } from '@keen-relay/core/inspection';
	import { InputError, type Verdict } from '@keen-relay/core/judgement';
	import { PAD_CLASS_NAMES, PAD_CLASSES } from '@keen-relay/core/parts';
	import DraftOffer from '$lib/ui/DraftOffer.svelte';
	import { Draft } from '$lib/ui/drafts.svelte.ts';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import { dayTime } from '$lib/ui/format.ts';
	import { same } from '$lib/ui/same.ts';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import { fixed, say } from '$lib/ui/theirs.svelte.ts';
	import NumberField from '$lib/ui/NumberField.svelte';

	let { data } = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	let limits = $state<LimitSet>(untrack(() => structuredClone(data.limits)));
	let note = $state('');
	/** What this edit started from; where nothing is changed, what stands. */
	let startedFrom = $state(untrack(() => data.revision));
	$effect(() => {
		if (!changed) startedFrom = data.revision;
	});
	const problem = $derived.by(() => {
		try {
			checkLimits($state.snapshot(limits) as LimitSet);
			return '';
		} catch (error) {
			if (error instanceof InputError) return error.message;
			throw error;
		}
	});
	const wider = $derived(problem ? [] : widened(data.limits, $state.snapshot(limits) as LimitSet));
	const changed = $derived(!same($state.snapshot(limits), data.limits));
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
		for (const s of enough) limits[s.padClass] = statisticalLimits($state.snapshot(limits[s.padClass]), s.meanPct, s.sigmaPct, k);
		if (!note) note = `volume: mean ± ${k} spreads of ${data.run}`;
	}
	const COLUMNS = [
		['volume fails below', (c: string) => limits[c as keyof LimitSet].volumePct.fail, 0],
		['above', (c: string) => limits[c as keyof LimitSet].volumePct.fail, 1],
		['warns below', (c: string) => limits[c as keyof LimitSet].volumePct.warn, 0],
		['above', (c: string) => limits[c as keyof LimitSet].volumePct.warn, 1],
		['height from', (c: string) => limits[c as keyof LimitSet].heightPct, 0],
		['to', (c: string) => limits[c as keyof LimitSet].heightPct, 1],
		['area from', (c: string) => limits[c as keyof LimitSet].areaPct, 0],
		['to', (c: string) => limits[c as keyof LimitSet].areaPct, 1]
	] as const;
	const draft = new Draft<{ limits: LimitSet; note: string }>({
		subject: 'paste-limits',
		base: () => (data.revision ? `revision ${data.revision}` : 'common practice'),
		changed: () => changed,
		read: () => ({ limits: $state.snapshot(limits) as LimitSet, note }),
		take: (kept) => ({ limits, note } = kept)
	});
</script>

<StationFrame {verdict}>
	{#snippet about()}All in % of the nominal; a value on a limit passes. Offsets as a share of the opening’s width.{/snippet}
	{#snippet picture()}
		<div class="h-full overflow-auto" role="group" aria-label="Limits by class">
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
										class="h-11 w-16 px-1 text-right max-[1179px]:w-11 max-[1179px]:text-sm"
										value={of(c)[k]}
										onvalue={(v) => (of(c)[k] = v ?? 0)}
										min={-Infinity}
									/></td
								>{/each}
							<td class="n"
								><NumberField
									bare
									label="{PAD_CLASS_NAMES[c]}: offset"
									class="h-11 w-16 px-1 text-right max-[1179px]:w-11 max-[1179px]:text-sm"
									step={0.01}
									bind:value={limits[c].offsetShare}
									min={-Infinity}
								/></td
							>
						</tr>
					{/each}
				</tbody>
			</table>
		</div>
	{/snippet}
	{#snippet side()}
		<DraftOffer {draft} />
		<label class="text-sm"
			><span class="text-soft">Why, for the record</span><input class="input h-12 w-full border-line bg-sheet" bind:value={note} /></label
		>
		<button
			class="btn min-h-16 text-lg btn-primary"
			disabled={!changed || problem !== '' || !can(wider.length ? 'limits.widen' : 'limits.set')}
			onclick={() => act('PUT', '/api/v1/paste-limits', { limits: $state.snapshot(limits), note, startedFrom }, 'Limits kept')}
			>{changed ? 'Keep these limits' : 'These limits are kept'}</button
		>
		<section data-testid="statistical">
			<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Volume limits from the spread of {data.run ?? 'a run'}</h2>
			<table class="rows text-sm">
				<tbody
					>{#each data.spreads as s (s.padClass)}<tr class={s.panels < LIMIT_PANELS ? 'text-soft' : ''}
							><td>{PAD_CLASS_NAMES[s.padClass]}</td><td class="n whitespace-nowrap">{fixed(s.meanPct, 1)} ± {fixed(s.sigmaPct, 1)} %</td
							><td class="n whitespace-nowrap">{s.panels} panels</td></tr
						>{:else}<tr><td class="text-soft">No panel has passed yet.</td></tr>{/each}</tbody
				>
			</table>
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
			<table class="rows text-sm">
				<tbody
					>{#each data.revisions as r (r.revision)}<tr
							><td class="n">{r.revision}</td><td>{dayTime(r.createdAt, zone)}</td><td
								>{r.by ?? ''}{r.approvedBy ? `, approved by ${r.approvedBy}` : ''}<br /><span class="text-soft">{say(r.note)}</span></td
							></tr
						>{:else}<tr><td class="text-soft">None yet: common practice.</td></tr>{/each}</tbody
				>
			</table>
		</section>
	{/snippet}
</StationFrame>
