<script lang="ts">
	import DataTable from '$lib/ui/DataTable.svelte';
	import { bodies } from '$lib/api/bodies.ts';
	import SelectField from '$lib/ui/SelectField.svelte';
	import TextField from '$lib/ui/TextField.svelte';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import { page } from '$app/state';
	import { can } from '$lib/ui/can.ts';
	import Chart, { type Palette } from '$lib/ui/Chart.svelte';
	import { axis, limitLine, roomFor } from '$lib/ui/chart-parts.ts';
	import { clockTime } from '$lib/ui/format.ts';
	import DateField from '$lib/ui/DateField.svelte';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import { theirs, inTheirs, fixed, quantity, say, unitName } from '$lib/ui/theirs.svelte.ts';

	let { data } = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const KIND = { fridge: 'fridge', room: 'room', store: 'store', cabinet: 'dry cabinet' } as const;
	let entering = $state(false);
	const { form, errors, enhance, draft } = entry({
		id: 'sensor',
		schema: bodies.sensor,
		start: () => ({
			name: '',
			kind: 'room' as keyof typeof KIND,
			lineId: null,
			calibratedOn: null,
			lowC: 22,
			highC: 26,
			lowRhPct: 40,
			highRhPct: 60,
			everyMin: 5,
			graceMin: 20
		}),
		path: '/api/v1/sensors',
		done: ({ name }) => `${name} added`,
		then: () => (entering = false),
		draft: { subject: 'sensor' }
	});

	type Sensor = (typeof data.sensors)[number];
	const lineName = (id: number | null) => data.lines.find((l) => l.id === id)?.name ?? '';
	const air = $derived(data.sensors.filter((s) => s.readings.length));
	const sensorChart = (s: (typeof data.sensors)[number]) => (p: Palette) => ({
		type: 'scatter' as const,
		data: {
			datasets: [
				{
					data: s.readings.map((r) => ({ x: (r.atMs - data.nowMs) / 3_600_000, y: inTheirs(r.temperatureC, '°C') })),
					showLine: true,
					spanGaps: false,
					borderColor: p.ink,
					borderWidth: 1.4,
					pointRadius: 0
				},
				...(s.readings.some((r) => r.rhPct !== null)
					? [
							{
								data: s.readings.map((r) => ({ x: (r.atMs - data.nowMs) / 3_600_000, y: r.rhPct! })),
								showLine: true,
								borderColor: p.soft,
								borderDash: [5, 4],
								borderWidth: 1.2,
								pointRadius: 0
							}
						]
					: [])
			]
		},
		options: {
			maintainAspectRatio: false,
			scales: {
				x: axis(p, 'hours before now', { min: -24, max: 0 }),
				y: axis(p, `${unitName('°C')}${s.readings.some((r) => r.rhPct !== null) ? '; % RH' : ''}`, {
					...roomFor(
						s.readings.flatMap((r) => {
							const there = inTheirs(r.temperatureC, '°C');
							return r.rhPct === null ? [there] : [there, r.rhPct];
						}),
						[inTheirs(s.lowC, '°C'), inTheirs(s.highC, '°C')]
					)
				})
			},
			plugins: {
				annotation: {
					annotations: {
						low: limitLine(p, inTheirs(s.lowC, '°C'), quantity(s.lowC, 0, '°C')),
						high: limitLine(p, inTheirs(s.highC, '°C'), quantity(s.highC, 0, '°C'))
					}
				}
			}
		}
	});
</script>

<StationFrame verdict={data.verdict}>
	{#snippet about()}Fridges, stores and rooms in the last 24 hours; what an excursion touched is held until somebody has looked at it.{/snippet}
	{#snippet bar()}
		<button
			class="btn ml-auto min-h-11 border-line bg-transparent font-normal"
			disabled={!can('sensor.set')}
			onclick={() => (entering = !entering)}>{entering ? 'Close' : 'New sensor'}</button
		>
	{/snippet}
	{#snippet picture()}
		<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
		<div class="grid h-full auto-rows-[minmax(150px,1fr)] gap-2 overflow-y-auto" role="group" aria-label="Readings" tabindex="0">
			{#each air as s (s.id)}
				<div class="grid min-h-0 grid-cols-[minmax(0,1fr)_230px] gap-3">
					<Chart config={sensorChart(s)} label="{s.name}, the last 24 hours" />
					<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
					<div class="min-h-0 overflow-y-auto text-sm" role="group" aria-label={s.name} tabindex="0">
						<h2 class="font-semibold">{s.name}</h2>
						<p class="text-soft">
							{s.readings.some((r) => r.rhPct !== null) ? `line: ${unitName('°C')}, dashes: % RH; ` : ''}calibrated {(s.calibratedOn &&
								theirs().date(s.calibratedOn)) ??
								'never: its readings prove nothing'}
						</p>
						{#each s.report.excursions as e (e.fromMs)}
							<p class="mt-1">
								{clockTime(e.fromMs, zone)} to {e.open ? 'now' : clockTime(e.toMs, zone)}: {{
									high: 'too warm',
									low: 'too cold',
									freezing: 'below freezing',
									humid: 'too humid',
									dry: 'too dry'
								}[e.kind]},
								<span class="figure"
									>{e.kind === 'humid' || e.kind === 'dry' ? `${fixed(e.worst, 0)} % RH` : quantity(e.worst, 1, '°C')}</span
								>
							</p>
							{#each [['jars', e.touched.jars], ['on the stencil', e.touched.beads], ['reels', e.touched.reels]] as const as [what, names] (what)}
								{#if names.length}<p class="text-soft">{what}: <span class="figure text-ink">{names.join(', ')}</span></p>{/if}
							{/each}
						{:else}<p class="mt-1">No excursion in 24 h.</p>{/each}
						{#each s.report.gaps as g (g.fromMs)}<p class="mt-1 text-soft">
								no data {clockTime(g.fromMs, zone)} to {clockTime(g.toMs, zone)}
							</p>{/each}
					</div>
				</div>
			{:else}<p class="border border-dashed border-(color:--none) p-8 text-soft">
					No data. Enter the sensors here; their readings come as messages.
				</p>{/each}
		</div>
	{/snippet}
	{#snippet side()}
		{#if entering}
			<EntryForm {enhance} {draft} label="Sensor" class="grid grid-cols-2 gap-2">
				<TextField label="name, as its messages have it" bind:value={$form.name} errors={$errors.name} class="h-11" around="col-span-2" />
				<SelectField
					label="where"
					bind:value={$form.kind}
					errors={$errors.kind}
					options={Object.entries(KIND) as [keyof typeof KIND, string][]}
					class="h-11"
				/>
				<SelectField
					label="at line"
					bind:value={$form.lineId}
					errors={$errors.lineId}
					options={[[null, 'none'], ...data.lines.map((l) => [l.id, l.name] as const)]}
					class="h-11"
				/>
				<NumberField label="from, °C" min={-30} bind:value={$form.lowC} errors={$errors.lowC} />
				<NumberField label="to, °C" min={-30} bind:value={$form.highC} errors={$errors.highC} />
				<NumberField label="from, % RH" bind:value={$form.lowRhPct} errors={$errors.lowRhPct} />
				<NumberField label="to, % RH" bind:value={$form.highRhPct} errors={$errors.highRhPct} />
				<NumberField label="a reading every, min" bind:value={$form.everyMin} errors={$errors.everyMin} />
				<NumberField label="outside counts after, min" bind:value={$form.graceMin} errors={$errors.graceMin} />
				<DateField label="calibrated on" bind:value={$form.calibratedOn} errors={$errors.calibratedOn} around="col-span-2" />
				<button class="btn col-span-2 min-h-16 text-lg btn-primary" disabled={!can('sensor.set')}>Add this sensor</button>
			</EntryForm>
		{/if}
		{#snippet mark(s: Sensor)}<LevelMark level={s.silent ? 'noData' : s.outside ? 'act' : s.calibratedOn ? 'good' : 'watch'} />{/snippet}
		{#snippet about(s: Sensor)}<span class="font-semibold">{s.name}</span>, {KIND[s.kind]}
			{lineName(s.lineId)}<br /><span class="text-soft"
				><span class="figure"
					>{say(`${s.lowC} to ${s.highC} °C`)}{s.lowRhPct === null || s.highRhPct === null
						? ''
						: `, ${s.lowRhPct} to ${s.highRhPct} %`}</span
				>; calibrated {s.calibratedOn ? theirs().date(s.calibratedOn) : 'never'}</span
			>{/snippet}
		{#snippet now(s: Sensor)}{s.latest ? `${quantity(s.latest.temperatureC, 1, '°C')}` : '–'}<br />{s.latest
				? clockTime(s.latest.atMs, zone)
				: ''}{/snippet}
		<div>
			<DataTable
				small
				whole
				name="sensors"
				label="Sensors"
				testid="sensors"
				rows={data.sensors}
				key={(s) => s.id}
				columns={[
					{ id: 'mark', title: '', value: () => null, cell: mark, class: 'w-6' },
					{ id: 'sensor', title: 'Sensor', value: (s) => s.name, cell: about },
					{ id: 'now', title: 'now, °C', value: (s) => s.latest?.temperatureC, decimals: 1, cell: now }
				]}
				empty="No sensor yet: nothing is known of fridge and room."
			/>
		</div>
	{/snippet}
</StationFrame>
