<script module lang="ts">
	/** What was chosen and typed, kept while the page is left and come back to: the file is no part of a draft. */
	let left: { of: number; name: string; text: string; typed: unknown } | null = null;
</script>

<script lang="ts">
	import { onMount, tick, untrack } from 'svelte';
	import { get } from 'svelte/store';
	import { beforeNavigate } from '$app/navigation';
	import { PASTE_COLUMN_NAMES, PASTE_COLUMNS } from '@keen-relay/core/inspection';
	import type { Issue, Verdict } from '@keen-relay/core/judgement';
	import { bodies } from '$lib/api/bodies.ts';
	import { send } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import SelectField from '$lib/ui/SelectField.svelte';
	import TextField from '$lib/ui/TextField.svelte';
	import Issues from '$lib/ui/Issues.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';

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
	let text = $state('');
	let name = $state('');
	let read = $state.raw<Read | null>(null);
	let issues = $state.raw<Issue[]>([]);
	let busy = $state(false);
	let asked = 0;

	const { form, errors, enhance, draft } = entry({
		id: 'paste-file',
		schema: bodies.pasteImport.omit({ text: true, check: true }),
		start: () => ({
			unit: data.units[0]?.unit ?? '',
			runId: data.runs[0]?.id ?? null,
			mapping: {},
			heightUnit: null,
			decimal: null,
			nominalFoilUm: null
		}),
		async sends(value, refuse) {
			const answer = await ask({ ...value, check: false });
			if (!answer.data) refuse(answer.issues);
			return answer.data;
		},
		stays: true,
		draft: { subject: untrack(() => `paste-file.${data.lineId}`), base: () => name }
	});
	const firstLine = $derived(
		(text.split(/\r\n|\n|\r/, 1)[0] ?? '')
			.split(/[\t;,|]/)
			.map((t) => t.trim())
			.filter(Boolean)
	);
	const titles = $derived(read?.titles ?? firstLine);
	const run = $derived(data.runs.find((r) => r.id === $form.runId));
	const known = $derived(data.units.find((u) => u.unit === $form.unit)?.mapping ?? {});
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
					: text !== '' && ($form.unit === '' || !$form.runId)
						? { level: 'act', statement: `Say which unit wrote ${name}, and of which run.`, because: [], doNext: [] }
						: { level: 'noData', statement: 'Choose a file with paste inspection results.', because: [], doNext: [] }
	);
	async function choose(event: Event & { currentTarget: HTMLInputElement }) {
		const file = event.currentTarget.files?.[0];
		if (!file) return;
		name = file.name;
		text = await file.text();
		form.update((was) => ({
			...was,
			heightUnit: null,
			decimal: null,
			// The next file of the same unit has the same columns.
			mapping: Object.fromEntries(Object.entries(was.mapping ?? {}).filter(([, title]) => firstLine.includes(title)))
		}));
		await check();
	}
	/** What would be kept is said after each choice; nothing is. */
	async function check() {
		// What was chosen just now stands in the form first.
		await tick();
		const { unit, runId } = get(form);
		if (text !== '' && unit !== '' && runId) await ask({ ...get(form), check: true }, `Reading ${name}`);
	}
	async function ask(given: object, reading?: string) {
		busy = true;
		const own = ++asked;
		const answer = await send<Read>('POST', '/api/v1/paste-results', { ...given, text }, reading);
		// Columns are chosen faster than a large file is read: only the last answer counts.
		if (own !== asked) return answer;
		busy = false;
		read = answer.data;
		issues =
			answer.data?.issues ??
			(answer.issues.length ? answer.issues : [{ severity: 'error', code: 'refused', field: '', value: '', message: answer.message }]);
		return answer;
	}

	beforeNavigate(() => {
		if (text !== '' && !read?.kept) left = { of: data.lineId, name, text, typed: get(form) };
	});
	onMount(async () => {
		const before = left;
		left = null;
		if (before?.of !== data.lineId) return;
		[name, text] = [before.name, before.text];
		form.set(before.typed as typeof $form);
		await check();
	});
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
							value={$form.mapping?.[c] ?? known[c] ?? titles.find((t) => t.toLowerCase() === c) ?? ''}
							onchange={(e) => (($form.mapping = { ...$form.mapping, [c]: e.currentTarget.value }), void check())}
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
		<EntryForm {enhance} {draft} label="Results from a file" class="flex flex-col gap-3">
			<TextField
				label="Inspection unit"
				bind:value={$form.unit}
				errors={$errors.unit}
				list="units"
				placeholder="its name, remembered"
				class="h-12"
				onchange={() => (($form.mapping = {}), void check())}
			/>
			<datalist id="units"
				>{#each data.units as u (u.unit)}<option value={u.unit}></option>{/each}</datalist
			>
			<SelectField
				label="Run"
				bind:value={$form.runId}
				errors={$errors.runId}
				options={data.runs.map((r) => [r.id, `${r.number}, ${r.side}${r.endedAt ? '' : ', now'}`] as const)}
				onchange={check}
			/>
			<label class="text-sm"
				><span class="text-soft">File, CSV or text</span><input
					class="file-input h-12 w-full border-line bg-sheet"
					type="file"
					accept=".csv,.txt,.tsv"
					name="results"
					onchange={choose}
				/></label
			>
			{#if read?.asks?.code === 'decimal_sign' || $form.decimal}
				<SelectField
					label="Decimal sign of this file"
					spoken="Decimal sign"
					bind:value={$form.decimal}
					errors={$errors.decimal}
					options={[[null, 'choose'] as const, ['.', 'point, 10.5'] as const, [',', 'comma, 10,5'] as const]}
					onchange={check}
				/>
			{/if}
			{#if read?.asks?.code === 'height_unit' || $form.heightUnit}
				<SelectField
					label="Heights are in"
					spoken="Unit of the heights"
					bind:value={$form.heightUnit}
					errors={$errors.heightUnit}
					options={[[null, 'choose'] as const, ['um', 'µm'] as const, ['mm', 'mm'] as const]}
					onchange={check}
				/>
			{/if}
			{#if run}
				<NumberField
					label="The unit’s 100 % count with a foil of, µm"
					class="h-12 w-full"
					min={30}
					max={300}
					step={0.5}
					placeholder={run.measuredUm === null ? `${run.foilUm}, as ordered` : `${run.measuredUm}, as measured`}
					bind:value={$form.nominalFoilUm}
					errors={$errors.nominalFoilUm}
					onchange={check}
					hint="Volumes are judged by the foil as it was measured: foils differ from their label by 5 to 8 %."
				/>
			{/if}
			<button class="btn min-h-16 text-lg btn-primary" disabled={busy || !read || read.kept || read.panels === 0 || !can('results.import')}
				>Keep {read?.panels ?? 0} panels</button
			>
		</EntryForm>
		<p class="text-sm text-soft">
			Bad rows are left out and named; whole panels are kept. Panels must have been printed in this run. A run from elsewhere is only
			<a class="underline" href="/line/{data.lineId}/paste-check/files/study">studied</a>.
		</p>
	{/snippet}
</StationFrame>
