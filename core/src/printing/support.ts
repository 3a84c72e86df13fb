import { requireRange, type Reason, type Verdict } from '../judgement/index.ts';
import type { Box, Point } from '../geometry/index.ts';
import { below } from '../numerics/index.ts';

export interface SupportCheck {
	/** The point farthest from any support, mm, and how far. */
	widest: { at: Point; mm: number };
	/** Pins that touch a part of the other side. */
	collisions: { pin: number; part: string; gapMm: number }[];
	verdict: Verdict;
}

/** Free span of a panel of 1.6 mm that still prints level, mm: a value of ours to start from; thinner panels need less. */
export const WIDEST_SPAN_MM = 35;
/** Least gap between a pin and a part below, mm (common practice). */
export const PIN_CLEARANCE_MM = 1;

/** Checks support pins against the parts that hang below and against the spans they leave.
 * The two edges along the belt rest on the rails. Span limits scale with thickness^(3/4): a plate of the same sag under the same load.
 * @param panel size, mm; @param pins centres and radius, in the frame of the side that is printed
 * @param parts bodies on the other side as they lie under this side, mm
 */
export function checkSupport(
	panel: { widthMm: number; heightMm: number; thicknessMm: number },
	pins: readonly (Point & { radiusMm: number })[],
	parts: readonly { name: string; box: Box }[]
): SupportCheck {
	requireRange('thicknessMm', panel.thicknessMm, 0.2, 6, 'mm');
	const collisions: SupportCheck['collisions'] = [];
	pins.forEach((pin, i) => {
		for (const { name, box } of parts) {
			const dx = Math.max(box.minX - pin.x, 0, pin.x - box.maxX);
			const dy = Math.max(box.minY - pin.y, 0, pin.y - box.maxY);
			const gapMm = Math.hypot(dx, dy) - pin.radiusMm;
			if (below(gapMm, PIN_CLEARANCE_MM)) collisions.push({ pin: i, part: name, gapMm });
		}
	});
	const step = Math.max(1, Math.max(panel.widthMm, panel.heightMm) / 120);
	const widest = { at: { x: panel.widthMm / 2, y: panel.heightMm / 2 }, mm: -1 };
	for (let y = 0; y <= panel.heightMm; y += step)
		for (let x = 0; x <= panel.widthMm; x += step) {
			let mm = Math.min(y, panel.heightMm - y);
			for (const pin of pins) mm = Math.min(mm, Math.max(0, Math.hypot(x - pin.x, y - pin.y) - pin.radiusMm));
			if (mm > widest.mm) {
				widest.mm = mm;
				widest.at = { x, y };
			}
		}
	const limit = WIDEST_SPAN_MM * (panel.thicknessMm / 1.6) ** 0.75;
	const because: Reason[] = [
		{
			quantity: 'Farthest from any support',
			value: widest.mm,
			unit: 'mm',
			limit: `at most ${limit.toFixed(0)} mm for a panel of ${panel.thicknessMm} mm`,
			source: 'our value to start from; common practice asks for support under fine parts'
		},
		{
			quantity: 'Pins under parts',
			value: collisions.length,
			unit: '',
			limit: `at least ${PIN_CLEARANCE_MM} mm clear of every part below`,
			source: 'common practice'
		}
	];
	if (collisions.length) {
		const c = collisions[0]!;
		return {
			widest,
			collisions,
			verdict: {
				level: 'stopped',
				statement: `Pin ${c.pin + 1} stands under ${c.part}: it would crush it.`,
				because,
				doNext: [`Move pin ${c.pin + 1}`]
			}
		};
	}
	const wide = widest.mm > limit;
	return {
		widest,
		collisions,
		verdict: {
			level: wide ? 'act' : 'good',
			statement: wide
				? `The panel is free for ${widest.mm.toFixed(0)} mm around ${widest.at.x.toFixed(0)}, ${widest.at.y.toFixed(0)}: it sags there.`
				: 'Supported everywhere, and no pin touches a part.',
			because,
			doNext: wide ? [`Set a pin near ${widest.at.x.toFixed(0)}, ${widest.at.y.toFixed(0)} mm`] : []
		}
	};
}
