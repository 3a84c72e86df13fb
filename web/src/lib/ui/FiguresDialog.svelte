<script lang="ts">
	import { bodies } from '$lib/api/bodies.ts';
	import SelectField from './SelectField.svelte';
	import EntryForm from './EntryForm.svelte';
	import { entry } from './entry.svelte.ts';
	import { LOCALES, UNIT_SYSTEMS, sayFor, type Locale, type Preferences, type UnitSystem } from '@keen-relay/core/people';
	import { localeWords, UNIT_WORDS } from './figures.ts';

	interface Props {
		own: { locale: Locale | null; units: UnitSystem | null };
		plant: Preferences;
		name: string;
		open: boolean;
	}
	let { own, plant, name, open = $bindable() }: Props = $props();
	const { form, errors, enhance, reset } = entry({
		id: 'figures',
		schema: bodies.preferences,
		start: () => ({ ...own }),
		method: 'PUT',
		path: '/api/v1/people/me/preferences',
		done: () => `Figures are shown to ${name} so from now on`,
		then: () => (open = false),
		stays: true
	});
	let dialog: HTMLDialogElement | undefined = $state();
	$effect(() => {
		if (open && !dialog?.open) {
			reset({ data: own });
			dialog?.showModal();
		}
		if (!open && dialog?.open) dialog.close();
	});
	const example = $derived(sayFor({ locale: $form.locale ?? plant.locale, units: $form.units ?? plant.units }));
</script>

<dialog bind:this={dialog} class="modal" onclose={() => (open = false)} aria-label="Numbers and units">
	{#if open}
		<div class="modal-box max-w-xl border border-line bg-sheet p-6 shadow-none">
			<h2 class="text-xl font-semibold">Numbers and units for {name}</h2>
			<EntryForm {enhance} label="How figures are shown" class="mt-4 grid gap-4">
				<SelectField
					label="Numbers and dates"
					bind:value={$form.locale}
					errors={$errors.locale}
					options={[[null, `as the plant has it, ${localeWords(plant.locale)}`], ...LOCALES.map((one) => [one, localeWords(one)] as const)]}
				/>
				<SelectField
					label="Units"
					bind:value={$form.units}
					errors={$errors.units}
					options={[
						[null, `as the plant has it, ${UNIT_WORDS[plant.units]}`],
						...UNIT_SYSTEMS.map((one) => [one, UNIT_WORDS[one]] as const)
					]}
				/>
				<p class="text-sm text-soft" data-testid="figures-example">
					An opening of {example.quantity(0.25, 2, 'mm')}, a foil of {example.quantity(127, 0, 'µm')}, air of {example.quantity(
						23.5,
						1,
						'°C'
					)}, received {example.date('2026-11-27')}. What is stored and sent to machines stays metric with a decimal point. In any field a
					value may be typed with its unit: “5 mil”, “0.127 mm”, “75 °F”.
				</p>
				<div class="flex justify-end gap-3">
					<button type="button" class="btn min-h-12 border-ink bg-transparent" onclick={() => (open = false)}>Close</button>
					<button class="btn min-h-12 btn-primary">Keep it so</button>
				</div>
			</EntryForm>
		</div>
	{/if}
	<form method="dialog" class="modal-backdrop"><button aria-label="Close">close</button></form>
</dialog>
