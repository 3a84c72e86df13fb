<script lang="ts">
	import { bodies } from '$lib/api/bodies.ts';
	import SelectField from '$lib/ui/SelectField.svelte';
	import TextField from '$lib/ui/TextField.svelte';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import { untrack } from 'svelte';
	import { noData, type Verdict } from '@keen-relay/core/judgement';
	import { TENSION_N_PER_CM } from '@keen-relay/core/printing';
	import { can } from '$lib/ui/can.ts';
	import Caution from '$lib/ui/Caution.svelte';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import { figure, quantity, titled } from '$lib/ui/theirs.svelte.ts';
	import DataTable from '$lib/ui/DataTable.svelte';
	import TensionForm from './TensionForm.svelte';
	import ToolForm from './ToolForm.svelte';

	let { data } = $props();
	let code = $state<string | null>(untrack(() => data.asked));
	$effect(() => {
		const asked = data.asked;
		if (asked) code = asked;
	});
	type Tool = (typeof data.tools)[number];
	const tool = $derived(data.tools.find((t) => t.code === code) ?? null);
	const mounted = $derived(data.tools.find((t) => t.id === data.run?.toolId) ?? null);
	const verdict = $derived<Verdict>(
		!data.run
			? noData('No run on this line.')
			: mounted
				? {
						...mounted.tensionVerdict,
						level: mounted.tensionVerdict.level === 'noData' ? 'watch' : mounted.tensionVerdict.level,
						statement: `${mounted.code} prints ${data.run.number}. ${mounted.tensionVerdict.statement}`
					}
				: {
						level: 'watch',
						statement: `No stencil has been scanned for ${data.run.number}.`,
						because: [],
						doNext: ['Scan the stencil and mount it']
					}
	);
	let entering = $state(false);
	const { form, errors, enhance, draft } = entry({
		id: 'stencil-tool',
		schema: bodies.stencilTool,
		start: () => ({ code: '', stencilId: data.designs[0]?.id ?? null, place: '', measuredUm: null }),
		path: '/api/v1/stencil-tools',
		done: (entered) => `${entered.code} is in the library`,
		then: (_, entered) => {
			code = entered.code;
			entering = false;
		},
		draft: { subject: 'stencil-tool' }
	});
	/** Corners and the middle, in the order in which they are measured. */
	const POINTS = [
		{ x: 60, y: 60, name: 'left front' },
		{ x: 340, y: 60, name: 'right front' },
		{ x: 340, y: 240, name: 'right rear' },
		{ x: 60, y: 240, name: 'left rear' },
		{ x: 200, y: 150, name: 'middle' }
	];
</script>

<StationFrame {verdict}>
	{#snippet about()}{data.tools.length} stencils; scan one anywhere to open it here.{/snippet}
	{#snippet bar()}
		<button
			class="btn ml-auto min-h-11 border-line bg-transparent font-normal"
			disabled={!can('stencilTool.keep')}
			onclick={() => (entering = !entering)}>{entering ? 'Close' : 'New stencil'}</button
		>
	{/snippet}
	{#snippet picture()}
		{#if entering}
			<EntryForm {enhance} {draft} label="Stencil" class="grid max-w-[640px] grid-cols-2 gap-3">
				<TextField label="Number on its frame" bind:value={$form.code} errors={$errors.code} figure scan placeholder="S-014" />
				<SelectField
					label="Design"
					bind:value={$form.stencilId}
					errors={$errors.stencilId}
					options={data.designs.map((d) => [
						d.id,
						`${d.name} ${d.revision}, ${d.side}; design ${d.design}, ${quantity(d.foilUm, 0, 'µm')}`
					])}
				/>
				<TextField label="Place" bind:value={$form.place} errors={$errors.place} placeholder="rack B2" />
				<NumberField
					label="Foil as measured, µm"
					class="h-12"
					min={30}
					max={300}
					step={0.1}
					bind:value={$form.measuredUm}
					errors={$errors.measuredUm}
				/>
				<button class="btn col-span-2 min-h-16 text-lg btn-primary">Keep this stencil</button>
			</EntryForm>
		{:else if tool}
			<div class="grid h-full grid-cols-2 gap-5">
				<section>
					<h2 class="pb-1 font-semibold">
						{titled('Tension, N/cm')} (at least {figure(TENSION_N_PER_CM.least, 0, 'N/cm')}; new {figure(TENSION_N_PER_CM.fresh, 0, 'N/cm')} and
						more)
					</h2>
					<svg
						viewBox="0 0 400 300"
						class="max-h-[200px] w-full"
						role="img"
						aria-label="Foil with its tension readings"
						font-size="17"
						fill="var(--ink)"
					>
						<rect x="4" y="4" width="392" height="292" fill="none" stroke="var(--ink)" stroke-width="6" />
						<rect x="30" y="30" width="340" height="240" fill="var(--sheet)" stroke="var(--line)" />
						{#each POINTS as p, i (p.name)}
							{@const v = tool.tension[i]?.nPerCm}
							<circle cx={p.x} cy={300 - p.y} r="5" fill={v !== undefined && v < TENSION_N_PER_CM.least ? 'var(--act)' : 'var(--ink)'} />
							<text x={p.x} y={300 - p.y - 11} text-anchor="middle" class="figure">{v ?? '–'}</text>
						{/each}
					</svg>
					{#key tool.id}<TensionForm toolId={tool.id} points={POINTS} />{/key}
				</section>
				<section class="flex min-h-0 flex-col">
					<h2 class="border-b border-hair pb-1 font-semibold">History</h2>
					<div class="min-h-0 flex-1">
						<DataTable
							small
							name="stencil-history"
							label="History of {tool.code}"
							rows={tool.events}
							key={(e) => e.id}
							columns={[
								{ id: 'at', title: 'Time', value: (e) => new Date(e.at).getTime(), time: true },
								{ id: 'kind', title: 'What', value: (e) => e.kind },
								{ id: 'note', title: 'Note', value: (e) => e.note ?? '' }
							]}
							empty="Nothing yet."
						/>
					</div>
				</section>
			</div>
		{:else}
			<div class="h-full">
				{#snippet mark(t: Tool)}<LevelMark level={t.state === 'usable' ? t.tensionVerdict.level : 'stopped'} />{/snippet}
				{#snippet number(t: Tool)}<button class="figure underline" onclick={() => (code = t.code)}>{t.code}</button>{/snippet}
				<DataTable
					name="stencils"
					label="Stencils"
					testid="stencils"
					rows={data.tools}
					key={(t) => t.id}
					columns={[
						{ id: 'mark', title: '', value: () => null, cell: mark, class: 'w-6' },
						{ id: 'number', title: 'Number', value: (t) => t.code, cell: number },
						{ id: 'board', title: 'Board', value: (t) => `${t.board} ${t.revision}` },
						{ id: 'side', title: 'Side', value: (t) => t.side },
						{ id: 'foil', title: 'Foil, µm', value: (t) => t.measuredUm ?? t.foilUm, decimals: 0 },
						{ id: 'prints', title: 'Prints', value: (t) => t.prints, figures: true },
						{ id: 'place', title: 'Place', value: (t) => (t.mountedOn ? `on line ${t.mountedOn}` : t.place) },
						{ id: 'cleaned', title: 'Cleaned', value: (t) => t.cleanedAt && new Date(t.cleanedAt).getTime(), time: true }
					]}
					empty="No stencil yet. Enter each with the number on its frame."
				/>
			</div>
		{/if}
	{/snippet}
	{#snippet side()}
		{#if tool}
			<div class="flex items-baseline justify-between">
				<h2 class="figure text-2xl font-semibold">{tool.code}</h2>
				<button class="underline" onclick={() => (code = null)}>All stencils</button>
			</div>
			<p>
				{tool.board}
				{tool.revision}, {tool.side}; design {tool.design}, <span class="figure">{quantity(tool.foilUm, 0, 'µm')}</span>{tool.measuredUm
					? `, measured ${quantity(tool.measuredUm, 1, 'µm')}`
					: ', not measured'}.
			</p>
			<p class="flex items-center gap-2">
				<LevelMark level={tool.state === 'usable' ? tool.tensionVerdict.level : 'stopped'} />{tool.state === 'usable'
					? tool.tensionVerdict.statement
					: `${tool.state}: ${tool.damage ?? ''}`}
			</p>
			<dl class="facts text-sm">
				<div>
					<dt>prints</dt>
					<dd class="n">{tool.prints}</dd>
				</div>
				<div>
					<dt>circuits</dt>
					<dd class="n">{tool.circuits}</dd>
				</div>
				<div>
					<dt>place</dt>
					<dd class="text-right">{tool.place}</dd>
				</div>
			</dl>
			{#key tool.id}<ToolForm {tool} run={data.run} lineId={data.lineId} />{/key}
		{:else}
			<p class="text-soft">Choose a stencil, or scan the number on its frame.</p>
		{/if}
		<Caution text="Foil edges cut. Cleaning solvents burn and irritate: ventilate, no sparks; used wipes are controlled waste." />
	{/snippet}
</StationFrame>
