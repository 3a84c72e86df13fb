<script lang="ts">
	import { airNodes, heatedM, type Oven, type OvenRecipe, type PasteWindow, type SpotProfile } from '@keen-relay/core/reflow';
	import Chart, { type Palette } from './Chart.svelte';
	import { axis, limitLine } from './chart-parts.ts';
	import { inTheirs, figure, quantity, unitName } from './theirs.svelte.ts';
	import NumberField from './NumberField.svelte';

	interface Props {
		oven: Oven;
		recipe: OvenRecipe;
		spots: readonly SpotProfile[];
		window: PasteWindow;
		/** The curves are those of the last recipe that the oven can do. */
		stale: boolean;
		panelMm: number;
		gapMm: number;
		/** Zone temperatures as last reported. */
		actualC: readonly number[] | null;
		/** Thermocouples of a measured profile over their place in the oven. */
		measured?: readonly { name: string; points: { x: number; y: number }[] }[];
		setC: number[];
		belt: number;
	}
	let {
		oven,
		recipe,
		spots,
		window,
		stale,
		panelMm,
		gapMm,
		actualC,
		measured = [],
		setC = $bindable(),
		belt = $bindable()
	}: Props = $props();

	const LEFT = 58;
	const RIGHT = 84;
	const heated = $derived(heatedM(oven));
	const fromM = $derived(-oven.entryM - 0.1);
	const toM = $derived(heated + oven.cooling.reduce((sum, c) => sum + c.lengthM, 0) + 0.1);
	let width = $state(800);
	const x = $derived((m: number) => LEFT + ((m - fromM) / (toM - fromM)) * (width - LEFT - RIGHT));
	const edges = $derived(oven.zoneM.map((_, i) => oven.zoneM.slice(0, i).reduce((a, b) => a + b, 0)));
	const panels = $derived.by(() => {
		const step = (panelMm + gapMm) / 1000;
		const list: number[] = [];
		for (let m = fromM; m + panelMm / 1000 < toM; m += step) list.push(m);
		return list;
	});
	const LINES: Record<string, number[]> = { light: [], typical: [6, 4], heavy: [] };

	const byEndHeat = $derived(
		spots
			.map((spot) => ({ spot, endC: spot.curve.tempC[spot.curve.xM.findLastIndex((m) => m <= toM)] ?? 0 }))
			.sort((a, b) => b.endC - a.endC)
	);
	const config = $derived((p: Palette) => {
		const peak = window.limits.peak;
		return {
			type: 'scatter' as const,
			data: {
				datasets: [
					{
						label: 'air',
						data: airNodes(oven, recipe).map((n) => ({ x: n.xM, y: inTheirs(n.airC, '°C') })),
						showLine: true,
						pointRadius: 0,
						borderColor: p.line,
						borderWidth: 2
					},
					...measured.map((channel) => ({
						label: channel.name,
						data: channel.points.flatMap(({ x, y }) => (x >= fromM && x <= toM ? [{ x, y: inTheirs(y, '°C') }] : [])),
						showLine: true,
						pointRadius: 0,
						borderColor: p.copper,
						borderWidth: 1.2,
						borderDash: [1, 2]
					})),
					...spots.map((spot) => ({
						label: `${spot.spot.name}, ${spot.spot.at}`,
						data: spot.curve.xM.map((m, i) => ({ x: m, y: inTheirs(spot.curve.tempC[i]!, '°C') })),
						showLine: true,
						pointRadius: 0,
						borderColor: stale ? p.soft : p.ink,
						borderWidth: spot.spot.name === 'heavy' ? 2.6 : 1.4,
						borderDash: LINES[spot.spot.name]
					}))
				]
			},
			options: {
				maintainAspectRatio: false,
				layout: { padding: { right: RIGHT, top: 4 } },
				scales: {
					x: {
						...axis(p, 'place in the oven, m', { min: fromM, max: toM }),
						ticks: { display: false },
						grid: { display: false },
						title: { display: false }
					},
					y: {
						...axis(p, unitName('°C'), { min: inTheirs(0, '°C'), max: inTheirs(Math.max(290, Math.max(...recipe.setC) + 10), '°C') }),
						afterFit: (scale: { width: number }) => (scale.width = LEFT)
					}
				},
				plugins: {
					annotation: {
						clip: false,
						annotations: {
							reference: limitLine(p, inTheirs(window.referenceC, '°C'), `${quantity(window.referenceC, 0, '°C')}, solder melts`),
							...('low' in peak
								? {
										peak: {
											type: 'box' as const,
											yMin: inTheirs(peak.low, '°C'),
											yMax: inTheirs(peak.high, '°C'),
											backgroundColor: `${p.good}22`,
											borderWidth: 0,
											label: {
												display: true,
												content: `peak ${figure(peak.low, 0, '°C')} to ${figure(peak.high, 0, '°C')}`,
												position: { x: 'start' as const, y: 'center' as const },
												color: p.soft,
												font: { size: 12 }
											}
										}
									}
								: {}),
							...Object.fromEntries(
								byEndHeat.map(({ spot, endC }, i) => {
									return [
										spot.spot.name,
										{
											type: 'label' as const,
											xValue: toM,
											yValue: inTheirs(endC, '°C'),
											content: spot.spot.name,
											position: 'start' as const,
											xAdjust: 4,
											// Names stand one below the other even where the curves meet.
											yAdjust: (i - 1) * 13,
											color: p.ink,
											font: { size: 12 }
										}
									];
								})
							)
						}
					}
				}
			}
		};
	});
	const tint = (c: number) => `color-mix(in oklab, var(--copper) ${Math.round(Math.min(46, Math.max(6, (c - 60) / 4.6)))}%, var(--sheet))`;
</script>

<div class="flex h-full flex-col" bind:clientWidth={width}>
	<div class="min-h-0 flex-1"><Chart {config} label="Predicted temperature of a light, a typical and a heavy spot over the zones" /></div>
	<!-- The belt below is to the same scale as the curve above: a zone's air stands over the zone. -->
	<div class="relative h-[126px] shrink-0">
		{#each oven.zoneM as zone, i (i)}
			<label
				class="absolute top-0 flex flex-col items-center"
				style="left:{x(edges[i]!)}px; width:{x(edges[i]! + zone) - x(edges[i]!) - 2}px"
			>
				<NumberField
					bare
					label="Zone {i + 1}, °C"
					class="h-11 w-full border text-center text-base text-ink"
					style="background:{tint(Number(setC[i]))}"
					min={oven.setMinC}
					max={oven.setMaxC}
					value={setC[i]}
					onvalue={(to) => (setC = setC.map((c, zone) => (zone === i ? (to as number) : c)))}
				/>
				<span class="mt-[19px] text-xs whitespace-nowrap text-soft"
					>{i + 1}{#if actualC?.[i] !== undefined}<span class="figure"> · {figure(actualC[i], 0, '°C')}</span>{/if}</span
				>
			</label>
		{/each}
		{#each oven.cooling as cool, i (i)}
			{@const start = heated + oven.cooling.slice(0, i).reduce((s, c) => s + c.lengthM, 0)}
			<span
				class="absolute top-0 grid h-11 place-items-center border border-dashed border-line text-xs text-soft"
				style="left:{x(start)}px; width:{x(start + cool.lengthM) - x(start) - 2}px">cool {figure(cool.airC, 0, '°C')}</span
			>
		{/each}
		<svg class="absolute top-[46px] left-0 h-4 w-full" aria-hidden="true">
			<line x1={x(fromM)} x2={x(toM)} y1="8" y2="8" stroke="var(--ink)" />
			{#each panels as m (m)}<rect x={x(m)} y="4" width={x(m + panelMm / 1000) - x(m)} height="8" fill="var(--ink)" />{/each}
		</svg>
		<label class="absolute bottom-0 left-[58px] flex items-center gap-2 text-sm">
			Belt
			<NumberField bare label="Belt, cm/min" class="h-9 w-24" min={oven.beltMinCmPerMin} max={oven.beltMaxCmPerMin} bind:value={belt} />
			{unitName('cm/min')}, panel {quantity(panelMm, 0, 'mm')}, gap {quantity(gapMm, 0, 'mm')}{#if actualC}; small figures: zones as last
				reported{/if}
		</label>
	</div>
</div>
