<script lang="ts">
	import { page } from '$app/state';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import Chart, { type Palette } from '$lib/ui/Chart.svelte';
	import { axis, limitLine, roomFor } from '$lib/ui/chart-parts.ts';
	import { clockTime } from '$lib/ui/format.ts';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import { theirs, inTheirs, fixed, quantity, say, unitName } from '$lib/ui/theirs.svelte.ts';

	let { data } = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const KIND = { fridge: 'fridge', room: 'room', store: 'store', cabinet: 'dry cabinet' } as const;
	const NEW_SENSOR = { name: '', kind: 'room' as keyof typeof KIND, lineId: null as number | null, calibratedOn: '', lowC: 22, highC: 26 };
	let sensor = $state<
		(typeof NEW_SENSOR & { lowRhPct: number | null; highRhPct: number | null; everyMin: number; graceMin: number }) | null
	>(null);
	async function add(event: SubmitEvent) {
		event.preventDefault();
		const done = await act('POST', '/api/v1/sensors', { ...sensor!, calibratedOn: sensor!.calibratedOn || null }, `${sensor!.name} added`);
		if (done) sensor = null;
	}

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
			onclick={() => (sensor = { ...NEW_SENSOR, lowRhPct: 40, highRhPct: 60, everyMin: 5, graceMin: 20 })}>New sensor</button
		>
	{/snippet}
	{#snippet picture()}
		<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
		<div class="grid h-full auto-rows-[minmax(150px,1fr)] gap-2 overflow-y-auto" role="group" aria-label="Sensors" tabindex="0">
			{#each air as s (s.id)}
				<div class="grid min-h-0 grid-cols-[minmax(0,1fr)_230px] gap-3">
					<Chart config={sensorChart(s)} label="{s.name}, the last 24 hours" />
					<div class="min-h-0 overflow-y-auto text-sm" role="group" aria-label={s.name}>
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
		{#if sensor}
			<form class="grid grid-cols-2 gap-2" onsubmit={add} aria-label="Sensor">
				<label class="col-span-2 text-xs"
					><span class="text-soft">name, as its messages have it</span><input
						class="input h-11 w-full border-line bg-sheet"
						bind:value={sensor.name}
						required
					/></label
				>
				<label class="text-xs"
					><span class="text-soft">where</span><select class="select h-11 w-full border-line bg-sheet" bind:value={sensor.kind}
						>{#each Object.entries(KIND) as [key, name] (key)}<option value={key}>{name}</option>{/each}</select
					></label
				>
				<label class="text-xs"
					><span class="text-soft">at line</span><select class="select h-11 w-full border-line bg-sheet" bind:value={sensor.lineId}
						><option value={null}>none</option>{#each data.lines as l (l.id)}<option value={l.id}>{l.name}</option>{/each}</select
					></label
				>
				<NumberField label="from, °C" min={-30} bind:value={sensor.lowC} />
				<NumberField label="to, °C" min={-30} bind:value={sensor.highC} />
				<NumberField label="from, % RH" bind:value={sensor.lowRhPct} />
				<NumberField label="to, % RH" bind:value={sensor.highRhPct} />
				<NumberField label="a reading every, min" bind:value={sensor.everyMin} />
				<NumberField label="outside counts after, min" bind:value={sensor.graceMin} />
				<label class="col-span-2 text-xs"
					><span class="text-soft">calibrated on</span><input
						class="figure input h-11 w-full border-line bg-sheet"
						type="date"
						bind:value={sensor.calibratedOn}
					/></label
				>
				<button class="btn col-span-2 min-h-16 text-lg btn-primary" disabled={!can('sensor.set')}>Add this sensor</button>
			</form>
		{/if}
		<table class="rows text-sm" data-testid="sensors">
			<thead><tr><th></th><th>Sensor</th><th class="n">now</th></tr></thead>
			<tbody>
				{#each data.sensors as s (s.id)}
					<tr>
						<td class="w-6"><LevelMark level={s.silent ? 'noData' : s.outside ? 'act' : s.calibratedOn ? 'good' : 'watch'} /></td>
						<td
							><span class="font-semibold">{s.name}</span>, {KIND[s.kind]}
							{lineName(s.lineId)}<br /><span class="text-soft"
								><span class="figure"
									>{say(`${s.lowC} to ${s.highC} °C`)}{s.lowRhPct === null || s.highRhPct === null
										? ''
										: `, ${s.lowRhPct} to ${s.highRhPct} %`}</span
								>; calibrated {s.calibratedOn ? theirs().date(s.calibratedOn) : 'never'}</span
							></td
						>
						<td class="n"
							>{s.latest ? `${quantity(s.latest.temperatureC, 1, '°C')}` : '–'}<br />{s.latest ? clockTime(s.latest.atMs, zone) : ''}</td
						>
					</tr>
				{:else}<tr><td colspan="3" class="text-soft">No sensor yet: nothing is known of fridge and room.</td></tr>{/each}
			</tbody>
		</table>
	{/snippet}
</StationFrame>
