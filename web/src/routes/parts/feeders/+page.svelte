<script lang="ts">
	import { untrack } from 'svelte';
	import { careIsDue, picksSinceCare } from '@keen-relay/core/feeders';
	import { TAPE_WIDTHS_MM } from '@keen-relay/core/parts';
	import { bodies } from '$lib/api/bodies.ts';
	import { can } from '$lib/ui/can.ts';
	import Caution from '$lib/ui/Caution.svelte';
	import DataTable from '$lib/ui/DataTable.svelte';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import ServiceForm from '$lib/ui/ServiceForm.svelte';
	import SelectField from '$lib/ui/SelectField.svelte';
	import WearHistory from '$lib/ui/WearHistory.svelte';
	import TextField from '$lib/ui/TextField.svelte';

	let { data } = $props();
	type Feeder = (typeof data.feeders)[number];
	let code = $state<string | null>(untrack(() => data.asked));
	const chosen = $derived(data.feeders.find((f) => f.code === code) ?? null);
	const { form, errors, enhance, draft } = entry({
		id: 'feeder',
		schema: bodies.feeder,
		start: (after) => ({ code: '', tapeMm: after?.tapeMm ?? 8, pitchMm: after?.pitchMm ?? 4 }),
		path: '/api/v1/feeders',
		done: ({ code: kept }) => `${kept} is kept`,
		draft: { subject: 'feeder' }
	});
	type Nozzle = (typeof data.nozzles)[number];
	const due = (kind: 'feeder' | 'nozzle', of: Feeder | Nozzle) =>
		careIsDue({ kind, name: '', picks: of.picks, caredPicks: of.caredPicks, faults: 'faults' in of ? of.faults : 0 }, data.care);
	const lostPct = (of: Feeder | Nozzle) => (of.picks ? (100 * of.lost) / of.picks : null);
	const where = (f: Feeder) => (f.station ? `${f.line}, ${f.station}, slot ${f.slot}` : '');
	const stands = (f: Feeder) => (f.outOfService === null ? 'in service' : `out of service: ${f.outOfService}`);
</script>

<div class="beside grid h-full gap-6 px-5 pt-3 [--beside:400px]">
	<section class="flex min-h-0 flex-col">
		<h1 class="text-[26px] leading-8 font-bold">Feeders and nozzles</h1>
		<div class="mt-2 min-h-0 flex-[3]">
			{#snippet mark(f: Feeder)}<span class="flex items-center gap-1.5"
					><LevelMark level={f.outOfService === null ? 'good' : 'stopped'} />{stands(f)}</span
				>{/snippet}
			{#snippet named(f: Feeder)}<button class="figure whitespace-nowrap underline" onclick={() => (code = f.code)}>{f.code}</button
				>{/snippet}
			<DataTable
				name="feeders"
				label="Feeders"
				testid="feeders"
				rows={data.feeders}
				key={(f) => f.code}
				picked={(f) => f.code === chosen?.code}
				columns={[
					{ id: 'code', title: 'Feeder', value: (f) => f.code, cell: named },
					{ id: 'tape', title: 'Tape, mm', value: (f) => f.tapeMm, figures: true },
					{ id: 'pitch', title: 'Pitch, mm', value: (f) => f.pitchMm, figures: true, away: true },
					{ id: 'stands', title: 'Stands', value: stands, cell: mark },
					{ id: 'reel', title: 'Reel in it', value: (f) => f.reel ?? '', class: 'figure whitespace-nowrap' },
					{ id: 'part', title: 'Part', value: (f) => f.partNumber ?? '' },
					{ id: 'where', title: 'Where', value: where },
					{ id: 'since', title: 'Picks since care', value: picksSinceCare, figures: true },
					{ id: 'lost', title: 'Lost, %', value: lostPct, decimals: 2, away: true },
					{ id: 'faults', title: 'Faults since', value: (f) => f.faults, figures: true, away: true },
					{ id: 'care', title: 'Care', value: (f) => (due('feeder', f) ? 'due' : '') },
					{ id: 'scans', title: 'Right scans', value: (f) => f.scans, figures: true, away: true }
				]}
				empty="No feeder is known yet: scanning refuses what it does not know."
			/>
		</div>
		<div class="mt-3 min-h-0 flex-[2]">
			{#snippet station(n: Nozzle)}<a class="underline" href="/line/{n.lineId}/place/{n.stationId}/picks">{n.line}, {n.station}</a
				>{/snippet}
			<DataTable
				small
				name="nozzles"
				label="Nozzles"
				testid="nozzles"
				rows={data.nozzles}
				key={(n) => `${n.stationId} ${n.name}`}
				columns={[
					{ id: 'nozzle', title: 'Nozzle', value: (n) => n.name },
					{ id: 'station', title: 'Machine', value: (n) => `${n.line}, ${n.station}`, cell: station },
					{ id: 'picks', title: 'Picks', value: (n) => n.picks, figures: true },
					{ id: 'since', title: 'Picks since care', value: picksSinceCare, figures: true },
					{ id: 'lost', title: 'Lost, %', value: lostPct, decimals: 2 },
					{ id: 'care', title: 'Care', value: (n) => (due('nozzle', n) ? 'due' : '') }
				]}
				empty="No machine has said yet by which nozzle it picks."
			/>
		</div>
	</section>
	<aside class="flex min-h-0 flex-col gap-4 overflow-y-auto border-l border-line pb-3 pl-5">
		{#if chosen}
			<section>
				<h2 class="figure text-xl font-semibold">{chosen.code}</h2>
				<p class="py-1">
					{stands(chosen)}. {chosen.reel ? `${chosen.partNumber}, reel ${chosen.reel}` : 'No reel is in it'}{chosen.station
						? `; ${where(chosen)}`
						: ''}.
				</p>
				{#key chosen.code}
					<ServiceForm name={chosen.code} path="/api/v1/feeders/{encodeURIComponent(chosen.code)}" outOfService={chosen.outOfService} />
					<div class="mt-3">
						<WearHistory
							name={chosen.code}
							path="/api/v1/feeders/{encodeURIComponent(chosen.code)}"
							events={data.events.filter((event) => event.name === chosen.code)}
						/>
					</div>
				{/key}
			</section>
		{/if}
		<section>
			<h2 class="border-b border-hair pb-1 font-semibold text-soft">New feeder</h2>
			<EntryForm {enhance} {draft} label="New feeder" class="mt-2 grid grid-cols-2 gap-2">
				<TextField label="Its number" bind:value={$form.code} errors={$errors.code} figure scan class="h-11" around="col-span-2" />
				<SelectField
					label="For tape, mm"
					bind:value={$form.tapeMm}
					errors={$errors.tapeMm}
					options={TAPE_WIDTHS_MM.map((mm) => [mm, String(mm)])}
					class="h-11"
				/>
				<NumberField label="Set to a pitch of, mm" bind:value={$form.pitchMm} errors={$errors.pitchMm} />
				<button class="btn col-span-2 min-h-12 btn-primary" disabled={!can('feeder.keep')}>Keep this feeder</button>
			</EntryForm>
		</section>
		<Caution text="Feeder gears, cutters and tape knives cut: change feeders only with the machine stopped, as its manual allows." />
	</aside>
</div>
