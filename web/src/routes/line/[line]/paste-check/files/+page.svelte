<script lang="ts">
	import { untrack } from 'svelte';
	import { PASTE_COLUMN_NAMES, PASTE_COLUMNS } from '@keen-relay/core/inspection';
	import type { Issue, Verdict } from '@keen-relay/core/judgement';
	import { send } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import Issues from '$lib/ui/Issues.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import { titled } from '$lib/ui/theirs.svelte.ts';

	interface Read {
		kept: boolean;
		asks: Issue | null;
		issues: Issue[];
		titles: string[];
		panels: number;
		rows: number;
		accepted?: number;
		mapping: Record<string, string>;
	}
	let { data } = $props();
	let unit = $state(untrack(() => data.units[0]?.unit ?? ''));
	let runId = $state(untrack(() => data.runs[0]?.id ?? 0));
	let text = $state('');
	let name = $state('');
	let mapping = $state<Record<string, string>>({});
	let heightUnit = $state<'um' | 'mm' | null>(null);
	let decimal = $state<'.' | ',' | null>(null);
	/** What the unit’s 100 % count with, where that is not the foil as measured. */
	let nominalFoilUm = $state<number | null>(null);
	let read = $state.raw<Read | null>(null);
	let issues = $state.raw<Issue[]>([]);
	let busy = $state(false);
	let asked = 0;
	const firstLine = $derived(
		(text.split(/\r\n|\n|\r/, 1)[0] ?? '')
			.split(/[\t;,|]/)
			.map((t) => t.trim())
			.filter(Boolean)
	);
	const titles = $derived(read?.titles ?? firstLine);
	const run = $derived(data.runs.find((r) => r.id === runId));
	const known = $derived(data.units.find((u) => u.unit === unit)?.mapping ?? {});
	const verdict = $derived<Verdict>(
		read?.kept
			? { level: 'good', statement: `${read.accepted} panels kept.`, because: [], doNext: [] }
			: read?.asks
				? {
						level: 'watch',
						statement: read.asks.message,
						because: [],
						doNext: [read.asks.code === 'height_unit' ? 'Choose the unit of the heights' : 'Choose the decimal sign']
					}
				: read
					? {
							level: read.panels ? 'good' : 'act',
							statement: `${read.panels} whole panels, ${read.rows} readings.`,
							because: [],
							doNext: read.panels ? ['Keep them'] : []
						}
					: { level: 'noData', statement: 'Choose a file with paste inspection results.', because: [], doNext: [] }
	);
	async function choose(event: Event & { currentTarget: HTMLInputElement }) {
		const file = event.currentTarget.files?.[0];
		if (!file) return;
		name = file.name;
		text = await file.text();
		heightUnit = null;
		decimal = null;
		// The next file of the same unit has the same columns.
		mapping = Object.fromEntries(Object.entries(mapping).filter(([, title]) => firstLine.includes(title)));
		await go(true);
	}
	async function go(check: boolean) {
		if (text === '' || unit === '') return;
		busy = true;
		const own = ++asked;
		const answer = await send<Read>(
			'POST',
			'/api/v1/paste-results',
			{ unit, runId, text, mapping: $state.snapshot(mapping), heightUnit, decimal, nominalFoilUm, check },
			check ? 'Reading the file' : undefined
		);
		// Columns are chosen faster than a large file is read: only the last answer counts.
		if (own !== asked) return;
		busy = false;
		read = answer.data;
		issues =
			answer.data?.issues ??
			(answer.issues.length ? answer.issues : [{ severity: 'error', code: 'refused', field: '', value: '', message: answer.message }]);
	}
</script>

<StationFrame {verdict}>
	{#snippet about()}{name ||
			'A table with a row a pad: panel, pad, volume, height, area, offsets. Columns are confirmed once for each inspection unit.'}{/snippet}
	{#snippet picture()}
		<div class="grid h-full grid-cols-2 gap-5">
			<div class="min-h-0 overflow-y-auto" role="group" aria-label="Columns">
				<h2 class="border-b border-hair pb-1 font-semibold">Which column is which</h2>
				{#each PASTE_COLUMNS as c (c)}
					<label class="flex items-center justify-between gap-3 border-b border-hair py-1 text-sm">
						<span>{PASTE_COLUMN_NAMES[c]}</span>
						<select
							class="select h-10 w-56 border-line bg-sheet"
							value={mapping[c] ?? known[c] ?? titles.find((t) => t.toLowerCase() === c) ?? ''}
							onchange={(e) => ((mapping[c] = e.currentTarget.value), void go(true))}
							aria-label="Column for {PASTE_COLUMN_NAMES[c]}"
						>
							<option value="">{c === 'peak_height_um' || c === 'bridge' ? 'not in this file' : 'choose'}</option>
							{#each titles as t (t)}<option value={t}>{t}</option>{/each}
						</select>
					</label>
				{/each}
			</div>
			<div class="min-h-0 overflow-y-auto" role="group" aria-label="Issues"><Issues {issues} /></div>
		</div>
	{/snippet}
	{#snippet side()}
		<label class="text-sm"
			><span class="text-soft">Inspection unit</span><input
				class="input h-12 w-full border-line bg-sheet"
				bind:value={unit}
				list="units"
				placeholder="its name, remembered"
				onchange={() => ((mapping = {}), void go(true))}
			/></label
		>
		<datalist id="units"
			>{#each data.units as u (u.unit)}<option value={u.unit}></option>{/each}</datalist
		>
		<label class="text-sm"
			><span class="text-soft">Run</span><select
				class="select h-12 w-full border-line bg-sheet"
				bind:value={runId}
				onchange={() => go(true)}
				>{#each data.runs as r (r.id)}<option value={r.id}>{r.number}, {r.side}{r.endedAt ? '' : ', now'}</option>{/each}</select
			></label
		>
		<label class="text-sm"
			><span class="text-soft">File, CSV or text</span><input
				class="file-input h-12 w-full border-line bg-sheet"
				type="file"
				accept=".csv,.txt,.tsv"
				name="results"
				onchange={choose}
			/></label
		>
		{#if read?.asks?.code === 'decimal_sign' || decimal}
			<label class="text-sm"
				><span class="text-soft">Decimal sign of this file</span><select
					class="select h-12 w-full border-line bg-sheet"
					value={decimal ?? ''}
					onchange={(e) => ((decimal = (e.currentTarget.value || null) as typeof decimal), void go(true))}
					aria-label="Decimal sign"
					><option value="">choose</option><option value=".">point, 10.5</option><option value=",">comma, 10,5</option></select
				></label
			>
		{/if}
		{#if read?.asks?.code === 'height_unit' || heightUnit}
			<label class="text-sm"
				><span class="text-soft">Heights are in</span><select
					class="select h-12 w-full border-line bg-sheet"
					value={heightUnit ?? ''}
					onchange={(e) => ((heightUnit = (e.currentTarget.value || null) as typeof heightUnit), void go(true))}
					aria-label="Unit of the heights"
					><option value="">choose</option><option value="um">µm</option><option value="mm">mm</option></select
				></label
			>
		{/if}
		{#if run}
			<label class="text-sm"
				><span class="text-soft">{titled('The unit’s 100 % count with a foil of, µm')}</span><NumberField
					bare
					label="The unit’s 100 % count with a foil of, µm"
					class="h-12 w-full"
					min={30}
					max={300}
					step={0.5}
					placeholder={run.measuredUm === null ? `${run.foilUm}, as ordered` : `${run.measuredUm}, as measured`}
					bind:value={nominalFoilUm}
					onchange={() => go(true)}
					hint="Volumes are judged by the foil as it was measured: foils differ from their label by 5 to 8 %."
				/></label
			>
		{/if}
		<button
			class="btn min-h-16 text-lg btn-primary"
			disabled={busy || !read || read.kept || read.panels === 0 || !can('results.import')}
			onclick={() => go(false)}>Keep {read?.panels ?? 0} panels</button
		>
		<p class="text-sm text-soft">
			Bad rows are left out and named; whole panels are kept. Panels must have been printed in this run. A run from elsewhere is only
			<a class="underline" href="/line/{data.lineId}/paste-check/files/study">studied</a>.
		</p>
	{/snippet}
</StationFrame>
