<script module lang="ts">
	/** What was chosen and typed, kept while the page is left and come back to. */
	let draft: FormData | null = null;
</script>

<script lang="ts">
	import NumberField from '$lib/ui/NumberField.svelte';
	import { figure, quantity, say } from '$lib/ui/theirs.svelte.ts';
	import { onMount, tick } from 'svelte';
	import { beforeNavigate, goto } from '$app/navigation';
	import type { BoardPart, CircuitGuess, Finding, PanelLayout } from '@keen-relay/core/artwork';
	import { boxOf, type Ring } from '@keen-relay/core/geometry';
	import { type Issue } from '@keen-relay/core/judgement';
	import type { ClassedAperture, InUnit } from '@keen-relay/core/boards';
	import { send } from '$lib/ui/api.ts';
	import { unreadIn } from '$lib/ui/unread.ts';
	import { can } from '$lib/ui/can.ts';
	import BoardDrawing from '$lib/ui/BoardDrawing.svelte';
	import { drawnParts } from '$lib/ui/geometry.ts';
	import FieldError from '$lib/ui/FieldError.svelte';
	import Issues from '$lib/ui/Issues.svelte';
	import LevelMark from '$lib/ui/LevelMark.svelte';

	interface Read {
		widthMm: number;
		heightMm: number;
		apertures: ClassedAperture[];
		parts: BoardPart[];
		findings: Finding[];
		issues: Issue[];
		refused: boolean;
		bomLines: number;
		pins: number;
		guess: CircuitGuess;
		whole: { outline: Ring; circuit: number | null }[] | null;
		layers: { name: string; kind: string; objects: number }[];
		panel: PanelLayout | null;
		inUnits: InUnit[] | null;
	}
	let { data } = $props();
	const FILES = [
		['paste', 'Paste layer', 'RS-274X', '', true, false],
		['positions', 'Positions', 'CSV, text', '.csv,.txt,.xy,.pos,.tsv', true, false],
		['bom', 'Parts list', 'CSV, XLSX', '.csv,.txt,.tsv,.xlsx', true, false],
		['outline', 'Outline', 'or type the size', '', false, false],
		['netlist', 'Netlist', 'IPC-D-356A', '', false, false],
		['layers', 'Other layers', 'copper, mask …', '', false, true]
	] as const;
	let form: HTMLFormElement | undefined = $state();
	let read = $state.raw<Read | null>(null);
	let issues: Issue[] = $state.raw([]);
	let busy = $state(false);
	/** Nothing of it comes back once it is a board. */
	let kept = false;
	let reading = $state(false);
	/** Number of the latest question: answers may come in another order than the questions. */
	let asked = 0;
	let checking: Promise<void> = Promise.resolve();
	let picked = $state<number | null>(null);
	/** What a person said the layer is; empty until they are asked. */
	let content = $state<'' | 'circuit' | 'panel'>('');
	/** Questions that the files leave open: each is answered where it is asked. */
	const QUESTIONS: Record<
		string,
		{ field: 'unit' | 'layerUnit' | 'decimal' | 'positionsSide'; answers: [value: string, words: string][] }
	> = {
		needs_unit: {
			field: 'layerUnit',
			answers: [
				['mm', 'mm'],
				['inch', 'inch']
			]
		},
		needs_units: {
			field: 'unit',
			answers: [
				['mm', 'mm'],
				['mil', 'mil'],
				['inch', 'inch']
			]
		},
		ambiguous_decimal: {
			field: 'decimal',
			answers: [
				['.', 'point'],
				[',', 'comma']
			]
		},
		needs_side: {
			field: 'positionsSide',
			answers: [
				['top', 'all top'],
				['bottom', 'all bottom']
			]
		}
	};
	let said = $state({ unit: '', layerUnit: '', decimal: '', positionsSide: '' });
	const open = $derived(
		(read?.issues ?? []).flatMap((issue, i) => {
			const question = QUESTIONS[issue.code];
			// The outline asks for the same unit as the paste layer: one answer serves both.
			return question && read!.issues.findIndex((other) => other.code === issue.code) === i ? [{ issue, ...question }] : [];
		})
	);
	const allowed = $derived(can('board.create'));
	const all = $derived<Issue[]>(read ? [...read.issues, ...read.findings] : issues);
	const errors = $derived(all.filter((issue) => issue.severity === 'error').length);

	const filesChosen = () =>
		['paste', 'positions', 'bom'].every((name) => (form?.elements.namedItem(name) as HTMLInputElement | null)?.files?.length);

	/** Sent in millimetres, as they are kept. */
	let sizes = $state<Record<'widthMm' | 'heightMm' | 'thicknessMm' | 'copperLayers' | 'copperPct', number | null>>({
		widthMm: null,
		heightMm: null,
		thicknessMm: 1.6,
		copperLayers: 4,
		copperPct: 55
	});
	/** The form is sent as it stands: the hidden field must have the new value first. */
	async function sized() {
		await tick();
		await check();
	}

	/** Reads the files as soon as the three are there: what they say is seen before anything is kept. */
	function check(): Promise<void> {
		return (checking = readFiles());
	}

	async function readFiles() {
		if (!form || !filesChosen()) return;
		const question = ++asked;
		reading = true;
		const answer = await send<Read>('POST', '/api/v1/boards?check', new FormData(form), 'Reading the files');
		if (question !== asked) return;
		reading = false;
		picked = null;
		read = answer.data;
		issues = answer.ok
			? []
			: answer.issues.length
				? answer.issues
				: [{ severity: 'error', code: 'refused', field: '', value: '', message: answer.message }];
	}

	beforeNavigate(() => {
		if (form && !kept) draft = new FormData(form);
	});
	onMount(async () => {
		const before = draft;
		draft = null;
		if (!form || !before || String(data.of?.id ?? '') !== String(before.get('revisionId') ?? '')) return;
		for (const field of ['unit', 'layerUnit', 'decimal', 'positionsSide'] as const) said[field] = String(before.get(field) ?? '');
		content = before.get('content') as typeof content;
		for (const size of Object.keys(sizes) as (keyof typeof sizes)[]) sizes[size] = before.get(size) ? Number(before.get(size)) : null;
		for (const input of form.elements) {
			if (input instanceof HTMLInputElement && input.type === 'file') {
				const files = new DataTransfer();
				for (const file of before.getAll(input.name)) if (file instanceof File && file.name) files.items.add(file);
				input.files = files.files;
			} else if (
				(input instanceof HTMLInputElement && input.type !== 'hidden') ||
				(input instanceof HTMLSelectElement && input.name === 'side')
			)
				input.value = String(before.get(input.name) ?? input.value);
		}
		await tick();
		await check();
	});

	async function choose(what: 'circuit' | 'panel') {
		content = what;
		// The form is sent as it stands: the hidden field must have the new value first.
		await tick();
		await check();
	}

	async function answer(field: keyof typeof said, value: string) {
		said[field] = value;
		await tick();
		await check();
	}

	const NAMES = [
		['name', 'Board'],
		['customer', 'Customer'],
		['revision', 'Revision']
	] as const;
	/** What a board cannot be kept without, said at its field. */
	let missing = $state<Record<string, string[]>>({});
	function isWhole(): boolean {
		const needed = [
			...(data.of ? [] : NAMES.map(([name]) => [name, 'Type it'] as const)),
			...FILES.flatMap(([name, , , , required]) => (required ? [[name, 'Choose the file'] as const] : [])),
			...(['thicknessMm', 'copperLayers', 'copperPct'] as const).map((name) => [name, 'Type it'] as const)
		];
		const given = new FormData(form);
		const isThere = (value: FormDataEntryValue | null) => (value instanceof File ? value.name !== '' : Boolean(value?.trim()));
		missing = Object.fromEntries(needed.flatMap(([name, words]) => (isThere(given.get(name)) ? [] : [[name, [words]]])));
		return Object.keys(missing).length === 0;
	}

	async function keep(event: SubmitEvent) {
		event.preventDefault();
		const unread = unreadIn(form);
		if (unread) return unread.focus();
		if (!isWhole()) {
			await tick();
			return form?.querySelector<HTMLElement>('[aria-invalid="true"]')?.focus();
		}
		busy = true;
		// A size typed just before the click is read first; what it brings may forbid the keeping.
		await checking;
		if (read?.refused) return void (busy = false);
		const answer = await send<{ sideId: number }>('POST', '/api/v1/boards', new FormData(form));
		busy = false;
		kept = answer.data !== null;
		if (answer.data) return void (await goto(`/boards/${answer.data.sideId}`, { invalidateAll: true }));
		issues = answer.issues.length ? answer.issues : [{ severity: 'error', code: 'refused', field: '', value: '', message: answer.message }];
		read = null;
	}
	/** Level colours are not used for circuits: neighbours differ by ink, what is left over is to be looked at. */
	const CIRCUIT_INKS = ['watch'];
	const shifted = (outline: Ring, dx: number, dy: number) => {
		const ring = outline.map((p) => ({ x: p.x + dx, y: p.y + dy }));
		return { outline: ring, centre: ring[0]! };
	};
	const turned = $derived(
		[...new Set(read?.guess.places.map((p) => p.rotationDeg) ?? [])]
			.filter((deg) => deg !== 0)
			.map((deg) => `${deg}°`)
			.join(' and ')
	);
	const place = $derived(picked !== null && read ? (read.findings[picked - read.issues.length]?.at ?? null) : null);
</script>

<form bind:this={form} class="entry grid h-full grid-cols-[350px_minmax(0,1fr)_340px]" onsubmit={keep} method="post" novalidate>
	<section class="flex min-h-0 flex-col gap-1.5 overflow-y-auto border-r border-line px-5 py-3">
		<h1 class="text-2xl font-bold">{data.of ? `${data.of.name} ${data.of.revision}, ${data.side} side` : 'New board, one side'}</h1>
		{#if data.of}<input type="hidden" name="revisionId" value={data.of.id} />{/if}
		<div class="grid grid-cols-[1fr_1fr_70px] gap-2 text-sm {data.of ? 'hidden' : ''}">
			{#each NAMES as [name, label] (name)}
				<label
					><span class="text-soft">{label}</span><input
						class="input h-9 w-full border-line bg-sheet {missing[name] ? 'border-act' : ''}"
						{name}
						aria-invalid={Boolean(missing[name])}
						aria-describedby="missing-{name}"
					/><FieldError id="missing-{name}" words={missing[name]} /></label
				>
			{/each}
		</div>
		{#snippet size(name: keyof typeof sizes, label: string, limits: { min?: number; max?: number; whole?: boolean } = {})}<input
				type="hidden"
				{name}
				value={sizes[name] ?? ''}
			/><NumberField {label} {...limits} class="h-9" errors={missing[name]} bind:value={sizes[name]} onchange={sized} />{/snippet}
		{#each FILES as [name, label, kind, accept, , many] (name)}
			<label class="grid grid-cols-[96px_minmax(0,1fr)] items-center gap-2 text-sm">
				<span class="leading-4">{label}<span class="block text-xs text-soft">{kind}</span></span>
				<input
					class="file-input h-9 w-full border-line bg-sheet file-input-sm"
					type="file"
					{name}
					{accept}
					multiple={many}
					onchange={check}
					aria-invalid={Boolean(missing[name])}
					aria-describedby="missing-{name}"
				/>
				{#if missing[name]}<span class="col-start-2"><FieldError id="missing-{name}" words={missing[name]} /></span>{/if}
			</label>
		{/each}
		<div class="grid grid-cols-3 gap-2 text-sm">
			{@render size('widthMm', 'Width, mm')}
			{@render size('heightMm', 'Height, mm')}
			<label
				><span class="text-soft">Side</span><select
					class="select h-9 w-full border-line bg-sheet"
					name="side"
					value={data.side}
					onchange={check}><option>top</option><option>bottom</option></select
				></label
			>
			{@render size('thicknessMm', 'Thick, mm', { min: 0.2, max: 6 })}
			{@render size('copperLayers', 'Copper layers', { max: 40, whole: true })}
			{@render size('copperPct', 'Copper, %', { max: 100 })}
		</div>
		<div class="grid grid-cols-3 gap-2 text-sm">
			<label
				><span class="text-soft">Positions in</span>
				<select class="select h-9 w-full border-line bg-sheet" name="unit" bind:value={said.unit} onchange={check}
					><option value="">as the file says</option><option>mm</option><option>mil</option><option>inch</option></select
				></label
			>
			<label
				><span class="text-soft">Decimal sign</span>
				<select class="select h-9 w-full border-line bg-sheet" name="decimal" bind:value={said.decimal} onchange={check}
					><option value="">as the file says</option><option value=".">point</option><option value=",">comma</option></select
				></label
			>
			<label
				><span class="text-soft">Side of parts</span>
				<select
					class="select h-9 w-full border-line bg-sheet"
					name="positionsSide"
					aria-label="Side of the parts in the file"
					bind:value={said.positionsSide}
					onchange={check}
					><option value="">as the file says</option><option value="top">all top</option><option value="bottom">all bottom</option></select
				></label
			>
		</div>
		<input type="hidden" name="content" value={content} />
		<input type="hidden" name="layerUnit" value={said.layerUnit} />
		<div class="sticky -bottom-3 z-10 -mx-5 mt-auto bg-base-100 px-5 pt-1 pb-3">
			<button class="btn min-h-14 w-full text-lg btn-primary" disabled={!allowed || busy || read?.refused === true}
				>{busy ? 'Keeping…' : 'Keep as board revision'}</button
			>
			{#if !allowed}<p class="text-sm text-soft">An engineer or lead brings boards in.</p>{/if}
		</div>
	</section>
	<section class="flex min-h-0 flex-col px-4 py-3">
		{#each open as { issue, field, answers } (issue.code)}
			<div class="flex items-center gap-3 pb-2" data-testid="question-{field}">
				<p class="min-w-0 flex-1"><strong>{issue.file}</strong>: {say(issue.message)}</p>
				{#each answers as [value, words] (value)}
					<button class="btn h-12 border-2 border-line bg-sheet" type="button" onclick={() => answer(field, value)}>{words}</button>
				{/each}
			</div>
		{/each}
		{#if read?.inUnits?.length}
			<div class="grid min-h-0 flex-1 grid-cols-2 gap-4" data-testid="in-units">
				{#each read.inUnits as layer (layer.unit)}
					<figure class="flex min-h-0 flex-col">
						<figcaption class="text-lg">
							<strong>In {layer.unit}</strong>: {figure(layer.widthMm, 1, 'mm')} × {quantity(layer.heightMm, 1, 'mm')}, narrowest opening
							{quantity(layer.narrowestMm, 3, 'mm')}
						</figcaption>
						<div class="min-h-0 flex-1">
							<BoardDrawing
								widthMm={layer.widthMm}
								heightMm={layer.heightMm}
								pads={layer.outlines}
								colourOf={() => 'soft'}
								label="The paste layer read in {layer.unit}"
							/>
						</div>
					</figure>
				{/each}
			</div>
		{:else if read?.whole && (content === '' || content === 'panel')}
			{@const box = boxOf(read.whole.flatMap((opening) => [...opening.outline]))}
			<div class="flex items-center gap-3" data-testid="circuit-or-panel">
				<p class="min-w-0 flex-1">
					<strong>One circuit, or the whole panel?</strong>
					It looks like a panel of {read.guess.places.length} circuits{turned ? `, turned by ${turned}` : ''}: {read.guess.because}
					{read.guess.left.length ? 'Those are drawn in amber.' : ''}
				</p>
				<button
					class="btn h-12 border-2 bg-sheet {content === 'panel' ? 'border-copper' : 'border-line'}"
					type="button"
					onclick={() => choose('panel')}>The panel</button
				>
				<button class="btn h-12 border-2 border-line bg-sheet" type="button" onclick={() => choose('circuit')}>One circuit</button>
			</div>
			<div class="min-h-0 flex-1">
				<BoardDrawing
					widthMm={box.maxX - box.minX + 6}
					heightMm={box.maxY - box.minY + 6}
					pads={read.whole.map((opening) => shifted(opening.outline, 3 - box.minX, 3 - box.minY))}
					colourOf={(i) => CIRCUIT_INKS[(read!.whole![i]!.circuit ?? -1) + 1] ?? (read!.whole![i]!.circuit! % 2 ? 'soft' : 'ink')}
					label="Openings of the layer, circuit by circuit; those of no circuit in amber"
				/>
			</div>
			{#if content === 'panel' && !read.refused}<p class="text-sm text-soft">
					One circuit of {figure(read.widthMm, 2, 'mm')} × {quantity(read.heightMm, 2, 'mm')} was cut out, {read.apertures.length} openings; the
					panel keeps
					{read.guess.places.length} of them where they stand. Type width and height to correct the circuit’s edge.
				</p>{/if}
		{:else if read && read.apertures.length}
			<p class="flex items-center gap-2 text-lg" data-testid="read-summary">
				<LevelMark level={read.refused ? 'stopped' : errors ? 'act' : 'good'} />
				<span
					>{read.apertures.length} openings, {read.parts.length} parts, {read.bomLines} lines of the parts list{read.pins
						? `, ${read.pins} openings with a pin`
						: ''}.
					{#if read.refused}Not kept until the errors are mended.{:else if errors}{errors} errors to settle before a run.{:else}The files
						agree.{/if}</span
				>
			</p>
			<div class="min-h-0 flex-1">
				<BoardDrawing
					widthMm={read.widthMm || 100}
					heightMm={read.heightMm || 100}
					pads={read.apertures}
					parts={drawnParts(read.parts)}
					colourOf={(i) => (read!.apertures[i]!.refDes ? 'soft' : 'watch')}
					ring={place}
					label="Openings and parts as read from the files"
				/>
			</div>
		{:else}
			<p class="m-auto max-w-md border border-dashed border-(color:--none) p-6 text-soft">
				{#if reading}Reading the files…{:else}Choose the paste layer, the positions and the parts list of one side, and give its size or
					outline. The board is drawn here, to scale, before anything is kept.{/if}
			</p>
		{/if}
	</section>
	<section class="flex min-h-0 flex-col border-l border-line px-4 py-3">
		<h2 class="font-semibold">
			{all.length ? `${errors} ${errors === 1 ? 'error' : 'errors'}, ${all.length - errors} to look at` : 'What the files say'}
		</h2>
		<div class="min-h-0 flex-1 overflow-y-auto" data-testid="issues"><Issues issues={all} onpick={(i) => (picked = i)} {picked} /></div>
	</section>
</form>
