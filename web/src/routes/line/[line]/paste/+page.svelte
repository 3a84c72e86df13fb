<script lang="ts">
	import { page } from '$app/state';
	import { untrack } from 'svelte';
	import { jarMoves, violationWords, type JarEventKind } from '@keen-relay/core/paste';
	import { bodies } from '$lib/api/bodies.ts';
	import { jarReport, weighed } from '$lib/model/jar-report.ts';
	import { can } from '$lib/ui/can.ts';
	import Caution from '$lib/ui/Caution.svelte';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import SelectField from '$lib/ui/SelectField.svelte';
	import TextField from '$lib/ui/TextField.svelte';
	import DateField from '$lib/ui/DateField.svelte';
	import DoNext from '$lib/ui/DoNext.svelte';
	import { clockTime, dayTime, sayWhen } from '$lib/ui/format.ts';
	import JarLives from '$lib/ui/JarLives.svelte';
	import KeyFigure from '$lib/ui/KeyFigure.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import { figure, fixed, quantity, say, titled } from '$lib/ui/theirs.svelte.ts';
	import NumberField from '$lib/ui/NumberField.svelte';

	let { data } = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	/** The jar that was scanned or chosen. */
	let chosen = $state<string | null>(untrack(() => data.asked));
	let labelSize = $state('70x40');
	let entering = $state(false);
	$effect(() => {
		const asked = data.asked;
		if (asked) chosen = asked;
	});
	const jar = $derived(data.jars.find((j) => j.facts.id === chosen) ?? null);
	const left = $derived(data.bead.oldestEndsMs === null ? null : (data.bead.oldestEndsMs - data.nowMs) / 3_600_000);

	const offered = $derived(jar ? jarMoves(jar.facts, jar.status, data.askedOn, data.nowMs, jar.rules) : []);
	const report = ({ kind, grams }: { kind: JarEventKind; grams: number }) => jarReport(jar!.facts.id, kind, jar!.rules, data.lineId, grams);
	const step = entry({
		id: 'jar-step',
		schema: bodies.jarEvent.pick({ kind: true, grams: true }).required(),
		start: () => ({ kind: 'load_stencil' as const, grams: 200 }),
		path: (made) => report(made).path,
		body: (made) => report(made).body,
		done: ({ kind }) => `${jar!.facts.id}: ${(offered.find((o) => o.kind === kind)?.name ?? 'Reviewed').toLowerCase()}`,
		draft: { subject: untrack(() => `jar-step.${data.lineId}`), base: () => jar?.facts.id ?? '' }
	});
	const { form: made, errors: madeErrors } = step;

	const { form, errors, enhance, draft } = entry({
		id: 'jar',
		schema: bodies.jar,
		start: () => ({ id: '', pasteId: data.pastes[0]?.id ?? null, lot: '', expiry: '', grams: 500, fridgeId: data.fridges[0]?.id ?? null }),
		path: '/api/v1/jars',
		done: ({ id }) => `${id} received`,
		then: (_, { id }) => {
			chosen = id;
			entering = false;
		},
		draft: { subject: 'jar' }
	});
</script>

<StationFrame verdict={data.verdict}>
	{#snippet about()}
		{#if data.wanted}This run is printed with {data.wanted}{data.wash ? `; washed with ${data.wash}` : ''}.{/if}
		{#if data.room}{data.room.name}:
			<span class="figure"
				>{quantity(data.room.temperatureC, 1, '°C')}{data.room.rhPct === null ? '' : `, ${fixed(data.room.rhPct, 0)} % RH`}</span
			>.{/if}
	{/snippet}
	{#snippet bar()}
		<button
			class="btn ml-auto min-h-11 border-line bg-transparent font-normal"
			onclick={() => (entering = !entering)}
			disabled={!can('jar.receive')}>{entering ? 'Close' : 'Receive a jar'}</button
		>
	{/snippet}
	{#snippet picture()}
		{#if entering}
			<EntryForm {enhance} {draft} label="Jar" class="grid max-w-[640px] grid-cols-2 gap-3">
				<TextField label="Number on the label" bind:value={$form.id} errors={$errors.id} figure scan placeholder="J-0031" />
				<SelectField
					label="Paste"
					spoken="Paste of the jar"
					bind:value={$form.pasteId}
					errors={$errors.pasteId}
					options={data.pastes.map((p) => [p.id, p.name])}
				/>
				<TextField label="Lot" bind:value={$form.lot} errors={$errors.lot} figure scan />
				<DateField label="Use by, day or month" month bind:value={$form.expiry} errors={$errors.expiry} class="h-12" />
				<NumberField label="Content, g" class="h-12" min={1} bind:value={$form.grams} errors={$errors.grams} />
				<SelectField
					label="Fridge"
					bind:value={$form.fridgeId}
					errors={$errors.fridgeId}
					options={[[null, 'none'], ...data.fridges.map((f) => [f.id, f.name] as const)]}
				/>
				<button class="btn col-span-2 min-h-16 text-lg btn-primary">Receive this jar</button>
			</EntryForm>
		{:else if data.jars.length}
			<JarLives jars={data.jars} nowMs={data.nowMs} timeZone={zone} selected={chosen} onpick={(id) => (chosen = id)} />
		{:else}
			<p class="border border-dashed border-(color:--none) p-8 text-soft">
				No jar yet. Receive the jars that stand in the fridge: number, lot and use-by date are on their labels.
			</p>
		{/if}
	{/snippet}
	{#snippet side()}
		{#if jar}
			<section data-testid="jar">
				<div class="flex items-baseline justify-between gap-2">
					<h2 class="figure text-2xl font-semibold">{jar.facts.id}</h2>
					<button class="underline" onclick={() => (chosen = null)}>All jars</button>
				</div>
				<p class="text-sm text-soft">
					{jar.pasteName}, lot {jar.facts.lot}, use by {jar.printedExpiry}{jar.fromJar ? `; scraped off, from ${jar.fromJar}` : ''}
				</p>
				<p class="mt-1 text-lg font-semibold" data-testid="jar-state">
					{jar.status.discardNow
						? 'Discard it now'
						: jar.status.state === 'quarantined'
							? `In quarantine: ${jar.status.quarantine.map(violationWords).join(', ')}`
							: (jar.status.next?.action ?? 'Gone')}{#if jar.status.next?.atMs}, {clockTime(jar.status.next.atMs, zone)} ({sayWhen(
							jar.status.next.atMs,
							data.nowMs
						)}){/if}
				</p>
				<dl class="facts text-sm">
					<div>
						<dt>{titled('in the jar, g')}</dt>
						<dd class="n">{figure(jar.status.gramsLeft, 0, 'g')}</dd>
					</div>
					{#each jar.status.clocks as c (c.clock)}
						<div>
							<dt>{c.clock.replace('_', ' ')}{c.clock === jar.status.governing ? ' (governs)' : ''}</dt>
							<dd class="n">{c.clock === 'shelf_life' ? `end of ${jar.printedExpiry}` : dayTime(c.endsMs, zone)}</dd>
						</div>
					{/each}
				</dl>
			</section>
			<EntryForm enhance={step.enhance} draft={step.draft} label="Step of {jar.facts.id}" class="grid gap-3">
				{#if offered.some((o) => weighed(o.kind))}
					<NumberField label="On or off the stencil, g" class="h-11" bind:value={$made.grams} errors={$madeErrors.grams} />
				{/if}
				{#each offered as o, i (o.kind)}
					<button
						class="btn min-h-16 text-lg {i === 0 ? 'btn-primary' : 'border-ink bg-transparent'}"
						disabled={!can('jar.scan') || o.no !== null}
						onclick={() => ($made.kind = o.kind)}>{o.name}</button
					>
					{#if o.no}<p class="-mt-2 text-sm">{say(o.no.why)} {o.no.fix}.</p>{/if}
				{/each}
				{#if jar.status.state === 'quarantined'}
					<button
						class="btn min-h-16 border-ink bg-transparent text-lg"
						disabled={!can('jar.review')}
						onclick={() => ($made.kind = 'review_ok')}>Reviewed: may be used</button
					>
				{/if}
			</EntryForm>
			<div class="grid gap-3">
				<div class="flex gap-2">
					<a
						class="btn min-h-11 flex-1 border-line bg-transparent font-normal"
						target="_blank"
						href="/sheets/jar-label?jar={encodeURIComponent(jar.facts.id)}&size={labelSize}">Print its label</a
					>
					<select class="select h-11 w-32 border-line bg-sheet" bind:value={labelSize} aria-label="Label, mm">
						{#each ['70x40', '100x50', '62x29', '50x25'] as size (size)}<option value={size}>{size.replace('x', ' × ')} mm</option>{/each}
					</select>
				</div>
			</div>
		{:else}
			<KeyFigure
				value={left === null ? '–' : fixed(Math.max(0, left), 1)}
				unit="h"
				label="left of the paste on the stencil"
				verdict={data.verdict}
			/>
			<DoNext actions={data.verdict.doNext} />
			{#if data.bead.portions.length}
				<section>
					<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">On the stencil</h2>
					<dl class="facts text-sm">
						{#each data.bead.portions.filter((p) => p.grams > 0.5) as p (p.loadedMs)}<div>
								<dt><button class="underline" onclick={() => (chosen = p.jar)}>{p.jar}</button>, lot {p.lot}</dt>
								<dd class="n">{quantity(p.grams, 0, 'g')}</dd>
								<dd class="n">{clockTime(p.loadedMs, zone)}</dd>
							</div>{/each}
						<div>
							<dt>older than {data.bead.lifeH} h</dt>
							<dd class="n">{fixed(100 * data.bead.olderShare, 0)} %</dd>
							<dd class="n"></dd>
						</div>
						{#if data.roll}
							<div>
								<dt>bead, Ø (at least {figure(data.roll.leastMm, 1, 'mm')})</dt>
								<dd class="n">{quantity(data.roll.diameterMm, 1, 'mm')}</dd>
								<dd class="n">{quantity(data.bead.grams, 0, 'g')}</dd>
							</div>
							{#if data.roll.steady}<div>
									<dt>topped up at this pace: mean age</dt>
									<dd class="n">{fixed(data.roll.steady.meanAgeH, 1)} h</dd>
									<dd class="n">{fixed(100 * data.roll.steady.olderShare, 0)} % older</dd>
								</div>{/if}
						{/if}
					</dl>
				</section>
			{/if}
			{#if data.pick}
				<section data-testid="pick">
					<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">
						For this run: {quantity(data.pick.needG, 0, 'g')}, first expired first out
					</h2>
					<dl class="facts text-sm">
						{#if data.pick.own.ids.length}<div>
								<dt>{data.pick.own.ids.join(', ')}, on the stencil</dt>
								<dd class="n">{quantity(data.pick.own.servesG, 0, 'g')}</dd>
							</div>{/if}
						{#each data.pick.take as t (t.id)}<div>
								<dt>
									<button class="underline" onclick={() => (chosen = t.id)}>{t.id}</button>{data.pick.followMs
										? `, from ${clockTime(data.pick.followMs, zone)}`
										: ''}
								</dt>
								<dd class="n">{quantity(t.grams, 0, 'g')}</dd>
							</div>{/each}
						{#each data.pick.takeOut as t (t.id)}<div>
								<dt>
									Take <button class="underline" onclick={() => (chosen = t.id)}>{t.id}</button> out {t.late
										? 'now: it is late'
										: `by ${clockTime(t.byMs, zone)}`}
								</dt>
								<dd class="n">{quantity(t.grams, 0, 'g')}</dd>
							</div>{/each}
						{#each data.pick.excluded.slice(0, 6) as x (x.id)}<div class="text-soft">
								<dt>{x.id}</dt>
								<dd>{say(x.why)}</dd>
							</div>{/each}
					</dl>
				</section>
			{/if}
		{/if}
		<Caution
			text="Paste may contain lead; its flux irritates skin and lungs: gloves on, no food, wash hands. A jar warms by itself, never on a heater."
		/>
	{/snippet}
</StationFrame>
