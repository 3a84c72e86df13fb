<script lang="ts">
	import { bodies } from '$lib/api/bodies.ts';
	import SelectField from '$lib/ui/SelectField.svelte';
	import TextField from '$lib/ui/TextField.svelte';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import { z } from 'zod';
	import { noData, type Verdict } from '@keen-relay/core/judgement';
	import { FLUX_CLASSES, POWDER_TYPES, type FluxClass, type PasteRules, type PowderType } from '@keen-relay/core/paste';
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
	let editing = $state<number | 'new' | null>(null);
	/** As a person reads it: metal in % of the mass, and beside a rule nothing where common practice holds. */
	const fields = bodies.paste.omit({ metalMassShare: true, rules: true }).extend({
		metalPct: z.number().min(50).max(98),
		hours: z.record(z.string(), z.number().nullable()),
		stir: z.enum(['hand', 'mixer', 'none']),
		openMayReturn: z.boolean(),
		openLifePausesCold: z.boolean()
	});
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
		hours: {} as Record<string, number | null>,
		stir: 'hand' as PasteRules['stir'],
		openMayReturn: false,
		openLifePausesCold: false
	};
	const { form, errors, enhance, reset } = entry({
		id: 'paste',
		schema: fields,
		start: () => structuredClone(EMPTY),
		path: '/api/v1/pastes',
		body: ({ metalPct, hours, stir, openMayReturn, openLifePausesCold, ...given }) => {
			const own = Object.fromEntries(Object.entries(hours).filter(([, v]) => v !== null));
			return { ...given, metalMassShare: metalPct / 100, rules: { ...own, stir, openMayReturn, openLifePausesCold } };
		},
		done: ({ name }) => `${name} kept`,
		then: () => (editing = null)
	});
	function begin() {
		reset({ data: structuredClone(EMPTY) });
		editing = 'new';
	}
	function edit(paste: (typeof data.pastes)[number]) {
		const { stir, openMayReturn, openLifePausesCold, ...hours } = { ...data.common, ...paste.rules };
		reset({
			data: {
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
				hours: Object.fromEntries(HOURS.flatMap(([key]) => (paste.rules[key] === undefined ? [] : [[key, hours[key]]]))),
				stir,
				openMayReturn,
				openLifePausesCold
			}
		});
		editing = paste.id;
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
		<button class="btn ml-auto min-h-11 border-line bg-transparent font-normal" disabled={!can('paste.define')} onclick={begin}
			>New paste</button
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
				picked={(p) => editing === p.id}
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
		{#if editing !== null}
			<EntryForm {enhance} label="Paste" class="grid grid-cols-2 gap-2">
				<TextField label="name" bind:value={$form.name} errors={$errors.name} class="h-11" around="col-span-2" />
				<TextField label="part number" bind:value={$form.partNumber} errors={$errors.partNumber} figure class="h-11" />
				<TextField label="maker" bind:value={$form.maker} errors={$errors.maker} class="h-11" />
				<TextField label="alloy" bind:value={$form.alloy} errors={$errors.alloy} class="h-11" />
				<SelectField
					label="powder"
					bind:value={$form.powder}
					errors={$errors.powder}
					options={POWDER_TYPES.map((t) => [t, t])}
					class="h-11"
				/>
				<SelectField
					label="flux"
					bind:value={$form.fluxClass}
					errors={$errors.fluxClass}
					options={FLUX_CLASSES.map((f) => [f, FLUX[f]])}
					class="h-11"
					around="col-span-2"
				/>
				{#if $form.fluxClass === 'waterSoluble'}<TextField
						label="how it is washed off"
						bind:value={$form.wash}
						errors={$errors.wash}
						class="h-11"
						around="col-span-2"
					/>{/if}
				<NumberField label="metal, % of the mass" bind:value={$form.metalPct} errors={$errors.metalPct} />
				<NumberField label="metal, g/cm³" bind:value={$form.metalGPerCm3} errors={$errors.metalGPerCm3} />
				{#each HOURS as [key, label] (key)}
					<NumberField {label} placeholder={String(data.common[key])} bind:value={$form.hours[key]} errors={$errors.hours?.[key]} />
				{/each}
				<SelectField
					label="stirred"
					bind:value={$form.stir}
					errors={$errors.stir}
					options={Object.entries(STIR) as [PasteRules['stir'], string][]}
					class="h-11"
				/>
				<label class="col-span-2 flex min-h-11 items-center gap-2 text-sm"
					><input type="checkbox" class="checkbox" bind:checked={$form.openMayReturn} />an opened jar may go back to the fridge once</label
				>
				<label class="col-span-2 flex min-h-11 items-center gap-2 text-sm"
					><input type="checkbox" class="checkbox" bind:checked={$form.openLifePausesCold} />its open life stands still while cold</label
				>
				<button class="btn col-span-2 min-h-16 text-lg btn-primary" disabled={!can('paste.define')}>Keep this paste</button>
			</EntryForm>
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
