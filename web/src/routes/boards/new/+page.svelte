<script module lang="ts">
	/** What was chosen and typed, kept while the page is left and come back to: files are no part of a draft. */
	let left: { of: number | null; typed: unknown; files: Map<string, FileList> } | null = null;
</script>

<script lang="ts">
	import NumberField from '$lib/ui/NumberField.svelte';
	import { figure, quantity, say } from '$lib/ui/theirs.svelte.ts';
	import { onMount, tick, untrack } from 'svelte';
	import { get } from 'svelte/store';
	import { beforeNavigate, goto } from '$app/navigation';
	import type { BoardPart, CircuitGuess, Finding, PanelLayout } from '@keen-relay/core/artwork';
	import { boxOf, type Ring } from '@keen-relay/core/geometry';
	import { type Issue } from '@keen-relay/core/judgement';
	import type { AsBefore, ClassedAperture, InUnit } from '@keen-relay/core/boards';
	import type { ColumnsSeen } from '@keen-relay/core/tables';
	import { newBoard } from '$lib/api/bodies.ts';
	import { send } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import ColumnsAsRead from '$lib/ui/ColumnsAsRead.svelte';
	import BoardDrawing from '$lib/ui/BoardDrawing.svelte';
	import { drawnParts } from '$lib/ui/geometry.ts';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import FieldError from '$lib/ui/FieldError.svelte';
	import SelectField from '$lib/ui/SelectField.svelte';
	import TextField from '$lib/ui/TextField.svelte';
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
		columns: { positions: ColumnsSeen | null; bom: ColumnsSeen | null };
		asBefore: AsBefore[];
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
	let files: Record<string, HTMLInputElement> = $state({});
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
	const open = $derived(
		(read?.issues ?? []).flatMap((issue, i) => {
			const question = QUESTIONS[issue.code];
			// The outline asks for the same unit as the paste layer: one answer serves both.
			return question && read!.issues.findIndex((other) => other.code === issue.code) === i ? [{ issue, ...question }] : [];
		})
	);
	/** Tables whose columns can be chosen: what each can be, and what it has to have. */
	const TABLES = [
		{
			file: 'positions',
			field: 'positionsColumns',
			title: 'Positions',
			needed: ['ref', 'x', 'y'],
			roles: [
				['ref', 'designator'],
				['x', 'X'],
				['y', 'Y'],
				['rot', 'rotation'],
				['side', 'side'],
				['mirror', 'mirrored'],
				['value', 'value'],
				['package', 'package']
			]
		},
		{
			file: 'bom',
			field: 'bomColumns',
			title: 'Parts list',
			needed: ['ref', 'part'],
			roles: [
				['ref', 'designators'],
				['part', 'part number'],
				['maker', 'maker’s number'],
				['method', 'mounting'],
				['quantity', 'quantity'],
				['value', 'value'],
				['package', 'package'],
				['description', 'description'],
				['fitted', 'fitted'],
				['dnp', 'not fitted']
			]
		}
	] as const;
	const unread = $derived(TABLES.find(({ file }) => mapless(file)) ?? null);
	/** The table whose columns somebody looks at; the one that cannot be read without comes by itself. */
	let looking = $state<'positions' | 'bom' | null>(null);
	const columnsOf = $derived(unread ?? TABLES.find(({ file }) => file === looking) ?? null);
	/** As text: read anew with the same columns, what somebody is choosing stays. */
	const columnsText = $derived(JSON.stringify((columnsOf && read?.columns[columnsOf.file]) ?? null));
	const shownColumns = $derived(JSON.parse(columnsText) as ColumnsSeen | null);

	function mapless(file: 'positions' | 'bom'): boolean {
		const name = files[file]?.files?.[0]?.name;
		return Boolean(read?.columns[file] && read.issues.some((issue) => issue.code === 'needs_mapping' && issue.file === name));
	}

	/** Another file has other columns. */
	async function chosenAnew(name: string) {
		const table = TABLES.find(({ file }) => file === name);
		if (table) form.update((typed) => ({ ...typed, [table.field]: null }));
		await check();
	}

	async function choose(roles: (string | null)[]) {
		const table = columnsOf!;
		const { delimiter, titles } = read!.columns[table.file]!;
		looking = null;
		form.update((typed) => ({ ...typed, [table.field]: JSON.stringify({ delimiter, titles, roles }) }));
		await check();
	}

	const ASKED = { columns: 'the columns', unit: 'the unit', decimal: 'the decimal sign', side: 'the side of the parts' } as const;
	const OF_FILE = { paste: 'paste layer', positions: 'positions', bom: 'parts list' } as const;
	/** What was answered as the last time, a sentence a board. */
	const asBefore = $derived(
		[...new Set(read?.asBefore.map(({ from }) => from) ?? [])].map((from) => {
			const what = read!.asBefore.filter((said) => said.from === from).map((said) => `${ASKED[said.what]} of the ${OF_FILE[said.file]}`);
			return `As for ${from}: ${what.join(', ')}.`;
		})
	);
	const allowed = $derived(can('board.create'));
	const all = $derived<Issue[]>(read ? [...read.issues, ...read.findings] : issues);
	const errors = $derived(all.filter((issue) => issue.severity === 'error').length);

	const {
		form,
		errors: wrong,
		enhance,
		draft
	} = entry({
		id: 'board',
		schema: newBoard,
		start: () => ({
			revisionId: data.of?.id ?? null,
			name: '',
			customer: '',
			revision: '',
			side: data.side,
			widthMm: null,
			heightMm: null,
			thicknessMm: 1.6,
			copperLayers: 4,
			copperPct: 55,
			unit: null,
			decimal: null,
			positionsSide: null,
			layerUnit: null,
			content: null,
			positionsColumns: null,
			bomColumns: null
		}),
		async sends(_, refuse) {
			if (missing.length) return null;
			busy = true;
			// A size typed just before the click is read first; what it brings may forbid the keeping.
			await checking;
			if (read?.refused) return ((busy = false), null);
			const answer = await send<{ sideId: number }>('POST', '/api/v1/boards', asForm());
			busy = false;
			if (answer.data) return answer.data;
			refuse(answer.issues);
			issues = answer.issues.length
				? answer.issues
				: [{ severity: 'error', code: 'refused', field: '', value: '', message: answer.message }];
			read = null;
			return null;
		},
		stays: true,
		async then({ sideId }: { sideId: number }) {
			kept = true;
			await goto(`/boards/${sideId}`, { invalidateAll: true });
		},
		draft: { subject: untrack(() => (data.of ? `other-side.${data.of.id}` : 'new-board')) }
	});

	/** Files that a board cannot be kept without. */
	const missingFiles = () => FILES.flatMap(([name, , , , required]) => (required && !files[name]?.files?.length ? [name as string] : []));
	/** Said at their fields once somebody wanted to keep it without. */
	let missing = $state<string[]>([]);

	/** As the route takes it: figures in millimetres, as they are kept. */
	function asForm(): FormData {
		const sent = new FormData();
		for (const [name, value] of Object.entries(get(form))) if (value !== null && value !== undefined) sent.set(name, String(value));
		for (const [name, input] of Object.entries(files)) for (const file of input?.files ?? []) sent.append(name, file);
		return sent;
	}

	/** Reads the files as soon as the three are there: what they say is seen before anything is kept. */
	function check(): Promise<void> {
		return (checking = readFiles());
	}

	async function readFiles() {
		missing = missing.filter((name) => missingFiles().includes(name));
		if (missingFiles().length) return;
		const question = ++asked;
		// What was chosen just now stands in the form first.
		await tick();
		reading = true;
		const answer = await send<Read>('POST', '/api/v1/boards?check', asForm(), 'Reading the files');
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
		if (kept) return;
		const chosen = Object.entries(files).flatMap(([name, input]) => (input?.files?.length ? [[name, input.files] as const] : []));
		left = { of: data.of?.id ?? null, typed: get(form), files: new Map(chosen) };
	});
	onMount(async () => {
		const before = left;
		left = null;
		if (before?.of !== (data.of?.id ?? null) || !before) return;
		form.set(before.typed as typeof $form);
		for (const [name, list] of before.files) files[name]!.files = list;
		await check();
	});

	/** What is asked is answered where it is asked, and read anew at once. */
	async function answer(field: 'unit' | 'layerUnit' | 'decimal' | 'positionsSide' | 'content', value: string) {
		form.update((typed) => ({ ...typed, [field]: value }));
		await check();
	}
	const NAMES = [
		['name', 'Board'],
		['customer', 'Customer'],
		['revision', 'Revision']
	] as const;
	const AS_FILE = [null, 'as the file says'] as const;

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

<div class="grid h-full grid-cols-[350px_minmax(0,1fr)_340px]">
	<section class="flex min-h-0 flex-col border-r border-line px-5 py-3">
		<EntryForm {enhance} {draft} label="Board and its files" class="flex min-h-0 flex-1 flex-col gap-1.5">
			<div class="-mx-1 flex min-h-0 flex-1 flex-col gap-1.5 overflow-y-auto px-1 pb-1">
				<h1 class="text-2xl font-bold">{data.of ? `${data.of.name} ${data.of.revision}, ${data.side} side` : 'New board, one side'}</h1>
				{#if !data.of}
					<div class="grid grid-cols-[1fr_1fr_70px] gap-2">
						{#each NAMES as [name, label] (name)}
							<TextField
								{label}
								bind:value={$form[name]}
								errors={$wrong[name]}
								class="h-9"
								onchange={name === 'customer' ? check : undefined}
							/>
						{/each}
					</div>
				{/if}
				{#each FILES as [name, label, kind, accept, , many] (name)}
					{@const needed = missing.includes(name)}
					<label class="grid grid-cols-[96px_minmax(0,1fr)] items-center gap-2 text-sm">
						<span class="leading-4">{label}<span class="block text-xs text-soft">{kind}</span></span>
						<input
							class="file-input h-9 w-full border-line bg-sheet file-input-sm"
							type="file"
							bind:this={files[name]}
							{name}
							{accept}
							multiple={many}
							onchange={() => chosenAnew(name)}
							aria-invalid={needed}
							aria-describedby="missing-{name}"
						/>
						{#if needed}<span class="col-start-2"><FieldError id="missing-{name}" words={['Choose the file']} /></span>{/if}
					</label>
				{/each}
				<div class="grid grid-cols-3 gap-2">
					<NumberField label="Width, mm" class="h-9" errors={$wrong.widthMm} bind:value={$form.widthMm} onchange={check} />
					<NumberField label="Height, mm" class="h-9" errors={$wrong.heightMm} bind:value={$form.heightMm} onchange={check} />
					<SelectField
						label="Side"
						bind:value={$form.side}
						options={[
							['top', 'top'],
							['bottom', 'bottom']
						]}
						class="h-9"
						onchange={check}
					/>
					<NumberField label="Thick, mm" class="h-9" errors={$wrong.thicknessMm} bind:value={$form.thicknessMm} />
					<NumberField label="Copper layers" whole class="h-9" errors={$wrong.copperLayers} bind:value={$form.copperLayers} />
					<NumberField label="Copper, %" class="h-9" errors={$wrong.copperPct} bind:value={$form.copperPct} />
				</div>
				<div class="grid grid-cols-3 gap-2">
					<SelectField
						label="Positions in"
						bind:value={$form.unit}
						options={[AS_FILE, ['mm', 'mm'], ['mil', 'mil'], ['inch', 'inch']]}
						class="h-9"
						onchange={check}
					/>
					<SelectField
						label="Decimal sign"
						bind:value={$form.decimal}
						options={[AS_FILE, ['.', 'point'], [',', 'comma']]}
						class="h-9"
						onchange={check}
					/>
					<SelectField
						label="Side of parts"
						spoken="Side of the parts in the file"
						bind:value={$form.positionsSide}
						options={[AS_FILE, ['top', 'all top'], ['bottom', 'all bottom']]}
						class="h-9"
						onchange={check}
					/>
				</div>
			</div>
			<div class="pt-1">
				<button
					class="btn min-h-14 w-full text-lg btn-primary"
					disabled={!allowed || busy || read?.refused === true}
					onclick={() => (missing = missingFiles())}>{busy ? 'Keeping…' : 'Keep as board revision'}</button
				>
				{#if !allowed}<p class="text-sm text-soft">An engineer or lead brings boards in.</p>{/if}
			</div>
		</EntryForm>
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
		{#if asBefore.length}<p class="pb-2 text-sm" data-testid="as-before">{asBefore.join(' ')}</p>{/if}
		{#if columnsOf && shownColumns}
			<div class="flex min-h-0 flex-1 flex-col gap-2" data-testid="columns-of-{columnsOf.file}">
				<div class="flex items-center gap-3">
					<h2 class="min-w-0 flex-1 text-lg font-semibold">
						{columnsOf.title}: {unread ? 'which column is what?' : 'columns as they were read'}
					</h2>
					{#if !unread}<button class="btn h-12 border-2 border-line bg-sheet" type="button" onclick={() => (looking = null)}
							>Back to the drawing</button
						>{/if}
				</div>
				<ColumnsAsRead
					seen={shownColumns}
					roles={columnsOf.roles}
					needed={columnsOf.needed}
					file={columnsOf.title.toLowerCase()}
					onchoose={choose}
				/>
			</div>
		{:else if read?.inUnits?.length}
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
		{:else if read?.whole && $form.content !== 'circuit'}
			{@const box = boxOf(read.whole.flatMap((opening) => [...opening.outline]))}
			<div class="flex items-center gap-3" data-testid="circuit-or-panel">
				<p class="min-w-0 flex-1">
					<strong>One circuit, or the whole panel?</strong>
					It looks like a panel of {read.guess.places.length} circuits{turned ? `, turned by ${turned}` : ''}: {read.guess.because}
					{read.guess.left.length ? 'Those are drawn in amber.' : ''}
				</p>
				<button
					class="btn h-12 border-2 bg-sheet {$form.content === 'panel' ? 'border-copper' : 'border-line'}"
					type="button"
					onclick={() => answer('content', 'panel')}>The panel</button
				>
				<button class="btn h-12 border-2 border-line bg-sheet" type="button" onclick={() => answer('content', 'circuit')}
					>One circuit</button
				>
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
			{#if $form.content === 'panel' && !read.refused}<p class="text-sm text-soft">
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
					{#if read.refused}Not kept until the errors are mended.{:else if errors}{errors === 1 ? '1 error' : `${errors} errors`} to settle before
						a run.{:else}The files agree.{/if}</span
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
		{#if read && !unread}
			<div class="flex gap-2 pb-2">
				{#each TABLES as table (table.file)}
					{#if read.columns[table.file]}<button
							class="btn h-10 flex-1 border-line bg-sheet px-2 text-sm font-normal"
							type="button"
							onclick={() => (looking = table.file)}>Columns: {table.title.toLowerCase()}</button
						>{/if}
				{/each}
			</div>
		{/if}
		<h2 class="font-semibold">
			{all.length ? `${errors} ${errors === 1 ? 'error' : 'errors'}, ${all.length - errors} to look at` : 'What the files say'}
		</h2>
		<div class="min-h-0 flex-1 overflow-y-auto" data-testid="issues"><Issues issues={all} onpick={(i) => (picked = i)} {picked} /></div>
	</section>
</div>
