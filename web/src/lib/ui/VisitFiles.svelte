<script module lang="ts">
	/** What was chosen and typed, kept while the page is left and come back to: the file is no part of a draft. */
	let left: { of: number; file: { name: string; text: string }; typed: unknown } | null = null;
</script>

<script lang="ts">
	import DataTable from './DataTable.svelte';
	import { decodeText } from '@keen-relay/core/tables';
	import type { RefusedRow, VisitMapping, VisitTableLook } from '@keen-relay/core/inspection';
	import type { Verdict } from '@keen-relay/core/judgement';
	import { beforeNavigate } from '$app/navigation';
	import { onMount, tick, untrack } from 'svelte';
	import { get } from 'svelte/store';
	import { bodies } from '$lib/api/bodies.ts';
	import { send } from './api.ts';
	import { can } from './can.ts';
	import { entry } from './entry.svelte.ts';
	import EntryForm from './EntryForm.svelte';
	import LevelMark from './LevelMark.svelte';
	import { sayDone, sayNot } from './said.ts';
	import SelectField from './SelectField.svelte';
	import StationFrame from './StationFrame.svelte';
	import { theirs } from './theirs.svelte.ts';

	interface Props {
		station: { id: number; name: string };
	}
	let { station }: Props = $props();

	type Columns = VisitMapping['columns'];
	interface Answer {
		look: VisitTableLook;
		found: { circuits: number; failed: number; calls: number; refused: RefusedRow[]; refusedInAll: number } | null;
		taken: { accepted: number; duplicates: number; aside: string[]; asideInAll: number } | null;
	}
	const COLUMNS: readonly [keyof Columns, string, boolean][] = [
		['panel', 'Panel’s serial', true],
		['result', 'Result', true],
		['at', 'Finished at', true],
		['circuit', 'Circuit', false],
		['startedAt', 'Started at', false],
		['attempt', 'Attempt', false],
		['refDes', 'Part that was called', false],
		['pin', 'Pin', false],
		['code', 'What is wrong', false],
		['measured', 'Measured', false]
	];
	/** A look needs titles; the file has none of these. */
	const UNCHOSEN: Columns = { panel: '-', result: '-', at: '-' };
	let file = $state.raw<{ name: string; text: string } | null>(null);
	let answer = $state.raw<Answer | null>(null);
	let busy = $state(false);
	/** The latest question to the server: answers to earlier ones say nothing any more. */
	let asked = 0;

	const mapping = bodies.visitFile.shape.mapping.unwrap();
	const { form, errors, enhance, draft } = entry({
		id: 'visit-file',
		schema: mapping,
		start: () => ({ columns: {} as Columns, firstCircuit: 1, pass: [] as string[], fail: [] as string[], dateOrder: undefined }),
		async sends() {
			const taken = await ask(chosen(), false);
			return taken?.taken ?? null;
		},
		stays: true,
		then({ accepted }) {
			localStorage.setItem(KEY, JSON.stringify(chosen()));
			sayDone(`${file!.name}: ${accepted} circuits taken`);
		},
		draft: { subject: untrack(() => `results-file.${station.id}`), base: () => file?.name ?? '' }
	});
	/** What a word of the file means, as far as it was said. */
	const meaning = (word: string) => ($form.pass.includes(word) ? 'pass' : $form.fail.includes(word) ? 'fail' : '');
	function mean(word: string, as: string) {
		const without = (words: readonly string[]) => words.filter((other) => other !== word);
		form.update((was) => ({
			...was,
			pass: as === 'pass' ? [...without(was.pass), word] : without(was.pass),
			fail: as === 'fail' ? [...without(was.fail), word] : without(was.fail)
		}));
		void check();
	}

	/** As this station's files were read the last time in this browser. */
	const KEY = $derived(`results-of-${station.id}`);
	const look = $derived(answer?.look ?? null);
	const words = $derived(look?.words ?? []);
	const open = $derived([
		...COLUMNS.filter(([column, , needed]) => needed && !$form.columns[column]).map(([, name]) => name.toLowerCase()),
		...words.filter(({ word }) => !meaning(word)).map(({ word }) => `what “${word}” means`),
		...(look?.dateOrder === 'ask' && !$form.dateOrder ? ['whether day or month stands first'] : [])
	]);
	const ready = $derived(file !== null && look !== null && open.length === 0);
	const verdict = $derived<Verdict>(
		!file || !look
			? { level: 'noData', statement: `Results of ${station.name} from a file.`, because: [], doNext: ['Choose a file'] }
			: look.problem
				? { level: 'act', statement: look.problem, because: [], doNext: ['Choose another file'] }
				: answer?.taken
					? {
							level: answer.taken.asideInAll || answer.found?.refusedInAll ? 'watch' : 'good',
							statement: `${answer.taken.accepted} circuits taken${answer.taken.duplicates ? `, ${answer.taken.duplicates} known already` : ''}${
								answer.taken.asideInAll ? `, ${answer.taken.asideInAll} kept aside` : ''
							}.`,
							because: [],
							doNext: []
						}
					: open.length
						? { level: 'act', statement: `Say ${open.slice(0, 3).join(', ')}.`, because: [], doNext: [] }
						: answer?.found
							? {
									level: answer.found.refusedInAll ? 'watch' : 'good',
									statement: `${answer.found.circuits} circuits, ${answer.found.failed} failed${
										answer.found.refusedInAll ? `; ${answer.found.refusedInAll} rows cannot be read` : ''
									}.`,
									because: [],
									doNext: []
								}
							: { level: 'noData', statement: 'Reading.', because: [], doNext: [] }
	);

	const decode = (bytes: Uint8Array, encoding: string) => {
		try {
			return new TextDecoder(encoding, { fatal: true }).decode(bytes);
		} catch {
			return null;
		}
	};
	async function choose(event: Event & { currentTarget: HTMLInputElement }) {
		const [picked] = event.currentTarget.files ?? [];
		if (!picked) return;
		if (picked.size > 10e6) return sayNot(`${picked.name} is larger than 10 MB. Send it in parts.`);
		const read = decodeText(new Uint8Array(await picked.arrayBuffer()), decode);
		if (!('text' in read)) return sayNot(read.message);
		file = { name: picked.name, text: read.text };
		const known = remembered();
		form.set({ columns: {} as Columns, firstCircuit: known?.firstCircuit ?? 1, pass: [], fail: [], dateOrder: undefined });
		const first = await ask(null, true);
		if (!first) return;
		// What was confirmed before stands where the file still has those titles.
		const had = Object.entries(known?.columns ?? {}).filter(([, title]) => first.look.titles.includes(title));
		form.update((was) => ({ ...was, columns: { ...first.look.columns, ...Object.fromEntries(had) } as Columns }));
		await lookAgain();
	}
	const remembered = () => JSON.parse(localStorage.getItem(KEY) ?? 'null') as Partial<VisitMapping> | null;
	/** Other columns hold other words and dates. */
	async function lookAgain() {
		// What was chosen just now stands in the form first.
		await tick();
		const again = await ask({ ...chosen(), columns: { ...UNCHOSEN, ...chosen().columns } }, true);
		if (!again) return;
		const known = remembered();
		const meant = (word: string, means: string | null) =>
			meaning(word) || (known?.pass?.includes(word) ? 'pass' : known?.fail?.includes(word) ? 'fail' : (means ?? ''));
		const words = again.look.words.map(({ word, means }) => [word, meant(word, means)] as const);
		const these = (as: string) => words.flatMap(([word, means]) => (means === as ? [word] : []));
		const said = again.look.dateOrder;
		form.update((was) => ({
			...was,
			pass: these('pass'),
			fail: these('fail'),
			...(said && said !== 'ask' ? { dateOrder: said } : {})
		}));
		await check();
	}
	/** As it stands now, without what nobody chose. */
	function chosen() {
		const { columns, dateOrder, ...rest } = get(form);
		const filled = Object.fromEntries(Object.entries(columns).filter(([, title]) => title)) as unknown as Columns;
		return { ...rest, columns: filled, ...(dateOrder ? { dateOrder } : {}) };
	}
	async function ask(mapping: object | null, only: boolean): Promise<Answer | null> {
		const mine = ++asked;
		busy = true;
		const got = await send<Answer>(
			'POST',
			`/api/v1/stations/${station.id}/results`,
			{ ...file, mapping, check: only },
			only ? `Reading ${file!.name}` : undefined
		);
		if (mine !== asked) return null;
		busy = false;
		if (!got.data) {
			sayNot(got.message);
			return null;
		}
		return (answer = got.data);
	}
	async function check() {
		await tick();
		if (ready) await ask(chosen(), true);
	}

	beforeNavigate(() => {
		if (file && !answer?.taken) left = { of: station.id, file, typed: get(form) };
	});
	onMount(async () => {
		const before = left;
		left = null;
		if (before?.of !== station.id) return;
		file = before.file;
		form.set(before.typed as typeof $form);
		await lookAgain();
	});
	const example = $derived(theirs().date('2026-04-03'));
</script>

<StationFrame {verdict}>
	{#snippet about()}As good as a machine’s own messages: the good rows are taken, each of the others is named. A file that is read in twice
		counts once.{/snippet}
	{#snippet picture()}
		<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
		<div class="h-full overflow-y-auto" role="group" aria-label="The file" tabindex="0">
			{#if look}
				<DataTable
					whole
					small
					name="first-rows"
					label="First rows"
					testid="first-rows"
					rows={look.rows.map((cells, line) => ({ cells, line }))}
					key={({ line }) => line}
					columns={look.titles.map((title, i) => ({
						id: `${i}`,
						title: title || `column ${i + 1}`,
						value: ({ cells }: { cells: readonly string[] }) => cells[i] ?? '',
						class: 'figure'
					}))}
					empty="No row."
				/>
				<div class="mt-3 grid grid-cols-3 gap-3">
					{#each COLUMNS as [column, name, needed] (column)}
						<SelectField
							label="{name}{needed ? '' : ', if it has one'}"
							bind:value={$form.columns[column]}
							errors={$errors.columns?.[column]}
							options={[
								[undefined, needed ? 'choose a column' : 'none'] as const,
								...look.titles.filter(Boolean).map((title) => [title, title] as const)
							]}
							onchange={lookAgain}
						/>
					{/each}
					<SelectField
						label="The first circuit is number"
						bind:value={$form.firstCircuit}
						errors={$errors.firstCircuit}
						options={[
							[1, '1'],
							[0, '0']
						]}
						onchange={check}
					/>
					{#if look.dateOrder !== null}
						<SelectField
							label="In its dates stands first{look.dateOrder === 'ask' ? '' : ', as they say themselves'}"
							bind:value={$form.dateOrder}
							errors={$errors.dateOrder}
							options={[
								[undefined, `choose; you write 3 April as ${example}`] as const,
								['day-first', 'the day'] as const,
								['month-first', 'the month'] as const
							]}
							onchange={check}
							disabled={look.dateOrder !== 'ask'}
						/>
					{/if}
					{#each words as { word } (word)}
						<SelectField
							label="“{word}” means"
							bind:value={() => meaning(word), (as) => mean(word, as)}
							options={[
								['', 'choose'],
								['pass', 'passed'],
								['fail', 'failed']
							]}
						/>
					{/each}
				</div>
				{#if answer?.found?.refused.length || answer?.taken?.aside.length}
					<ul class="mt-3 text-sm" data-testid="not-read">
						{#each answer.found?.refused ?? [] as row, i (i)}<li class="flex gap-2 border-b border-hair py-1">
								<LevelMark level="watch" />line {row.line}: {row.reason}
							</li>{/each}
						{#each answer.taken?.aside ?? [] as reason, i (i)}<li class="flex gap-2 border-b border-hair py-1">
								<LevelMark level="watch" />{reason}; kept aside under <a class="underline" href="/plant/machines">Messages</a>
							</li>{/each}
					</ul>
				{/if}
			{:else}
				<p class="border border-dashed border-(color:--none) p-8 text-soft">
					A table with one row a circuit or a call: CSV, semicolons or tabs, with titles in the first line. Columns, words and dates are
					shown here before anything is taken.
				</p>
			{/if}
		</div>
	{/snippet}
	{#snippet side()}
		<EntryForm {enhance} {draft} label="Results from a file" class="flex flex-col gap-3">
			<label class="text-sm"
				><span class="text-soft">File of results</span><input
					class="file-input h-12 w-full border-line bg-sheet"
					type="file"
					accept=".csv,.tsv,.txt"
					disabled={!can('results.import')}
					onchange={choose}
				/></label
			>
			<button class="btn min-h-16 text-lg btn-primary" disabled={!ready || busy || !answer?.found?.circuits || answer.taken !== null}
				>{answer?.taken ? 'Taken' : `Take ${answer?.found?.circuits ?? 0} circuits`}</button
			>
		</EntryForm>
		{#if answer?.found}
			<dl class="facts text-sm">
				<div>
					<dt>circuits</dt>
					<dd class="n">{answer.found.circuits}</dd>
				</div>
				<div>
					<dt>of them failed</dt>
					<dd class="n">{answer.found.failed}</dd>
				</div>
				<div>
					<dt>calls</dt>
					<dd class="n">{answer.found.calls}</dd>
				</div>
				<div>
					<dt>rows that cannot be read</dt>
					<dd class="n">{answer.found.refusedInAll}</dd>
				</div>
			</dl>
		{/if}
		{#if !can('results.import')}<p class="text-sm text-soft">Your role does not bring results in from files.</p>{/if}
	{/snippet}
</StationFrame>
