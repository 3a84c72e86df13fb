<script lang="ts">
	import DataTable from '$lib/ui/DataTable.svelte';
	import { page } from '$app/state';
	import { panelGeometry } from '@keen-relay/core/artwork';
	import { panelLevel } from '@keen-relay/core/inspection';
	import { openingNames } from '@keen-relay/core/boards';
	import { act } from '$lib/ui/api.ts';
	import BoardDrawing from '$lib/ui/BoardDrawing.svelte';
	import { can } from '$lib/ui/can.ts';
	import { clockTime, dayTime } from '$lib/ui/format.ts';
	import { drawnParts, loadGeometry, type SideGeometry } from '$lib/ui/geometry.ts';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import WashPays from '$lib/ui/WashPays.svelte';
	import { quantity, say } from '$lib/ui/theirs.svelte.ts';

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
	type Line = (typeof pass.lines)[number];
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const names = $derived(geometry ? openingNames(geometry.apertures) : []);
	const panel = $derived(geometry ? panelGeometry(geometry, pass.panel, pass.side) : null);
	const failedPads = $derived(new Map(pass.pads.map((w) => [w.pad, w.code])));
	const failedRefs = $derived(new Set(pass.parts.map((p) => `${p.circuit}/${p.refDes}`)));
	const level = $derived(panelLevel({ paste: pass.paste, failedVisits: pass.failedCircuits, finished: pass.finishedAt !== null }));
	const padName = (i: number) =>
		names.length ? `${names[i % names.length]}, circuit ${Math.floor(i / names.length) + 1}` : `pad ${i + 1}`;
</script>

<div class="beside grid h-full [--beside:560px]">
	<section class="flex min-h-0 flex-col px-5 py-3">
		<h1 class="flex items-center gap-3 text-[28px] leading-9 font-bold">
			<LevelMark {level} size={26} /><span class="figure">{data.panel.serial}</span>
		</h1>
		<p class="text-soft">
			{data.panel.board}
			{data.panel.boardRevision}; job {data.panel.job}.
			{pass.side === 'top' ? 'Top' : 'Bottom'} side on {pass.line}:
			{pass.finishedAt ? `finished ${dayTime(pass.finishedAt, zone)}.` : pass.stationName ? `last reported from ${pass.stationName}.` : ''}
			{pass.failedCircuits
				? `${pass.failedCircuits} ${pass.failedCircuits === 1 ? 'circuit' : 'circuits'} failed.`
				: pass.inspected
					? 'Nothing failed at inspection.'
					: 'Not inspected yet.'}
		</p>
		{#each pass.warnings as warning (warning.text)}
			<p class="flex items-center gap-2 font-semibold" data-testid="late"><LevelMark level={warning.level} />{say(warning.text)}</p>
		{/each}
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
						return failedRefs.has(`${Math.floor(i / n)}/${geometry!.apertures[i % n]!.refDes}`) ? 'stop' : pass.paste ? 'soft' : null;
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
			Stencil {pass.stencilCode ?? ''} design {pass.stencilRevision} ({quantity(pass.foilUm, 0, 'µm')}), {pass.printRecipeRevision
				? `print recipe ${pass.printRecipeRevision}, `
				: ''}program {pass.programRevision}, oven recipe {pass.recipeRevision}
			<span class="figure">({say(`${pass.recipe.setC.join(' ')} °C`)}, {quantity(pass.recipe.beltCmPerMin, 1, 'cm/min')})</span>
		</p>
		<p class="py-1" data-testid="paste-of">
			{#if pass.bead.length}Paste: {#each pass.bead as b, i (`${b.jar}-${b.loadedMs}`)}{i ? ', ' : ''}<a
						class="underline"
						href="/paste?jar={encodeURIComponent(b.jar)}">{b.jar}</a
					>
					lot {b.lot} (loaded {clockTime(b.loadedMs, zone)}, {quantity(b.grams, 0, 'g')} of it on the stencil){/each}.{:else}Paste: no jar
				was scanned.{/if}
		</p>
		<h2 class="mt-2 border-b border-hair pb-1 font-semibold text-soft">What happened</h2>
		{#snippet what(line: Line)}<span class="flex items-center gap-1"
				>{#if line.level}<LevelMark level={line.level} />{/if}{say(line.what)}</span
			>{/snippet}
		{#snippet told(line: Line)}
			{say(line.text)}
			{#each line.notes as note (note.text)}
				<span class="flex items-center gap-1"
					>{#if note.level}<LevelMark level={note.level} />{/if}{say(note.text)}</span
				>
			{/each}
			{#if line.steps?.length}
				<ol class="mt-1 grid gap-1" data-testid="wash">
					{#each line.steps as s, k (k)}
						{@const next = s.done === null && line.steps.slice(0, k).every((b) => b.done !== null)}
						<li class="flex items-center gap-2 {s.done || next ? '' : 'text-soft'}">
							<button
								class="btn min-h-11 min-w-24 {next ? 'border-ink' : 'border-line'} bg-transparent"
								disabled={!next || (line.may !== undefined && !can(line.may))}
								onclick={() => act('POST', s.path, s.body, `${s.words}: done`)}>{s.done ? clockTime(s.done.at, zone) : 'Done'}</button
							>{k + 1}. {say(s.words)}{s.done ? `, ${s.done.by}` : ''}
						</li>
					{/each}
				</ol>
			{/if}
		{/snippet}
		<DataTable
			whole
			small
			name="panel-story"
			label="What happened"
			testid="story"
			rows={pass.lines.map((line, at) => ({ ...line, nth: at }))}
			key={({ nth }) => nth}
			columns={[
				{ id: 'at', title: 'At', value: (l) => new Date(l.at).getTime(), words: (l) => clockTime(l.at, zone), class: 'figure' },
				{ id: 'what', title: 'What', value: (l) => l.what, cell: what },
				{ id: 'told', title: 'What is known', value: (l) => [l.text, ...l.notes.map((note) => note.text)].join(' '), cell: told }
			]}
			empty="Nothing yet."
		/>
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
			{#if pass.pasteFails}<WashPays fails={pass.pasteFails} />{/if}
			{#if decided}<p class="py-1 font-semibold" data-testid="reprint">{decided}</p>{/if}
		{/if}
		{#if pass.pads.length}
			<h2 class="mt-2 border-b border-hair pb-1 font-semibold text-soft">Pads that failed</h2>
			<DataTable
				small
				whole
				name="panel-failing-pads"
				label="Pads that failed"
				rows={pass.pads}
				key={(w) => w.pad}
				columns={[
					{ id: 'pad', title: 'Pad', value: (w) => padName(w.pad) },
					{ id: 'code', title: 'Found', value: (w) => w.code },
					{ id: 'volume', title: 'volume, %', value: (w) => w.volumePct, decimals: 0 }
				]}
				empty="None."
			/>
		{/if}
		{#each pass.used as used (used.title)}
			<h2 class="mt-2 border-b border-hair pb-1 font-semibold text-soft">{used.title}</h2>
			<DataTable
				whole
				small
				name="panel-used"
				label={used.title}
				rows={used.rows}
				key={(row) => row.join(' ')}
				columns={used.columns.map((title, i) => ({
					id: title.toLowerCase(),
					title,
					value: (row: readonly string[]) => row[i],
					class: i ? 'figure' : ''
				}))}
				empty={used.none}
			/>
		{/each}
	</section>
</div>
