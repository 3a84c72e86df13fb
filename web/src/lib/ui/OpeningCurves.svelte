<script lang="ts">
	import { transferEfficiency, type TransferGroup, type TransferModel } from '@keen-relay/core/stencil';
	import Chart, { type Palette } from './Chart.svelte';
	import { axis } from './chart-parts.ts';
	import { inTheirs, quantity, titled } from './theirs.svelte.ts';

	interface Props {
		/** Share that is delivered over the area ratio, or paste over the foil's thickness. */
		view: 'transfer' | 'foil';
		/** Of the wall that is looked at. */
		model: TransferModel;
		groups: readonly TransferGroup[];
		/** Openings and what each delivers at each foil, nL; null where nothing was measured. */
		openings: readonly { name: string; delivered: readonly (number | null)[] }[];
		foilsMm: readonly number[];
		foilMm: number;
	}
	let { view, model, groups, openings, foilsMm, foilMm }: Props = $props();
	const DASHES = [[], [7, 4], [2, 3], [10, 3, 2, 3]];
	const vertical = (p: Palette, at: number, name: string) => ({
		type: 'line' as const,
		xMin: at,
		xMax: at,
		borderColor: p.copper,
		borderWidth: 1.4,
		borderDash: [2, 4],
		label: {
			display: true,
			content: name,
			position: 'end' as const,
			backgroundColor: 'transparent',
			color: p.copper,
			font: { size: 12 },
			padding: 0,
			xAdjust: 30
		}
	});
	/** An opening's name where its curve ends. */
	const nameAtEnd = (p: Palette, { name, delivered }: (typeof openings)[number]) => {
		const last = delivered.findLastIndex((nl) => nl !== null);
		return {
			type: 'label' as const,
			display: last >= 0,
			xValue: inTheirs(1000 * (foilsMm[last] ?? foilMm), 'µm'),
			yValue: delivered[last] ?? 0,
			content: name,
			position: { x: 'end' as const, y: 'end' as const },
			color: p.ink,
			font: { size: 13 },
			padding: 4
		};
	};
	const transfer = $derived((p: Palette) => ({
		type: 'scatter' as const,
		data: {
			datasets: [
				{
					data: groups.map((g) => ({ x: g.areaRatio, y: 100 * g.efficiency })),
					pointRadius: groups.map((g) => Math.min(9, 2 + Math.sqrt(g.pads) / 3)),
					pointBackgroundColor: p.ink,
					borderColor: p.ink
				},
				{
					data: Array.from({ length: 80 }, (_, i) => ({ x: 0.3 + i * 0.025, y: 100 * transferEfficiency(0.3 + i * 0.025, model) })),
					showLine: true,
					pointRadius: 0,
					borderColor: p.copper,
					borderWidth: 2
				}
			]
		},
		options: {
			maintainAspectRatio: false,
			scales: {
				x: axis(p, 'area ratio (● measured on this run, line: the plant’s curve)', { min: 0.3, max: 2.3 }),
				y: axis(p, 'paste delivered, % of the opening’s volume', { min: 0, max: 130 })
			}
		}
	}));
	const overFoil = $derived((p: Palette) => ({
		type: 'scatter' as const,
		data: {
			datasets: openings.map(({ name, delivered }, i) => ({
				label: name,
				data: delivered.map((nl, k) => ({ x: inTheirs(1000 * foilsMm[k]!, 'µm'), y: nl ?? NaN })),
				showLine: true,
				pointRadius: 0,
				borderColor: p.ink,
				borderWidth: 2,
				borderDash: DASHES[i % DASHES.length]!
			}))
		},
		options: {
			maintainAspectRatio: false,
			plugins: {
				annotation: {
					annotations: {
						foil: vertical(p, inTheirs(1000 * foilMm, 'µm'), quantity(1000 * foilMm, 0, 'µm')),
						...Object.fromEntries(openings.map((o, i) => [`name${i}`, nameAtEnd(p, o)]))
					}
				}
			},
			scales: {
				x: axis(p, `${titled('foil, µm')}; drawn where area ratios were measured`, {
					min: inTheirs(1000 * foilsMm[0]!, 'µm'),
					max: inTheirs(1000 * foilsMm.at(-1)!, 'µm')
				}),
				y: { ...axis(p, 'paste delivered, nL (model)', { beginAtZero: true }), grace: '10%' }
			}
		}
	}));
</script>

<Chart
	config={view === 'transfer' ? transfer : overFoil}
	label={view === 'transfer'
		? 'Paste delivered over area ratio: measured, and the plant’s curve'
		: 'Paste that the critical openings deliver over the thickness of the foil'}
/>
