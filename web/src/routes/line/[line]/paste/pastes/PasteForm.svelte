<script lang="ts" module>
	import { FLUX_CLASSES, POWDER_TYPES, type FluxClass, type PasteRules, type PowderType } from '@keen-relay/core/paste';

	export const FLUX: Record<FluxClass, string> = { noClean: 'no-clean', waterSoluble: 'water-soluble' };
	export const STIR: Record<PasteRules['stir'], string> = { hand: 'by hand', mixer: 'by a mixer, once warm', none: 'not at all' };
</script>

<script lang="ts">
	import { untrack } from 'svelte';
	import { z } from 'zod';
	import { bodies } from '$lib/api/bodies.ts';
	import { can } from '$lib/ui/can.ts';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import SelectField from '$lib/ui/SelectField.svelte';
	import TextField from '$lib/ui/TextField.svelte';
	import type { PageData } from './$types';

	interface Props {
		/** The paste that is corrected, as it stands; null: a new one. */
		of: PageData['pastes'][number] | null;
		common: PageData['common'];
		onkept: () => void;
	}
	let { of, common, onkept }: Props = $props();
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
	/** As a person reads it: metal in % of the mass, and beside a rule nothing where common practice holds. */
	const fields = bodies.paste.omit({ metalMassShare: true, rules: true }).extend({
		metalPct: z.number().min(50).max(98),
		hours: z.record(z.string(), z.number().nullable()),
		stir: z.enum(['hand', 'mixer', 'none']),
		openMayReturn: z.boolean(),
		openLifePausesCold: z.boolean()
	});
	function start() {
		const paste = untrack(() => of);
		const { stir, openMayReturn, openLifePausesCold, ...hours } = { ...untrack(() => common), ...paste?.rules };
		return {
			id: paste?.id,
			startedFrom: paste?.revision ?? null,
			name: paste?.name ?? '',
			partNumber: paste?.partNumber ?? '',
			maker: paste?.maker ?? '',
			alloy: paste?.alloy ?? '',
			powder: paste?.powder ?? ('T4' as PowderType),
			fluxClass: paste?.fluxClass ?? ('noClean' as FluxClass),
			wash: paste?.wash ?? '',
			metalPct: paste ? Number((100 * paste.metalMassShare).toFixed(2)) : 88.5,
			metalGPerCm3: paste?.metalGPerCm3 ?? 7.4,
			// Only what differs from common practice is the paste's own.
			hours: Object.fromEntries(HOURS.flatMap(([key]) => (paste?.rules[key] === undefined ? [] : [[key, hours[key]]]))) as Record<
				string,
				number | null
			>,
			stir,
			openMayReturn,
			openLifePausesCold
		};
	}
	const { form, errors, enhance, draft } = entry({
		id: 'paste',
		schema: fields,
		start,
		path: '/api/v1/pastes',
		body: ({ metalPct, hours, stir, openMayReturn, openLifePausesCold, ...given }) => {
			const own = Object.fromEntries(Object.entries(hours).filter(([, v]) => v !== null));
			return { ...given, metalMassShare: metalPct / 100, rules: { ...own, stir, openMayReturn, openLifePausesCold } };
		},
		done: ({ name }) => `${name} kept`,
		then: () => onkept(),
		draft: { subject: `paste-${untrack(() => of?.id ?? 'new')}`, base: () => (of ? `revision ${of.revision}` : '') }
	});
</script>

<EntryForm {enhance} {draft} label="Paste" class="grid grid-cols-2 gap-2">
	<TextField label="name" bind:value={$form.name} errors={$errors.name} class="h-11" around="col-span-2" />
	<TextField label="part number" bind:value={$form.partNumber} errors={$errors.partNumber} figure class="h-11" />
	<TextField label="maker" bind:value={$form.maker} errors={$errors.maker} class="h-11" />
	<TextField label="alloy" bind:value={$form.alloy} errors={$errors.alloy} class="h-11" />
	<SelectField label="powder" bind:value={$form.powder} errors={$errors.powder} options={POWDER_TYPES.map((t) => [t, t])} class="h-11" />
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
		<NumberField {label} placeholder={String(common[key])} bind:value={$form.hours[key]} errors={$errors.hours?.[key]} />
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
