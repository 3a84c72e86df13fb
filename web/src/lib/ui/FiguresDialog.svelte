<script lang="ts">
	import { LOCALES, UNIT_SYSTEMS, sayFor, type Locale, type Preferences, type UnitSystem } from '@keen-relay/core/people';
	import { act } from './api.ts';
	import { localeWords, UNIT_WORDS } from './figures.ts';

	interface Props {
		own: { locale: Locale | null; units: UnitSystem | null };
		plant: Preferences;
		name: string;
		open: boolean;
	}
	let { own, plant, name, open = $bindable() }: Props = $props();
	let dialog: HTMLDialogElement | undefined = $state();
	let locale = $state<Locale | ''>('');
	let units = $state<UnitSystem | ''>('');
	$effect(() => {
		if (open && !dialog?.open) {
			locale = own.locale ?? '';
			units = own.units ?? '';
			dialog?.showModal();
		}
		if (!open && dialog?.open) dialog.close();
	});
	const example = $derived(sayFor({ locale: locale || plant.locale, units: units || plant.units }));

	async function keep(event: SubmitEvent) {
		event.preventDefault();
		const kept = await act(
			'PUT',
			'/api/v1/people/me/preferences',
			{ locale: locale || null, units: units || null },
			`Figures are shown to ${name} so from now on`
		);
		if (kept) open = false;
	}
</script>

<dialog bind:this={dialog} class="modal" onclose={() => (open = false)} aria-label="Numbers and units">
	{#if open}
		<div class="modal-box max-w-xl border border-line bg-sheet p-6 shadow-none">
			<h2 class="text-xl font-semibold">Numbers and units for {name}</h2>
			<form class="mt-4 grid gap-4" onsubmit={keep}>
				<label class="text-sm"
					><span class="text-soft">Numbers and dates</span>
					<select class="select h-12 w-full border-line bg-paper" bind:value={locale}>
						<option value="">as the plant has it, {localeWords(plant.locale)}</option>
						{#each LOCALES as one (one)}<option value={one}>{localeWords(one)}</option>{/each}
					</select></label
				>
				<label class="text-sm"
					><span class="text-soft">Units</span>
					<select class="select h-12 w-full border-line bg-paper" bind:value={units}>
						<option value="">as the plant has it, {UNIT_WORDS[plant.units]}</option>
						{#each UNIT_SYSTEMS as one (one)}<option value={one}>{UNIT_WORDS[one]}</option>{/each}
					</select></label
				>
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
			</form>
		</div>
	{/if}
	<form method="dialog" class="modal-backdrop"><button aria-label="Close">close</button></form>
</dialog>
