<script lang="ts">
	import { page } from '$app/state';
	import { panelGeometry } from '@keen-relay/core/artwork';
	import { panelLevel } from '@keen-relay/core/inspection';
	import { openingNames } from '$lib/model/openings.ts';
	import { act } from '$lib/ui/api.ts';
	import BoardDrawing from '$lib/ui/BoardDrawing.svelte';
	import { can } from '$lib/ui/can.ts';
	import { clockTime, dayTime, sayLength } from '$lib/ui/format.ts';
	import { drawnParts, loadGeometry, type SideGeometry } from '$lib/ui/geometry.ts';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import WashPays from '$lib/ui/WashPays.svelte';

	let { data } = $props();
	let geometry = $state.raw<SideGeometry | null>(null);
	let passId = $state<number | null>(null);
	/** What may be done with a misprint, as the last answer said. */
	let decided = $state('');
	/** The pass that is shown: the one chosen, else the latest. */
	const pass = $derived(data.passes.find((p) => p.id === passId) ?? data.passes.at(-1)!);
	$effect(() => {
		geometry = null;
		loadGeometry(pass.boardSideId).then(
			(g) => (geometry = g),
			() => (geometry = null)
		);
	});
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const names = $derived(geometry ? openingNames(geometry.apertures) : []);
	const panel = $derived(geometry ? panelGeometry(geometry, pass.panel, pass.side) : null);
	const paste = $derived(pass.paste.at(-1) ?? null);
	const failed = $derived(pass.visits.filter((visit) => visit.result === 'fail'));
	const failedPads = $derived(new Map(paste?.worst.map((w) => [w.pad, w.code]) ?? []));
	const failedRefs = $derived(new Set(pass.visits.flatMap((v) => (v.refDes ? [`${v.circuit}/${v.refDes}`] : []))));
	const level = $derived(panelLevel({ paste: paste?.result ?? null, failedVisits: failed.length, finished: pass.finishedAt !== null }));
	/** The time from print to reflow ran out: such a panel is looked at, not simply reflowed. */
	const lateForOven = $derived(pass.oven.find((o) => o.clock.level === 'stopped'));
	const inspected = $derived(pass.visits.length > 0);
	/** Everything in the order in which it happened. */
	const happenings = $derived(
		[
			...pass.prints.map((it) => ({ kind: 'print' as const, key: `print ${it.id}`, at: it.printedAt, it })),
			...pass.paste.map((it) => ({
				kind: 'paste' as const,
				key: `paste ${it.printAttempt} ${it.inspectionAttempt}`,
				at: it.measuredAt,
				it
			})),
			...pass.misprints.map((it) => ({ kind: 'misprint' as const, key: `misprint ${it.id}`, at: it.at, it })),
			...pass.placements.map((it) => ({ kind: 'place' as const, key: `place ${it.stationId}`, at: it.placedAt, it })),
			...pass.oven.map((it) => ({ kind: 'oven' as const, key: `oven ${it.id}`, at: it.leftAt, it })),
			...pass.visits.map((it, i) => ({ kind: 'visit' as const, key: `visit ${it.id} ${i}`, at: it.startedAt, it }))
		].sort((a, b) => a.at.getTime() - b.at.getTime())
	);
	const padName = (i: number) =>
		names.length ? `${names[i % names.length]}, circuit ${Math.floor(i / names.length) + 1}` : `pad ${i + 1}`;
	const sayPrint = (print: (typeof pass.prints)[number]) =>
		[
			`${print.stroke === 'F' ? 'front' : 'rear'} stroke`,
			...(print.blade ? [`blade ${print.blade}`] : []),
			`${print.printsSinceWipe} since wipe`,
			...(print.printsSinceTopup === null ? [] : [`${print.printsSinceTopup} since top-up`])
		].join(', ');
	const lostOf = (lost: Record<string, number>) => Object.values(lost).reduce((a, b) => a + b, 0);
</script>

<div class="grid h-full grid-cols-[minmax(0,1fr)_minmax(0,560px)]">
	<section class="flex min-h-0 flex-col px-5 py-3">
		<h1 class="flex items-center gap-3 text-[28px] leading-9 font-bold">
			<LevelMark {level} size={26} /><span class="figure">{data.panel.serial}</span>
		</h1>
		<p class="text-soft">
			{data.panel.board}
			{data.panel.boardRevision}; job {data.panel.job}.
			{pass.side === 'top' ? 'Top' : 'Bottom'} side on {pass.line}:
			{pass.finishedAt ? `finished ${dayTime(pass.finishedAt, zone)}.` : pass.stationName ? `last reported from ${pass.stationName}.` : ''}
			{failed.length
				? `${new Set(failed.map((f) => f.circuit)).size} circuits failed.`
				: inspected
					? 'Nothing failed at inspection.'
					: 'Not inspected yet.'}
		</p>
		{#if lateForOven}<p class="flex items-center gap-2 font-semibold" data-testid="late">
				<LevelMark level="stopped" />Waited {sayLength(lateForOven.waitedMs)} for the oven: an engineer reviews it before it goes on.
			</p>{/if}
		{#if data.passes.length > 1}
			<div class="flex gap-6 border-b border-hair" role="tablist" aria-label="Passes">
				{#each data.passes as p, i (p.id)}
					<button
						role="tab"
						aria-selected={p.id === pass.id}
						class="border-b-[3px] px-1 py-2 {p.id === pass.id ? 'border-copper font-semibold' : 'border-transparent'}"
						onclick={() => (passId = p.id)}>Pass {i + 1}, {p.side} side, {p.line}, {clockTime(p.printedAt, zone)}</button
					>
				{/each}
			</div>
		{/if}
		<div class="min-h-0 flex-1">
			{#if geometry && panel}
				<BoardDrawing
					widthMm={panel.widthMm}
					heightMm={panel.heightMm}
					origins={panel.origins}
					circuit={geometry}
					pads={geometry.apertures}
					parts={drawnParts(geometry.parts)}
					fiducials={panel.fiducials}
					colourOf={(i) => {
						const n = geometry!.apertures.length;
						if (failedPads.has(i)) return 'act';
						return failedRefs.has(`${Math.floor(i / n)}/${geometry!.apertures[i % n]!.refDes}`) ? 'stop' : paste ? 'soft' : null;
					}}
					label="The panel; pads that failed at paste check and parts called later are coloured"
				/>
			{/if}
		</div>
		<p class="text-sm text-soft">Orange: failed at paste check. Red: called at inspection or test. Both are listed on the right by name.</p>
	</section>
	<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
	<section class="min-h-0 overflow-y-auto border-l border-line px-5 py-3 text-sm" aria-label="What is known of it" tabindex="0">
		<h2 class="border-b border-hair pb-1 font-semibold text-soft">Built with</h2>
		<p class="py-1">
			Stencil {pass.stencilCode ?? ''} design {pass.stencilRevision} ({pass.foilUm} µm), {pass.printRecipeRevision
				? `print recipe ${pass.printRecipeRevision}, `
				: ''}program {pass.programRevision}, oven recipe {pass.recipeRevision}
			<span class="figure">({pass.recipe.setC.join(' ')}, {pass.recipe.beltCmPerMin} cm/min)</span>
		</p>
		<p class="py-1" data-testid="paste-of">
			{#if pass.bead.length}Paste: {#each pass.bead as b, i (`${b.jar}-${b.loadedMs}`)}{i ? ', ' : ''}<a
						class="underline"
						href="/paste?jar={encodeURIComponent(b.jar)}">{b.jar}</a
					>
					lot {b.lot} (loaded {clockTime(b.loadedMs, zone)}, {b.grams.toFixed(0)} g of it on the stencil){/each}.{:else}Paste: no jar was
				scanned.{/if}
		</p>
		<h2 class="mt-2 border-b border-hair pb-1 font-semibold text-soft">What happened</h2>
		<table class="rows">
			<tbody>
				{#each happenings as h (h.key)}
					{#if h.kind === 'print'}
						{@const print = h.it}
						<tr
							><td class="figure">{clockTime(print.printedAt, zone)}</td><td>printed, attempt {print.printAttempt}</td><td
								>{sayPrint(print)},
								<span class="figure">{print.cycleS.toFixed(1)} s</span>
								{#if print.pause.step !== 'none'}
									<span class="flex items-center gap-1"
										><LevelMark level="watch" />The printer had stood for {Math.round(print.minutesSincePrevious ?? 0)} min. Due before it: {print.pause.doFirst
											.join(', ')
											.toLowerCase()}.</span
									>
								{/if}</td
							></tr
						>
					{:else if h.kind === 'paste'}
						{@const p = h.it}
						<tr>
							<td class="figure">{clockTime(p.measuredAt, zone)}</td>
							<td
								><span class="flex items-center gap-1"
									><LevelMark level={p.result === 'pass' ? 'good' : p.result === 'review' ? 'watch' : 'act'} />paste {p.result}{p.inspectionAttempt >
									1
										? `, inspection ${p.inspectionAttempt}`
										: ''}</span
								></td
							>
							<td>mean <span class="figure">{p.meanVolumePct.toFixed(1)} %</span>, {p.fails} fail, {p.warnings} warn of {p.pads}</td>
						</tr>
					{:else if h.kind === 'misprint'}
						{@const m = h.it}
						<tr
							><td class="figure">{clockTime(m.at, zone)}</td><td>misprint</td><td
								>{m.decision.replaceAll('_', ' ')}, {m.name}{m.reasons.length ? `: ${m.reasons.map((r) => r.why).join('; ')}` : ''}
								{#if m.steps.length}
									<ol class="mt-1 grid gap-1" data-testid="wash">
										{#each m.steps as s, i (i)}
											{@const next = s.done === null && m.steps.slice(0, i).every((b) => b.done !== null)}
											<li class="flex items-center gap-2 {s.done || next ? '' : 'text-soft'}">
												<button
													class="btn min-h-11 min-w-24 {next ? 'border-ink' : 'border-line'} bg-transparent"
													disabled={!next || !can('misprint.record')}
													onclick={() => act('POST', `/api/v1/misprints/${m.id}/steps`, { step: i }, `${s.words}: done`)}
													>{s.done ? `${clockTime(s.done.doneAt, zone)}` : 'Done'}</button
												>{i + 1}. {s.words}{s.done ? `, ${s.done.name}` : ''}
											</li>
										{/each}
									</ol>
								{/if}</td
							></tr
						>
					{:else if h.kind === 'place'}
						{@const place = h.it}
						<tr
							><td class="figure">{clockTime(place.placedAt, zone)}</td><td>{place.name}</td><td
								><span class="figure">{place.cycleS.toFixed(1)} s</span>, {lostOf(place.lost)} picks lost</td
							></tr
						>
					{:else if h.kind === 'oven'}
						{@const through = h.it}
						<tr
							><td class="figure">{clockTime(through.leftAt, zone)}</td><td>oven</td><td
								><span class="figure">{through.zoneC.map((c) => c.toFixed(0)).join(' ')} °C, {through.beltCmPerMin.toFixed(1)} cm/min</span>
								<span class="flex items-center gap-1"
									>{#if through.clock.level !== 'good'}<LevelMark level={through.clock.level} />{/if}{sayLength(through.waitedMs)} after its print</span
								></td
							></tr
						>
					{:else if h.kind === 'visit'}
						{@const visit = h.it}
						<tr>
							<td class="figure">{clockTime(visit.startedAt, zone)}</td>
							<td
								><span class="flex items-center gap-1"><LevelMark level={visit.result === 'pass' ? 'good' : 'act'} />{visit.name}</span></td
							>
							<td
								>circuit {visit.circuit + 1}: {visit.result}{visit.refDes
									? `, ${visit.refDes}${visit.pin ? ` pin ${visit.pin}` : ''} ${visit.code}`
									: ''}{visit.measured ? `, ${visit.measured}` : ''}</td
							>
						</tr>
					{/if}
				{/each}
			</tbody>
		</table>
		{#if !pass.finishedAt}
			<button
				class="btn mt-2 min-h-12 border-line bg-transparent font-normal"
				disabled={!can('misprint.record')}
				onclick={() =>
					act<{ statement: string; actionId?: number }>(
						'POST',
						`/api/v1/panels/${encodeURIComponent(data.panel.serial)}/misprint`,
						{},
						'Misprint recorded'
					).then((r) => r && (decided = r.statement))}>Misprinted: take it off</button
			>
			{#if paste?.fails}<WashPays fails={paste.fails} />{/if}
			{#if decided}<p class="py-1 font-semibold" data-testid="reprint">{decided}</p>{/if}
		{/if}
		{#if paste?.worst.length}
			<h2 class="mt-2 border-b border-hair pb-1 font-semibold text-soft">Pads that failed</h2>
			<table class="rows">
				<tbody>
					{#each paste.worst as w (w.pad)}<tr><td>{padName(w.pad)}</td><td>{w.code}</td><td class="n">{w.volumePct.toFixed(0)} %</td></tr
						>{/each}
				</tbody>
			</table>
		{/if}
		<h2 class="mt-2 border-b border-hair pb-1 font-semibold text-soft">Reels that fed it</h2>
		<table class="rows">
			<tbody>
				{#each pass.reels as reel (`${reel.station}/${reel.slot}`)}
					<tr
						><td>{reel.station}</td><td class="n">{reel.slot}</td><td>{reel.partNumber}</td><td class="figure">{reel.reel}</td><td
							class="figure">{reel.makerLot}</td
						></tr
					>
				{:else}<tr><td class="text-soft">Not placed yet.</td></tr>{/each}
			</tbody>
		</table>
	</section>
</div>
