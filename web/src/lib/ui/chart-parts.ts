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

/** Names only 1, 2 and 5 of each decade of a logarithmic axis: the lines between stand too close for names. */
export function decadeName(value: number | string): string {
	const v = Number(value);
	const leading = Math.round((v / 10 ** Math.floor(Math.log10(v) + 1e-9)) * 1e6) / 1e6;
	return leading === 1 || leading === 2 || leading === 5 ? String(Number(v.toPrecision(1))) : '';
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
