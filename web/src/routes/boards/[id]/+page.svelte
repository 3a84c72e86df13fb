<script lang="ts">
	import { untrack } from 'svelte';
	import {
		cornerFiducials,
		looksAPanel,
		marksOnPanel,
		onPanel,
		panelGeometry,
		turnedInPlace,
		type PanelGeometry
	} from '@keen-relay/core/artwork';
	import { MARK_UM, partErrorUm } from '@keen-relay/core/placement';
	import MarkFields from './MarkFields.svelte';
	import { judgeDifferences } from '@keen-relay/core/boards';
	import { InputError } from '@keen-relay/core/judgement';
	import type { Point } from '@keen-relay/core/geometry';
	import { bodies } from '$lib/api/bodies.ts';
	import { can } from '$lib/ui/can.ts';
	import BoardDrawing from '$lib/ui/BoardDrawing.svelte';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import { drawnParts, loadGeometry, type SideGeometry } from '$lib/ui/geometry.ts';
	import Issues from '$lib/ui/Issues.svelte';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import DataTable from '$lib/ui/DataTable.svelte';
	import { figure, fixed, quantity, say, titled } from '$lib/ui/theirs.svelte.ts';
	import NumberField from '$lib/ui/NumberField.svelte';
	import TextField from '$lib/ui/TextField.svelte';

	let { data } = $props();
	let geometry = $state.raw<SideGeometry | null>(null);
	let problem = $state('');
	const HERE = { x: 0, y: 0, rotationDeg: 0 };
	let view = $state<'board' | 'panel'>('board');
	let picked = $state<number | null>(null);
	let selected = $state<number | null>(null);
	type Typed = { x: number | null; y: number | null };
	const typedOf = (points: readonly Point[]): Typed[] => points.map(({ x, y }) => ({ x, y }));
	const { form, enhance, draft } = entry({
		id: 'panel',
		schema: bodies.panel,
		start: () => ({
			...structuredClone(data.side.panel),
			fiducials: typedOf(data.side.panel.fiducials) as Point[],
			circuitFiducials: typedOf(data.side.panel.circuitFiducials ?? []) as Point[],
			localFiducials: structuredClone(data.side.panel.localFiducials ?? []),
			skip: structuredClone(data.side.panel.skip ?? { circuit: null, master: null }),
			startedFrom: data.side.panelRevision
		}),
		follows: true,
		method: 'PUT',
		path: () => `/api/v1/sides/${data.side.id}/panel`,
		done: () => 'Panel set',
		draft: {
			subject: untrack(() => `panel.${data.side.boardRevisionId}`),
			base: () => (data.side.panelSetBy ? 'a panel that was set' : 'no panel')
		}
	});
	const fiducials = $derived(typedOf($form.fiducials));
	const free = $derived($form.free);

	$effect(() => {
		loadGeometry(data.side.id).then(
			(g) => (geometry = g),
			(e: Error) => (problem = e.message)
		);
	});
	let layers = $state.raw<{ name: string; kind: string; rings: Point[][] }[]>([]);
	let layerName = $state('');
	const shownLayer = $derived(layers.find((layer) => layer.name === layerName) ?? null);
	$effect(() => {
		fetch(`/api/v1/sides/${data.side.id}/layers`)
			.then((response) => (response.ok ? response.json() : []))
			.then((list) => (layers = list));
	});
	const marks: Point[] = $derived(fiducials.map(({ x, y }) => ({ x: x ?? NaN, y: y ?? NaN })));
	const layout = $derived({
		rows: Number($form.rows),
		columns: Number($form.columns),
		pitchXMm: Number($form.pitchXMm),
		pitchYMm: Number($form.pitchYMm),
		railMm: Number($form.railMm),
		fiducials: marks,
		circuitFiducials: $form.circuitFiducials ?? [],
		localFiducials: $form.localFiducials ?? [],
		skip: $form.skip ?? { circuit: null, master: null },
		...(free ? { free } : {})
	});
	const panel: { geometry: PanelGeometry | null; refusal: string } = $derived.by(() => {
		try {
			const { circuit, master } = layout.skip;
			const all = [...marks, ...layout.circuitFiducials, ...layout.localFiducials.flatMap((local) => local.marks)];
			if ([...all, circuit, master].some((f) => f && !(isFigure(f.x) && isFigure(f.y))))
				return { geometry: null, refusal: 'A mark has two coordinates: type x and y, or take it out.' };
			const stranger = layout.localFiducials.find(({ refDes }) => geometry && !geometry.parts.some((part) => part.refDes === refDes));
			if (stranger)
				return {
					geometry: null,
					refusal: `No part of this side is called “${stranger.refDes}”: name the part that the marks stand beside.`
				};
			return { geometry: panelGeometry(data.side, layout, data.side.side), refusal: '' };
		} catch (error) {
			if (error instanceof InputError) return { geometry: null, refusal: `${error.message}.` };
			throw error;
		}
	});
	/** The panel without its fiducials: where corners are, whatever was typed for the marks. */
	const bare = $derived.by(() => {
		try {
			return panelGeometry(
				data.side,
				{ ...layout, fiducials: [], circuitFiducials: [], localFiducials: [], skip: { circuit: null, master: null } },
				data.side.side
			);
		} catch {
			return null;
		}
	});
	/** An empty field is null while it is typed, whatever its type says. */
	const isFigure = (value: number | null): boolean => typeof value === 'number' && Number.isFinite(value);
	/** How well the marks say where parts lie: the worst part of all circuits. */
	const leastSure = $derived.by(() => {
		if (!panel.geometry || !geometry) return null;
		const { fiducials, circuitFiducials, localFiducials, origins } = panel.geometry;
		const found = geometry.parts.flatMap((part) =>
			origins.flatMap((origin) => {
				const sure = partErrorUm(MARK_UM, part, { panel: fiducials, circuit: circuitFiducials, local: localFiducials }, (p) =>
					onPanel(p, origin)
				);
				return sure ? [{ refDes: part.refDes, ...sure }] : [];
			})
		);
		return found.reduce<(typeof found)[number] | null>((worst, one) => (worst === null || one.um > worst.um ? one : worst), null);
	});
	const BY = { panel: 'the panel’s marks', circuit: 'its circuit’s marks', local: 'the marks beside it' } as const;
	/** Circuits as they stand now, to be moved and turned one by one. */
	function oneByOne() {
		if (!bare) return;
		const top = panelGeometry(data.side, {
			...layout,
			fiducials: [],
			circuitFiducials: [],
			localFiducials: [],
			skip: { circuit: null, master: null }
		});
		$form.free = { widthMm: top.widthMm, heightMm: top.heightMm, circuits: top.origins.map((place) => ({ ...place })) };
	}
	/** Turns a circuit about its middle: where it stands it stays. */
	function turn(i: number, deg: number | null) {
		const place = $form.free!.circuits[i]!;
		if (deg !== null && isFigure(place.rotationDeg)) Object.assign(place, turnedInPlace(data.side, place, deg));
		place.rotationDeg = deg as number;
		$form.free = { ...$form.free! };
	}
	function toCorners() {
		if (bare) $form.fiducials = typedOf(cornerFiducials(bare, layout.railMm)) as Point[];
	}
	const all = $derived([...data.side.findings, ...data.side.issues]);
	const verdict = $derived(judgeDifferences(data.differences));
	const place = $derived(picked !== null ? (data.side.findings[picked]?.at ?? null) : null);
	const chosen = $derived(selected !== null && geometry ? geometry.apertures[selected % geometry.apertures.length]! : null);
	const chosenPart = $derived(chosen ? geometry?.parts.find((part) => part.refDes === chosen.refDes) : null);
	const allowed = $derived(can('panel.set') && !data.built);
	const panelView = $derived(view === 'panel' && panel.geometry !== null);
</script>

<div class="beside grid h-full">
	<section class="flex min-h-0 flex-col px-5 py-3">
		<h1 class="flex items-center gap-3 text-[26px] leading-8 font-bold whitespace-nowrap">
			<LevelMark level={verdict.level} size={24} />
			<span>{data.side.name} <span class="font-semibold">{data.side.revision}, {data.side.side}</span></span>
		</h1>
		<div class="flex items-start justify-between gap-4">
			<div>
				<p class="text-soft">
					{say(verdict.statement) + ' '}{#if data.differences.length}
						<a class="underline" href="/boards/differences?side={data.side.id}">Settle them</a>.{/if}
					{data.openings} openings{data.pins ? `, ${data.pins} with a pin` : ', pins unknown'}, {data.parts} parts, {data.bomLines} lines; {fixed(
						data.side.widthMm,
						2
					)} × {quantity(data.side.heightMm, 2, 'mm')}; {data.side.customer}.
				</p>
			</div>
			<div class="flex shrink-0 items-center gap-2">
				{#if layers.length}
					<select class="select h-11 w-40 border-line bg-sheet" bind:value={layerName} aria-label="Layer beneath">
						<option value="">paste only</option>{#each layers as layer (layer.name)}<option value={layer.name}>{layer.kind}</option>{/each}
					</select>
				{/if}
				{#if data.revisions.length}<a class="btn h-11 border-line bg-sheet" href="/boards/revisions?side={data.side.id}"
						>Changes since {(data.revisions.find((r) => r.older) ?? data.revisions[0]!).revision}</a
					>{/if}
				{#if data.otherSideId}<a class="btn h-11 border-line bg-sheet" href="/boards/{data.otherSideId}">Other side</a>
				{:else if can('board.create')}<a class="btn h-11 border-line bg-sheet" href="/boards/new?of={data.side.boardRevisionId}"
						>Add the other side</a
					>{/if}
				<div class="join">
					<button
						class="btn join-item h-11 border-line bg-sheet {view === 'board' ? 'border-2 border-copper' : ''}"
						onclick={() => (view = 'board')}>Board</button
					>
					<button
						class="btn join-item h-11 border-line bg-sheet {view === 'panel' ? 'border-2 border-copper' : ''}"
						onclick={() => (view = 'panel')}>Panel</button
					>
				</div>
			</div>
		</div>
		<div class="min-h-0 flex-1">
			{#if geometry}
				<BoardDrawing
					widthMm={panelView ? panel.geometry!.widthMm : data.side.widthMm}
					heightMm={panelView ? panel.geometry!.heightMm : data.side.heightMm}
					origins={panelView ? panel.geometry!.origins : [HERE]}
					circuit={panelView ? data.side : undefined}
					pads={geometry.apertures}
					parts={drawnParts(geometry.parts)}
					fiducials={panelView ? marksOnPanel(panel.geometry!) : []}
					under={shownLayer ? shownLayer.rings : []}
					colourOf={(i) => (geometry!.apertures[i % geometry!.apertures.length]!.refDes ? 'soft' : 'watch')}
					{selected}
					ring={panelView ? null : place}
					onpick={(i) => (selected = i)}
					label="Openings and parts to scale"
				/>
			{:else}<p class="p-8 text-soft">{problem || 'Drawing…'}</p>{/if}
		</div>
	</section>
	<aside class="flex min-h-0 flex-col gap-3 overflow-y-auto border-l border-line px-5 py-3">
		{#if chosen}
			<section class="text-sm">
				<h2 class="border-b border-hair pb-1 font-semibold">
					{chosen.refDes ?? 'No part'}, opening {chosen.index + 1}{chosen.pin ? `, pin ${chosen.pin}` : ', pin unknown'}{chosen.net
						? `, net ${chosen.net}`
						: ''}
				</h2>
				<dl class="facts">
					{#if chosenPart}
						<div>
							<dt>part</dt>
							<dd class="text-right">{chosenPart.partNumber} {chosenPart.value}</dd>
						</div>
						<div>
							<dt>package</dt>
							<dd class="text-right">{chosenPart.packageName}</dd>
						</div>
						<div>
							<dt>{titled('at, mm')}</dt>
							<dd class="n">{figure(chosenPart.xMm, 3, 'mm')}, {figure(chosenPart.yMm, 3, 'mm')}, {chosenPart.rotationDeg}°</dd>
						</div>
					{/if}
					<div>
						<dt>opening</dt>
						<dd class="n">
							{figure(chosen.widthMm, 3, 'mm')} × {quantity(chosen.lengthMm, 3, 'mm')}, {quantity(chosen.areaMm2, 4, 'mm²')}
						</dd>
					</div>
					<div>
						<dt>drawn by line</dt>
						<dd class="n">{chosen.line}</dd>
					</div>
				</dl>
			</section>
		{/if}
		<section>
			<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Do the files agree?</h2>
			<div class="max-h-[116px] overflow-y-auto">
				{#if all.length}<Issues issues={all} onpick={(i) => ((picked = i), (view = 'board'))} {picked} />{:else}<p class="py-2 text-sm">
						Yes: every part has its position and its paste.
					</p>{/if}
			</div>
		</section>
		<section class="text-sm">
			<h2 class="border-b border-hair pb-1 font-semibold text-soft">Panel{data.side.panelSetBy ? '' : ', not set yet'}</h2>
			<EntryForm {enhance} {draft} label="Panel">
				<div class="mt-2 grid grid-cols-4 gap-2" onfocusin={() => (view = 'panel')} role="group" aria-label="Panel layout">
					{#if free}
						<label class="col-span-2"
							><span class="text-soft">{titled('Panel width, mm')}</span><NumberField
								bare
								label="Panel width, mm"
								class="w-full"
								bind:value={$form.free!.widthMm}
							/></label
						>
						<label class="col-span-2"
							><span class="text-soft">{titled('Panel height, mm')}</span><NumberField
								bare
								label="Panel height, mm"
								class="w-full"
								bind:value={$form.free!.heightMm}
							/></label
						>
						<fieldset class="col-span-4">
							<legend class="text-soft">{titled('Circuits: lower left corner x, y, mm, and turn, °')}</legend>
							{#each free.circuits as _, i (i)}
								<div class="flex items-center gap-2 pb-1">
									<span class="figure w-4 text-soft">{i + 1}</span>
									<NumberField
										bare
										label="Circuit {i + 1}, x, mm"
										class="h-9 w-full"
										min={-Infinity}
										bind:value={$form.free!.circuits[i]!.x}
									/>
									<NumberField
										bare
										label="Circuit {i + 1}, y, mm"
										class="h-9 w-full"
										min={-Infinity}
										bind:value={$form.free!.circuits[i]!.y}
									/>
									<NumberField
										bare
										label="Circuit {i + 1}, turn, °"
										class="h-9 w-full"
										min={-360}
										max={360}
										bind:value={() => free.circuits[i]!.rotationDeg, (deg) => turn(i, deg)}
									/>
									<button
										type="button"
										class="btn h-9 border-line bg-transparent font-normal"
										disabled={free.circuits.length === 1}
										onclick={() => ($form.free = { ...free, circuits: free.circuits.toSpliced(i, 1) })}
										aria-label="Take out circuit {i + 1}">✕</button
									>
								</div>
							{/each}
							<div class="flex flex-wrap gap-2">
								<button
									type="button"
									class="btn h-9 border-line bg-transparent font-normal"
									onclick={() => ($form.free = { ...free, circuits: [...free.circuits, { ...free.circuits.at(-1)! }] })}>One more</button
								>
								<button type="button" class="btn h-9 border-line bg-transparent font-normal" onclick={() => ($form.free = undefined)}
									>Rows and columns instead</button
								>
							</div>
						</fieldset>
					{:else}
						<label
							><span class="text-soft">Columns</span><NumberField
								bare
								label="Columns"
								whole
								class="w-full"
								min={1}
								max={20}
								bind:value={$form.columns}
							/></label
						>
						<label
							><span class="text-soft">Rows</span><NumberField
								bare
								label="Rows"
								whole
								class="w-full"
								min={1}
								max={20}
								bind:value={$form.rows}
							/></label
						>
						<label
							><span class="text-soft">{titled('Pitch x, mm')}</span><NumberField
								bare
								label="Pitch x, mm"
								class="w-full"
								step="any"
								bind:value={$form.pitchXMm}
								min={-Infinity}
							/></label
						>
						<label
							><span class="text-soft">{titled('Pitch y, mm')}</span><NumberField
								bare
								label="Pitch y, mm"
								class="w-full"
								step="any"
								bind:value={$form.pitchYMm}
								min={-Infinity}
							/></label
						>
						<label
							><span class="text-soft">{titled('Rail, mm')}</span><NumberField
								bare
								label="Rail, mm"
								class="w-full"
								step="any"
								bind:value={$form.railMm}
								min={-Infinity}
							/></label
						>
					{/if}
					<p class="figure col-span-3 self-end pb-2">
						{panel.geometry ? `${figure(panel.geometry.widthMm, 1, 'mm')} × ${quantity(panel.geometry.heightMm, 1, 'mm')}` : ''}
					</p>
					{#if !free}<button
							type="button"
							class="btn col-span-4 h-9 border-line bg-transparent font-normal"
							onclick={oneByOne}
							disabled={!bare}>Move or turn circuits one by one</button
						>{/if}
					<fieldset class="col-span-4">
						<legend class="text-soft">{titled('Fiducials of the panel: x, y, mm')}</legend>
						<MarkFields name="Fiducial" most={12} marks={fiducials} onset={(list) => ($form.fiducials = list as Point[])} />
					</fieldset>
					<button type="button" class="btn col-span-4 h-10 border-line bg-transparent font-normal" onclick={toCorners} disabled={!bare}
						>Put three in the corners</button
					>
					<fieldset class="col-span-4">
						<legend class="text-soft">{titled('Fiducials of each circuit, in its frame')}</legend>
						<MarkFields
							name="Circuit fiducial"
							most={8}
							marks={$form.circuitFiducials ?? []}
							onset={(list) => ($form.circuitFiducials = list as Point[])}
						/>
					</fieldset>
					<fieldset class="col-span-4">
						<legend class="text-soft">{titled('Fiducials beside a part, in its circuit')}</legend>
						{#each $form.localFiducials ?? [] as local, i (i)}
							<div class="flex items-start gap-2 pb-1">
								<span class="w-20 shrink-0"
									><TextField
										bare
										label="Part {i + 1}"
										placeholder="part"
										class="h-9"
										bind:value={$form.localFiducials![i]!.refDes}
									/></span
								>
								<div class="min-w-0 flex-1">
									<MarkFields
										name="Part {i + 1}, fiducial"
										least={1}
										most={2}
										marks={local.marks}
										onset={(list) => ($form.localFiducials![i]!.marks = list as Point[])}
									/>
								</div>
								<button
									type="button"
									class="btn h-9 self-start border-line bg-transparent font-normal"
									onclick={() => ($form.localFiducials = $form.localFiducials!.toSpliced(i, 1))}
									aria-label="Take out part {i + 1}">✕</button
								>
							</div>
						{/each}
						<button
							type="button"
							class="btn h-9 border-line bg-transparent font-normal"
							onclick={() =>
								($form.localFiducials = [
									...($form.localFiducials ?? []),
									{ refDes: chosen?.refDes ?? '', marks: [{ x: null, y: null }] as unknown as Point[] }
								])}>{chosen?.refDes ? `Beside ${chosen.refDes}` : 'Beside a part'}</button
						>
					</fieldset>
					<fieldset class="col-span-4">
						<legend class="text-soft">{titled('Skip mark: of each circuit, and of the panel')}</legend>
						{#each [['circuit', 'Skip mark of a circuit'], ['master', 'Skip mark of the panel']] as const as [which, name] (which)}
							<MarkFields
								{name}
								most={1}
								add={which === 'circuit' ? 'One in each circuit' : 'One for the whole panel'}
								marks={$form.skip?.[which] ? [$form.skip[which]] : []}
								onset={([mark]) =>
									($form.skip = { circuit: null, master: null, ...$form.skip, [which]: (mark as Point | undefined) ?? null })}
							/>
						{/each}
					</fieldset>
				</div>
				{#if panel.geometry}<p class="pt-1 text-soft" data-testid="marks">
						{`A placer looks at ${looksAPanel(panel.geometry)} marks a panel. `}{#if leastSure}
							Least sure lies {leastSure.refDes}: {quantity(leastSure.um, 0, 'µm')} (σ) by {BY[leastSure.by]}, read to {quantity(
								MARK_UM,
								0,
								'µm'
							)} each.{/if}
					</p>{/if}
				{#if panel.refusal}<p class="py-1 text-stop" role="alert">{panel.refusal}</p>{/if}
				<button class="btn mt-2 min-h-14 w-full text-lg btn-primary" disabled={!allowed || !panel.geometry}>
					{data.built ? 'The panel has been built: it stands' : 'Set the panel'}
				</button>
			</EntryForm>
		</section>
		<section class="text-sm">
			<h2 class="border-b border-hair pb-1 font-semibold text-soft">Files</h2>
			<DataTable
				small
				whole
				name="board-files"
				label="Files of the board"
				rows={data.files}
				key={(file) => file.id}
				columns={[
					{ id: 'kind', title: 'What', value: (file) => file.kind },
					{ id: 'name', title: 'Name', value: (file) => file.name },
					{ id: 'size', title: 'Size, KiB', value: (file) => file.bytes / 1024, decimals: 1 }
				]}
				empty="No file is kept."
			/>
		</section>
	</aside>
</div>
