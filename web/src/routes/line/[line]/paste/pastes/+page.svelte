<script lang="ts">
	import { noData, type Verdict } from '@keen-relay/core/judgement';
	import { FLUX_CLASSES, POWDER_TYPES, type FluxClass, type PasteRules, type PowderType } from '@keen-relay/core/paste';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import Caution from '$lib/ui/Caution.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import DataTable from '$lib/ui/DataTable.svelte';

	let { data } = $props();
	const FLUX: Record<FluxClass, string> = { noClean: 'no-clean', waterSoluble: 'water-soluble' };
	const STIR: Record<PasteRules['stir'], string> = { hand: 'by hand', mixer: 'by a mixer, once warm', none: 'not at all' };
	/** What a maker's data sheet may say otherwise; hours unless the unit stands there. */
	const HOURS = [
		['warmUpH', 'warm-up at least, h'],
		['warmToC', 'paste at least, °C'],
		['sealedOutH', 'sealed, out of the fridge, h'],
		['coldReturns', 'times back to the fridge'],
		['openLifeH', 'open life, h'],
		['stencilLifeH', 'life on the stencil, h'],
		['reflowActH', 'print to oven: act, h'],
		['reflowStopH', 'print to oven: stop, h'],
		['roomLowC', 'room from, °C'],
		['roomHighC', 'room to, °C'],
		['roomLowRhPct', 'room from, % RH'],
		['roomHighRhPct', 'room to, % RH'],
		['stirMin', 'stirring, min']
	] as const;
	type HourKey = (typeof HOURS)[number][0];

	const EMPTY = {
		id: undefined as number | undefined,
		startedFrom: null as number | null,
		name: '',
		partNumber: '',
		maker: '',
		alloy: '',
		powder: 'T4' as PowderType,
		fluxClass: 'noClean' as FluxClass,
		wash: '',
		metalPct: 88.5,
		metalGPerCm3: 7.4,
		rules: {} as Partial<Record<HourKey, number | null>>,
		stir: 'hand' as PasteRules['stir'],
		openMayReturn: false,
		openLifePausesCold: false
	};
	let form = $state<typeof EMPTY | null>(null);
	function edit(paste: (typeof data.pastes)[number]) {
		const { stir, openMayReturn, openLifePausesCold, ...hours } = { ...data.common, ...paste.rules };
		form = {
			...EMPTY,
			id: paste.id,
			name: paste.name,
			partNumber: paste.partNumber ?? '',
			startedFrom: paste.revision,
			maker: paste.maker ?? '',
			alloy: paste.alloy ?? '',
			powder: paste.powder ?? 'T4',
			fluxClass: paste.fluxClass ?? 'noClean',
			wash: paste.wash ?? '',
			metalPct: Number((100 * paste.metalMassShare).toFixed(2)),
			metalGPerCm3: paste.metalGPerCm3,
			// Only what differs from common practice is the paste's own.
			rules: Object.fromEntries(HOURS.flatMap(([key]) => (paste.rules[key] === undefined ? [] : [[key, hours[key]]]))),
			stir,
			openMayReturn,
			openLifePausesCold
		};
	}
	async function keep(event: SubmitEvent) {
		event.preventDefault();
		const { metalPct, rules, stir, openMayReturn, openLifePausesCold, ...given } = form!;
		const own = Object.fromEntries(Object.entries(rules).filter(([, v]) => typeof v === 'number'));
		const body = { ...given, metalMassShare: metalPct / 100, rules: { ...own, stir, openMayReturn, openLifePausesCold } };
		const done = await act('POST', '/api/v1/pastes', body, `${given.name} kept`);
		if (done) form = null;
	}

	type Paste = (typeof data.pastes)[number];
	const rulesOf = (p: Paste) => ({ ...data.common, ...p.rules });
	const verdict = $derived<Verdict>(
		data.pastes.length
			? { level: 'good', statement: `${data.pastes.length} pastes with what their makers say of them.`, because: [], doNext: [] }
			: noData('No paste yet.', ['Enter the first one with its data sheet beside you'])
	);
</script>

<StationFrame {verdict}>
	{#snippet about()}An empty field means common practice, which stands in grey; the maker’s data sheet outranks it.{/snippet}
	{#snippet bar()}
		<button
			class="btn ml-auto min-h-11 border-line bg-transparent font-normal"
			disabled={!can('paste.define')}
			onclick={() => (form = structuredClone(EMPTY))}>New paste</button
		>
	{/snippet}
	{#snippet picture()}
		<div class="h-full">
			{#snippet named(p: Paste)}<button class="text-left underline" onclick={() => edit(p)}>{p.name}</button>{#if p.wash}<br /><span
						class="text-sm text-soft">wash: {p.wash}</span
					>{/if}{/snippet}
			<DataTable
				name="pastes"
				label="Pastes"
				testid="pastes"
				rows={data.pastes}
				key={(p) => p.id}
				picked={(p) => form?.id === p.id}
				columns={[
					{ id: 'paste', title: 'Paste', value: (p) => p.name, cell: named },
					{ id: 'number', title: 'Number', value: (p) => p.partNumber, class: 'figure' },
					{ id: 'alloy', title: 'Alloy', value: (p) => p.alloy },
					{ id: 'powder', title: 'Powder', value: (p) => p.powder },
					{ id: 'flux', title: 'Flux', value: (p) => (p.fluxClass ? FLUX[p.fluxClass] : '') },
					{ id: 'life', title: 'stencil, h', value: (p) => rulesOf(p).stencilLifeH, figures: true },
					{
						id: 'oven',
						title: 'to oven, h',
						value: (p) => rulesOf(p).reflowActH,
						words: (p) => `${rulesOf(p).reflowActH} / ${rulesOf(p).reflowStopH}`,
						figures: true
					},
					{ id: 'stirred', title: 'Stirred', value: (p) => STIR[rulesOf(p).stir] }
				]}
				empty="No paste yet. Enter the first one with its data sheet beside you."
			/>
		</div>
	{/snippet}
	{#snippet side()}
		{#if form}
			<form class="grid grid-cols-2 gap-2" onsubmit={keep} aria-label="Paste">
				<label class="col-span-2 text-xs"
					><span class="text-soft">name</span><input
						class="input h-11 w-full border-line bg-sheet"
						bind:value={form.name}
						required
					/></label
				>
				<label class="text-xs"
					><span class="text-soft">part number</span><input
						class="figure input h-11 w-full border-line bg-sheet"
						bind:value={form.partNumber}
						required
					/></label
				>
				<label class="text-xs"
					><span class="text-soft">maker</span><input class="input h-11 w-full border-line bg-sheet" bind:value={form.maker} /></label
				>
				<label class="text-xs"
					><span class="text-soft">alloy</span><input
						class="input h-11 w-full border-line bg-sheet"
						bind:value={form.alloy}
						required
					/></label
				>
				<label class="text-xs"
					><span class="text-soft">powder</span><select class="select h-11 w-full border-line bg-sheet" bind:value={form.powder}
						>{#each POWDER_TYPES as t (t)}<option>{t}</option>{/each}</select
					></label
				>
				<label class="col-span-2 text-xs"
					><span class="text-soft">flux</span><select class="select h-11 w-full border-line bg-sheet" bind:value={form.fluxClass}
						>{#each FLUX_CLASSES as f (f)}<option value={f}>{FLUX[f]}</option>{/each}</select
					></label
				>
				{#if form.fluxClass === 'waterSoluble'}<label class="col-span-2 text-xs"
						><span class="text-soft">how it is washed off</span><input
							class="input h-11 w-full border-line bg-sheet"
							bind:value={form.wash}
						/></label
					>{/if}
				<NumberField label="metal, % of the mass" bind:value={form.metalPct} />
				<NumberField label="metal, g/cm³" bind:value={form.metalGPerCm3} />
				{#each HOURS as [key, label] (key)}
					<NumberField {label} placeholder={String(data.common[key])} bind:value={form.rules[key]} />
				{/each}
				<label class="text-xs"
					><span class="text-soft">stirred</span><select class="select h-11 w-full border-line bg-sheet" bind:value={form.stir}
						>{#each Object.entries(STIR) as [key, name] (key)}<option value={key}>{name}</option>{/each}</select
					></label
				>
				<label class="col-span-2 flex min-h-11 items-center gap-2 text-sm"
					><input type="checkbox" class="checkbox" bind:checked={form.openMayReturn} />an opened jar may go back to the fridge once</label
				>
				<label class="col-span-2 flex min-h-11 items-center gap-2 text-sm"
					><input type="checkbox" class="checkbox" bind:checked={form.openLifePausesCold} />its open life stands still while cold</label
				>
				<button class="btn col-span-2 min-h-16 text-lg btn-primary" disabled={!can('paste.define')}>Keep this paste</button>
			</form>
		{:else}
			<p class="text-soft">Choose a paste to see or change what its maker says of it.</p>
		{/if}
		<p class="text-sm text-soft">
			Where plants differ: an opened jar goes back to the fridge never, or once; the mixer is for warm paste only; a top-up does not start
			the stencil’s clock anew here, the oldest gram governs, because it stays in the bead: the mean age of a topped-up bead stands beside
			it on Jars.
		</p>
		<Caution
			text="Paste may contain lead; its flux irritates skin and lungs. The maker’s data and safety sheets come before these values."
		/>
	{/snippet}
</StationFrame>
