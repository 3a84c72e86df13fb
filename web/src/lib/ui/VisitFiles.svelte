<script lang="ts">
	import { decodeText } from '@keen-relay/core/tables';
	import type { RefusedRow, VisitMapping, VisitTableLook } from '@keen-relay/core/inspection';
	import type { Verdict } from '@keen-relay/core/judgement';
	import { invalidateAll } from '$app/navigation';
	import { send } from './api.ts';
	import { can } from './can.ts';
	import LevelMark from './LevelMark.svelte';
	import { sayDone, sayNot } from './said.ts';
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
	let file = $state.raw<{ name: string; text: string } | null>(null);
	let answer = $state.raw<Answer | null>(null);
	let columns = $state<Partial<Record<keyof Columns, string>>>({});
	let means = $state<Record<string, 'pass' | 'fail' | ''>>({});
	let firstCircuit = $state(1);
	let dateOrder = $state<'day-first' | 'month-first' | ''>('');
	let busy = $state(false);
	/** The latest question to the server: answers to earlier ones say nothing any more. */
	let asked = 0;

	/** As this station's files were read the last time in this browser. */
	const KEY = $derived(`results-of-${station.id}`);
	const look = $derived(answer?.look ?? null);
	const words = $derived(look?.words ?? []);
	const open = $derived([
		...COLUMNS.filter(([column, , needed]) => needed && !columns[column]).map(([, name]) => name.toLowerCase()),
		...words.filter(({ word }) => !means[word]).map(({ word }) => `what “${word}” means`),
		...(look?.dateOrder === 'ask' && dateOrder === '' ? ['whether day or month stands first'] : [])
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
		const [chosen] = event.currentTarget.files ?? [];
		if (!chosen) return;
		if (chosen.size > 10e6) return sayNot(`${chosen.name} is larger than 10 MB. Send it in parts.`);
		const read = decodeText(new Uint8Array(await chosen.arrayBuffer()), decode);
		if (!('text' in read)) return sayNot(read.message);
		file = { name: chosen.name, text: read.text };
		const remembered = JSON.parse(localStorage.getItem(KEY) ?? 'null') as Partial<VisitMapping> | null;
		[columns, means, dateOrder, firstCircuit] = [{}, {}, '', remembered?.firstCircuit ?? 1];
		const first = await ask(null, true);
		if (!first) return;
		// What was confirmed before stands where the file still has those titles.
		const known = Object.entries(remembered?.columns ?? {}).filter(([, title]) => first.look.titles.includes(title));
		columns = { ...first.look.columns, ...Object.fromEntries(known) };
		await lookAgain();
	}
	/** Other columns hold other words and dates. */
	async function lookAgain() {
		const chosen = { panel: '-', result: '-', at: '-', ...filled() };
		const again = await ask({ ...base(), columns: chosen }, true);
		if (!again) return;
		const remembered = JSON.parse(localStorage.getItem(KEY) ?? 'null') as Partial<VisitMapping> | null;
		const meant = (word: string) => (remembered?.pass?.includes(word) ? 'pass' : remembered?.fail?.includes(word) ? 'fail' : null);
		means = Object.fromEntries(again.look.words.map(({ word, means: m }) => [word, means[word] || meant(word) || m || '']));
		if (again.look.dateOrder && again.look.dateOrder !== 'ask') dateOrder = again.look.dateOrder;
		await check();
	}
	const filled = () => Object.fromEntries(Object.entries(columns).filter(([, title]) => title)) as Partial<Columns>;
	const base = () => ({
		columns: filled() as Columns,
		firstCircuit,
		pass: Object.keys(means).filter((word) => means[word] === 'pass'),
		fail: Object.keys(means).filter((word) => means[word] === 'fail'),
		...(dateOrder ? { dateOrder } : {})
	});
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
	const check = async () => void (ready && (await ask(base(), true)));
	async function take() {
		const taken = await ask(base(), false);
		if (!taken?.taken) return;
		localStorage.setItem(KEY, JSON.stringify(base()));
		sayDone(`${file!.name}: ${taken.taken.accepted} circuits taken`);
		await invalidateAll();
	}
	const example = $derived(theirs().date('2026-04-03'));
</script>

<StationFrame {verdict}>
	{#snippet about()}As good as a machine’s own messages: the good rows are taken, each of the others is named. A file that is read in twice
		counts once.{/snippet}
	{#snippet picture()}
		<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
		<div class="h-full overflow-y-auto" role="group" aria-label="The file" tabindex="0">
			{#if look}
				<div class="overflow-x-auto" role="group" aria-label="First rows">
					<table class="rows text-sm" data-testid="first-rows">
						<thead
							><tr
								>{#each look.titles as title, i (i)}<th>{title}</th>{/each}</tr
							></thead
						>
						<tbody>
							{#each look.rows as row, r (r)}<tr
									>{#each look.titles as _, i (i)}<td class="figure">{row[i] ?? ''}</td>{/each}</tr
								>{/each}
						</tbody>
					</table>
				</div>
				<div class="mt-3 grid grid-cols-3 gap-3">
					{#each COLUMNS as [column, name, needed] (column)}
						<label class="text-sm"
							><span class="text-soft">{name}{needed ? '' : ', if it has one'}</span>
							<select class="select h-12 w-full border-line bg-sheet" bind:value={columns[column]} onchange={lookAgain}>
								<option value={undefined}>{needed ? 'choose a column' : 'none'}</option>
								{#each look.titles.filter(Boolean) as title (title)}<option value={title}>{title}</option>{/each}
							</select></label
						>
					{/each}
					<label class="text-sm"
						><span class="text-soft">The first circuit is number</span>
						<select class="select h-12 w-full border-line bg-sheet" bind:value={firstCircuit} onchange={check}>
							<option value={1}>1</option><option value={0}>0</option>
						</select></label
					>
					{#if look.dateOrder !== null}
						<label class="text-sm"
							><span class="text-soft">In its dates stands first{look.dateOrder === 'ask' ? '' : ', as they say themselves'}</span>
							<select
								class="select h-12 w-full border-line bg-sheet"
								bind:value={dateOrder}
								onchange={check}
								disabled={look.dateOrder !== 'ask'}
							>
								<option value="">choose; you write 3 April as {example}</option>
								<option value="day-first">the day</option><option value="month-first">the month</option>
							</select></label
						>
					{/if}
					{#each words as { word } (word)}
						<label class="text-sm"
							><span class="text-soft">“{word}” means</span>
							<select class="select h-12 w-full border-line bg-sheet" bind:value={means[word]} onchange={check}>
								<option value="">choose</option><option value="pass">passed</option><option value="fail">failed</option>
							</select></label
						>
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
		<label class="text-sm"
			><span class="text-soft">File of results</span><input
				class="file-input h-12 w-full border-line bg-sheet"
				type="file"
				accept=".csv,.tsv,.txt"
				disabled={!can('results.import')}
				onchange={choose}
			/></label
		>
		<button
			class="btn min-h-16 text-lg btn-primary"
			disabled={!ready || busy || !answer?.found?.circuits || answer.taken !== null}
			onclick={take}>{answer?.taken ? 'Taken' : `Take ${answer?.found?.circuits ?? 0} circuits`}</button
		>
		{#if answer?.found}
			<table class="rows text-sm">
				<tbody>
					<tr><td>circuits</td><td class="n">{answer.found.circuits}</td></tr>
					<tr><td>of them failed</td><td class="n">{answer.found.failed}</td></tr>
					<tr><td>calls</td><td class="n">{answer.found.calls}</td></tr>
					<tr><td>rows that cannot be read</td><td class="n">{answer.found.refusedInAll}</td></tr>
				</tbody>
			</table>
		{/if}
		{#if !can('results.import')}<p class="text-sm text-soft">Your role does not bring results in from files.</p>{/if}
	{/snippet}
</StationFrame>
