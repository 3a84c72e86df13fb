import type { Point } from '../geometry/index.ts';
import type { PlacedRow, Side } from './positions.ts';

/** How a source writes the angles of bottom parts.
 * `asSeen`: as the machine sees the bottom; `negate`: drawn through the board, the footprint mirrored left to right;
 * `supplement`: mirrored about the other axis. Sources mix them, so it is chosen by test.
 */
export type AngleRule = 'asSeen' | 'negate' | 'supplement';

/** A point of a side as the machine sees it. Design data are seen from the top; a board turned left to right shows x' = W − x.
 * @param widthMm board or panel width
 */
export function seenPoint(p: Point, side: Side, widthMm: number): Point {
	return side === 'top' ? p : { x: widthMm - p.x, y: p.y };
}

/** The angle of a part as the machine sees it, 0 to below 360. */
export function seenAngle(rotationDeg: number, side: Side, rule: AngleRule): number {
	const turned = side === 'top' || rule === 'asSeen' ? rotationDeg : rule === 'negate' ? -rotationDeg : 180 - rotationDeg;
	return (((turned % 360) + 360) % 360) + 0;
}

/** A part of the bottom turned to what the machine sees. */
export function seenRow(row: PlacedRow, widthMm: number, rule: AngleRule): PlacedRow {
	const at = seenPoint({ x: row.xMm, y: row.yMm }, row.side, widthMm);
	return { ...row, xMm: at.x, yMm: at.y, rotationDeg: seenAngle(row.rotationDeg, row.side, rule) };
}

/** Chooses the angle rule by test: turns the body of each part that is longer than wide by each rule and counts the openings that lie within it.
 * Parts at 0, 90, 180 and 270 degrees look the same under all rules; only the others decide. A body looks the same after half a turn, so
 * `supplement` is never told from `negate` by bodies: which end is pin 1 has to be looked at on one polarised part.
 * @param parts with positions in the openings' frame; @param openings centres in the same frame
 * @returns the rule and how many openings each caught; `asSeen` where nothing tells them apart
 */
export function chooseAngleRule(
	parts: readonly { xMm: number; yMm: number; rotationDeg: number; lengthMm: number; widthMm: number }[],
	openings: readonly Point[]
): { rule: AngleRule; caught: Record<AngleRule, number> } {
	const caught: Record<AngleRule, number> = { asSeen: 0, negate: 0, supplement: 0 };
	for (const part of parts) {
		if (part.rotationDeg % 90 === 0 || Math.abs(part.lengthMm - part.widthMm) < 0.1) continue;
		const reach = Math.hypot(part.lengthMm, part.widthMm);
		const near = openings.filter((p) => Math.hypot(p.x - part.xMm, p.y - part.yMm) <= reach);
		for (const rule of Object.keys(caught) as AngleRule[]) {
			const a = (seenAngle(part.rotationDeg, 'bottom', rule) * Math.PI) / 180;
			for (const p of near) {
				const [dx, dy] = [p.x - part.xMm, p.y - part.yMm];
				const along = dx * Math.cos(a) + dy * Math.sin(a);
				const across = -dx * Math.sin(a) + dy * Math.cos(a);
				if (Math.abs(along) <= part.lengthMm / 2 + 0.3 && Math.abs(across) <= part.widthMm / 2 + 0.1) caught[rule]++;
			}
		}
	}
	const rules: AngleRule[] = ['asSeen', 'negate', 'supplement'];
	return { rule: rules.reduce((best, next) => (caught[next] > caught[best] ? next : best)), caught };
}
