import type { Palette } from './Chart.svelte';

/** An axis that says what it is, in the page's ink. */
export function axis(p: Palette, title: string, range: { min?: number; max?: number; beginAtZero?: boolean } = {}) {
	return {
		// Room for the names of limits at the edges.
		grace: range.min === undefined ? ('14%' as const) : 0,
		...range,
		type: 'linear' as const,
		title: { display: true, text: title, color: p.soft, font: { size: 13 } },
		grid: { color: p.hair },
		border: { color: p.line },
		ticks: { color: p.soft, font: { size: 12 }, maxTicksLimit: 9 }
	};
}

/** A horizontal limit, drawn and named. */
export function limitLine(p: Palette, value: number, name: string) {
	return {
		type: 'line' as const,
		yMin: value,
		yMax: value,
		borderColor: p.copper,
		borderWidth: 1.4,
		borderDash: [2, 4],
		label: {
			display: true,
			content: name,
			position: 'start' as const,
			yAdjust: -9,
			backgroundColor: 'transparent',
			color: p.copper,
			font: { size: 12 },
			padding: 0
		}
	};
}
