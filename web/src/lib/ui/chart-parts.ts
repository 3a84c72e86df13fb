import type { Palette } from './Chart.svelte';

/** An axis that says what it is, in the page's ink. */
export function axis(p: Palette, title: string, range: { min?: number; max?: number; beginAtZero?: boolean } = {}) {
	return {
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

/** A range that holds values and limits with room for the names of the limits. */
export function roomFor(values: readonly number[], limits: readonly number[]): { min: number; max: number } {
	const all = [...values, ...limits];
	const [low, high] = [Math.min(...all), Math.max(...all)];
	const room = 0.18 * (high - low || 1);
	return { min: Math.floor(low - room), max: Math.ceil(high + room) };
}
