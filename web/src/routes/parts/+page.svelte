<script lang="ts">
	import { MOISTURE_LEVELS, REEL_KINDS, TAPE_WIDTHS_MM, type MoistureLevel, type ReelKind } from '@keen-relay/core/parts';
	import { readLabel } from '@keen-relay/core/trace';
	import { bodies } from '$lib/api/bodies.ts';
	import { can } from '$lib/ui/can.ts';
	import Caution from '$lib/ui/Caution.svelte';
	import DataTable from '$lib/ui/DataTable.svelte';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import { KIND_WORDS } from '$lib/ui/parts.ts';
	import SelectField from '$lib/ui/SelectField.svelte';
	import TextField from '$lib/ui/TextField.svelte';

	let { data } = $props();
	type Reel = (typeof data.latest)[number];
	const { form, errors, enhance, draft } = entry({
		id: 'reel',
		schema: bodies.reel,
		// The next reel of a delivery is much like the one before.
		start: (after) => ({
			code: '',
			partNumber: after?.partNumber ?? '',
			kind: after?.kind ?? ('reel' as ReelKind),
			makerPart: after?.makerPart ?? '',
			makerLot: after?.makerLot ?? '',
			dateCode: after?.dateCode ?? '',
			owner: after?.owner ?? null,
			place: after?.place ?? '',
			pieces: after?.pieces ?? null,
			tapeMm: after ? after.tapeMm : 8,
			pitchMm: after ? after.pitchMm : 4,
			quadrant: after?.quadrant ?? null,
			moistureLevel: after?.moistureLevel ?? null,
			labelH: after?.labelH ?? null
		}),
		path: '/api/v1/reels',
		done: ({ code, partNumber }) => `${code}, ${partNumber} received`,
		draft: { subject: 'reel' }
	});
	const taped = $derived($form.kind === 'reel' || $form.kind === 'cut');
	let label = $state('');
	/** What the maker's label says goes into its fields; what it does not say stays. */
	function take() {
		const read = readLabel(label);
		form.update((now) => ({
			...now,
			...(read.partNumber ? { partNumber: read.partNumber } : {}),
			...(read.makerPart ? { makerPart: read.makerPart } : {}),
			...(read.lot ? { makerLot: read.lot } : {}),
			...(read.dateCode ? { dateCode: read.dateCode } : {}),
			...(read.pieces ? { pieces: read.pieces } : {}),
			...(read.serial ? { code: read.serial } : {})
		}));
		label = '';
	}
	const unasked = $derived($form.partNumber !== '' && !data.partNumbers.includes($form.partNumber));
</script>

<div class="beside grid h-full gap-6 px-5 pt-3 [--beside:520px]">
	<section class="flex min-h-0 flex-col">
		<h1 class="text-[26px] leading-8 font-bold">Received last</h1>
		<div class="mt-2 min-h-0 flex-1">
			{#snippet code(r: Reel)}<a class="figure whitespace-nowrap underline" href="/parts/reels?reel={encodeURIComponent(r.code)}"
					>{r.code}</a
				>{/snippet}
			<DataTable
				name="received"
				label="Received last"
				testid="received"
				rows={data.latest}
				key={(r) => r.code}
				columns={[
					{ id: 'at', title: 'Received', value: (r) => new Date(r.receivedAt).getTime(), time: true },
					{ id: 'code', title: 'Reel', value: (r) => r.code, cell: code },
					{ id: 'part', title: 'Part', value: (r) => r.partNumber },
					{ id: 'pieces', title: 'Pieces', value: (r) => r.pieces, figures: true },
					{ id: 'lot', title: 'Maker’s lot', value: (r) => r.makerLot },
					{ id: 'place', title: 'Place', value: (r) => r.status.place },
					{ id: 'owner', title: 'Owner', value: (r) => r.owner ?? '' }
				]}
				empty="Nothing received yet. Scan the label of the first reel."
			/>
		</div>
	</section>
	<aside class="flex min-h-0 flex-col gap-3 overflow-y-auto border-l border-line pb-3 pl-5">
		<h2 class="text-xl font-semibold">Receive</h2>
		<TextField
			label="Scan the maker’s label here, or type below"
			bind:value={label}
			scan
			figure
			class="h-12"
			onchange={take}
			placeholder="part, lot, quantity and date of the label"
		/>
		<EntryForm {enhance} {draft} label="Reel" class="grid grid-cols-3 items-end gap-2 max-[1179px]:grid-cols-2">
			<TextField
				label="Our number"
				spoken="Our number, on its label"
				bind:value={$form.code}
				errors={$errors.code}
				figure
				scan
				class="h-11"
			/>
			<SelectField
				label="Comes as"
				bind:value={$form.kind}
				errors={$errors.kind}
				options={REEL_KINDS.map((kind) => [kind, KIND_WORDS[kind]])}
				class="h-11"
			/>
			<NumberField label="Pieces" whole min={1} bind:value={$form.pieces} errors={$errors.pieces} />
			<TextField
				label="Part number, as the parts list says it"
				spoken="Part number"
				bind:value={$form.partNumber}
				errors={$errors.partNumber}
				figure
				scan
				list="part-numbers"
				class="h-11"
				around="col-span-2"
			/>
			<SelectField
				label="Moisture level"
				bind:value={$form.moistureLevel}
				errors={$errors.moistureLevel}
				options={[[null, 'none said'], ...MOISTURE_LEVELS.map((l): [MoistureLevel, string] => [l, l])]}
				class="h-11"
			/>
			{#if unasked}<p class="col-span-full text-sm" role="status">
					No board asks for this part number: is it typed as the parts list says it?
				</p>{/if}
			<datalist id="part-numbers"
				>{#each data.partNumbers as number (number)}<option value={number}></option>{/each}</datalist
			>
			<TextField label="Maker’s number" bind:value={$form.makerPart} errors={$errors.makerPart} figure class="h-11" />
			<TextField label="Maker’s lot" bind:value={$form.makerLot} errors={$errors.makerLot} figure class="h-11" />
			<TextField label="Date code" bind:value={$form.dateCode} errors={$errors.dateCode} figure class="h-11" placeholder="2634" />
			{#if taped}
				<SelectField
					label="Tape, mm"
					bind:value={$form.tapeMm}
					errors={$errors.tapeMm}
					options={TAPE_WIDTHS_MM.map((mm) => [mm, String(mm)])}
					class="h-11"
				/>
				<NumberField label="Pocket to pocket, mm" bind:value={$form.pitchMm} errors={$errors.pitchMm} />
				<SelectField
					label="Pin 1 in its pocket"
					spoken="Pin 1 in its pocket, sprocket holes at the top"
					bind:value={$form.quadrant}
					errors={$errors.quadrant}
					options={[
						[null, 'not looked at'],
						[1, 'upper left (1)'],
						[2, 'upper right (2)'],
						[3, 'lower left (3)'],
						[4, 'lower right (4)']
					]}
					class="h-11"
				/>
			{/if}
			<TextField label="Place" bind:value={$form.place} errors={$errors.place} class="h-11" placeholder="rack C3" />
			<TextField
				label="Owner, if a customer"
				spoken="Owner"
				bind:value={() => $form.owner ?? '', (name) => ($form.owner = name || null)}
				errors={$errors.owner}
				class="h-11"
			/>
			{#if $form.moistureLevel === '6'}<NumberField label="Hours on its label, h" bind:value={$form.labelH} errors={$errors.labelH} />{/if}
			<button class="btn col-span-full min-h-14 text-lg btn-primary" disabled={!can('reel.receive')}>Receive it</button>
		</EntryForm>
		<Caution text="Static kills parts: open bags, reels and trays at a grounded station." />
	</aside>
</div>
