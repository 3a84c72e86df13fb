<script lang="ts">
	import { NEEDED_PAD_COLUMNS, NEEDED_PANEL_COLUMNS, STUDY_TITLES, type StudiedCauses } from '@keen-relay/core/inspection';
	import { noData, type Level, type Verdict } from '@keen-relay/core/judgement';
	import DataTable from '$lib/ui/DataTable.svelte';
	import Issues from '$lib/ui/Issues.svelte';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import { working } from '$lib/ui/working.svelte.ts';
	import type { StudyAnswer, StudyQuestion } from '$lib/workers/study.worker.ts';
	import StudyWorker from '$lib/workers/study.worker.ts?worker';
	import { fixed, say } from '$lib/ui/theirs.svelte.ts';
	import { works } from '$lib/ui/works.svelte.ts';

	let { data } = $props();
	const TABLES = [
		{ key: 'pads', name: 'Pads', columns: NEEDED_PAD_COLUMNS.map((c) => STUDY_TITLES[c]).join('; ') },
		{ key: 'panels', name: 'Panels, how each was printed', columns: NEEDED_PANEL_COLUMNS.map((c) => STUDY_TITLES[c]).join('; ') },
		{ key: 'readings', name: 'Readings', columns: 'panel; pad; volume, %; height, µm; area, %; offset in X, µm; offset in Y, µm' }
	] as const;
	let texts = $state<Record<(typeof TABLES)[number]['key'], string>>({ pads: '', panels: '', readings: '' });
	let heightUnit = $state<'um' | 'mm' | null>(null);
	let decimal = $state<'.' | ',' | null>(null);
	let strokeAxis = $state<'x' | 'y'>('y');
	let study = $state.raw<StudiedCauses | null>(null);
	let failed = $state('');
	let asked = 0;
	let busy = $state(false);
	const wanting = $derived(TABLES.filter((t) => texts[t.key] === '').map((t) => t.name.split(',')[0]!.toLowerCase()));
	const verdict = $derived<Verdict>(
		busy
			? noData('Working it out…')
			: study?.asks
				? {
						level: 'watch',
						statement: study.asks.message,
						because: [],
						doNext: [study.asks.code === 'height_unit' ? 'Choose the unit of the heights' : 'Choose the decimal sign']
					}
				: (study?.verdict ??
					noData(
						failed
							? `The tables could not be read: ${failed}`
							: wanting.length
								? `Choose the tables of a run: ${wanting.join(', ')}.`
								: 'These tables do not fit together: see below.'
					))
	);
	working.offer(() => verdict);

	async function choose(key: (typeof TABLES)[number]['key'], file: File | undefined) {
		if (!file) return;
		texts[key] = await file.text();
		if (key === 'readings') heightUnit = null;
		decimal = null;
		work();
	}
	let begin = () => {};
	let worker: Worker | null = null;
	/** Counts the workers: one that was stopped is replaced. */
	let which = $state(0);
	$effect(() => {
		void which;
		const own = new StudyWorker();
		let over = () => {};
		own.onmessage = ({ data: answer }: MessageEvent<StudyAnswer>) => {
			if (answer.number !== asked) return;
			busy = false;
			over();
			study = answer;
		};
		own.onerror = (event) => {
			over();
			[busy, failed] = [false, event.message];
		};
		worker = own;
		begin = () => {
			over();
			over = works.begin('Studying the run', () => {
				over();
				[busy, failed] = [false, 'It was stopped. Choose a table again to go on.'];
				which++;
			});
		};
		return () => {
			over();
			own.terminate();
		};
	});
	function work() {
		if (wanting.length) return;
		[busy, failed] = [true, ''];
		const question: StudyQuestion = {
			number: ++asked,
			texts: $state.snapshot(texts),
			options: { heightUnit, strokeAxis, decimal, model: data.model }
		};
		begin();
		worker?.postMessage(question);
	}

	interface Row {
		key: string;
		level: Level;
		name: string;
		evidence: string;
		size: number | null;
		sizeWords: string;
		t: number | null;
		surePct: number | null;
		next: string;
	}
	/** The causes, and below them what this run cannot show. */
	const rows = $derived.by((): Row[] => {
		const causes = (study?.signatures ?? []).map((s): Row => ({
			key: `${s.code} ${s.where.at?.xMm ?? ''}`,
			level: s.symptomOf ? 'watch' : 'act',
			name: s.name,
			evidence: s.evidence,
			size: s.size,
			sizeWords: `${fixed(s.size, Math.abs(s.size) < 2 ? 2 : 1)} ${s.unit}`,
			t: s.t === null ? null : Math.abs(s.t),
			surePct: 100 * s.confidence,
			next: `${say(s.action)}.`
		}));
		const unseen = (study?.notJudged ?? []).map((n, i): Row => ({
			key: `not ${i}`,
			level: 'noData',
			name: '',
			evidence: `${say(n.why)} ${n.test}.`,
			size: null,
			sizeWords: '',
			t: null,
			surePct: null,
			next: ''
		}));
		return [...causes, ...unseen];
	});
</script>

<StationFrame {verdict}>
	{#snippet about()}
		{#if study && study.panels > 0}{study.panels} panels of {study.pads} pads{study.missing
				? `; ${study.missing} readings are missing and count as missing`
				: ''}. Nothing of it is kept.{:else}A run from anywhere, as three tables: its causes are named, nothing is kept.{/if}
	{/snippet}
	{#snippet picture()}
		<div class="grid h-full grid-rows-[minmax(0,auto)_minmax(0,1fr)] gap-4">
			<div class="flex max-h-[330px] flex-col" role="group" aria-label="Causes found">
				{#snippet mark(row: Row)}<LevelMark level={row.level} />{/snippet}
				{#snippet named(row: Row)}{#if row.name}<strong>{row.name}</strong><br />{/if}<span class="text-sm text-soft">{row.evidence}</span
					>{/snippet}
				<DataTable
					small
					name="study-causes"
					label="Causes of this run"
					testid="causes"
					{rows}
					key={(row) => row.key}
					rowClass={(row) => (row.name ? '' : 'text-soft')}
					columns={[
						{ id: 'level', title: '', value: () => null, cell: mark },
						{ id: 'cause', title: 'Cause', value: (row) => `${row.name} ${row.evidence}`.trim(), cell: named },
						{ id: 'size', title: 'Size', value: (row) => row.size, words: (row) => row.sizeWords, figures: true },
						{ id: 't', title: '|t|', value: (row) => row.t, decimals: 1 },
						{ id: 'sure', title: 'Sure, %', value: (row) => row.surePct, decimals: 0 },
						{ id: 'next', title: 'Next', value: (row) => row.next }
					]}
					empty={study?.verdict ? 'No cause is named.' : 'Nothing worked out yet.'}
				/>
			</div>
			<div class="min-h-0 overflow-y-auto" role="group" aria-label="Issues"><Issues issues={study?.issues ?? []} /></div>
		</div>
	{/snippet}
	{#snippet side()}
		{#each TABLES as t (t.key)}
			<label class="text-sm"
				><span class="text-soft">{t.name}</span><input
					class="file-input h-12 w-full border-line bg-sheet"
					type="file"
					accept=".csv,.txt,.tsv"
					name={t.key}
					title="Columns: {t.columns}"
					onchange={(e) => choose(t.key, e.currentTarget.files?.[0])}
				/></label
			>
		{/each}
		{#if study?.asks?.code === 'decimal_sign' || decimal}
			<label class="text-sm"
				><span class="text-soft">Decimal sign of these files</span><select
					class="select h-12 w-full border-line bg-sheet"
					value={decimal ?? ''}
					onchange={(e) => ((decimal = (e.currentTarget.value || null) as typeof decimal), void work())}
					aria-label="Decimal sign"
					><option value="">choose</option><option value=".">point, 10.5</option><option value=",">comma, 10,5</option></select
				></label
			>
		{/if}
		{#if study?.asks?.code === 'height_unit' || heightUnit}
			<label class="text-sm"
				><span class="text-soft">Heights are in</span><select
					class="select h-12 w-full border-line bg-sheet"
					value={heightUnit ?? ''}
					onchange={(e) => ((heightUnit = (e.currentTarget.value || null) as typeof heightUnit), void work())}
					aria-label="Unit of the heights"
					><option value="">choose</option><option value="um">µm</option><option value="mm">mm</option></select
				></label
			>
		{/if}
		<label class="text-sm"
			><span class="text-soft">The blade runs along</span><select
				class="select h-12 w-full border-line bg-sheet"
				bind:value={strokeAxis}
				onchange={work}><option value="x">x</option><option value="y">y</option></select
			></label
		>
		{#if data.run}
			<section>
				<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">The latest 60 panels of {data.run.number}</h2>
				<p class="mt-2 flex gap-3">
					{#each TABLES as t (t.key)}<a class="underline" href="/api/v1/runs/{data.run.id}/tables?of={t.key}" download>{t.key}.csv</a
						>{/each}
				</p>
			</section>
		{/if}
		<p class="text-sm text-soft">
			Titles are those of these files, in any order; sizes, foil and times with their units in the title. Level is judged against this
			plant’s transfer curve. <a class="underline" href="/line/{data.lineId}/paste-check/files">Keep results</a> instead.
		</p>
	{/snippet}
</StationFrame>
