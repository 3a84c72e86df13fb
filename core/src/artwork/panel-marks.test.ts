import { describe, expect, test } from 'vitest';
import { defaultPanel, looksAPanel, marksOnPanel, panelGeometry, turnedInPlace, type PanelLayout } from './panel.ts';

const board = { widthMm: 40, heightMm: 30 };
/** Two by two, marks of every kind. */
const layout: PanelLayout = {
	...defaultPanel(board, 2, 2),
	circuitFiducials: [
		{ x: 2, y: 3 },
		{ x: 38, y: 27 }
	],
	localFiducials: [
		{
			refDes: 'U1',
			marks: [
				{ x: 10, y: 10 },
				{ x: 20, y: 20 }
			]
		},
		{ refDes: 'U2', marks: [{ x: 30, y: 5 }] }
	],
	skip: { circuit: { x: 1, y: 1 }, master: { x: 50, y: 2 } }
};

test('a circuit is turned about its middle', () => {
	expect(turnedInPlace(board, { x: 6, y: 6, rotationDeg: 0 }, 180)).toEqual({ x: 46, y: 36, rotationDeg: 180 });
	expect(turnedInPlace(board, { x: 6, y: 6, rotationDeg: 0 }, 90)).toEqual({ x: 41, y: 1, rotationDeg: 90 });
	expect(turnedInPlace(board, { x: 46, y: 36, rotationDeg: 180 }, 0)).toEqual({ x: 6, y: 6, rotationDeg: 0 });
});

describe('marks of a panel', () => {
	test('how often a placer looks: panel once, circuits and parts in each circuit, one master mark for all circuits', () => {
		const panel = panelGeometry(board, layout);
		expect(looksAPanel(panel)).toBe(3 + 4 * (2 + 2 + 1) + 1);
		expect(looksAPanel(panel, (refDes) => refDes === 'U2')).toBe(3 + 4 * (2 + 1) + 1);
		expect(looksAPanel(panel, () => false)).toBe(3 + 4 * 2 + 1);
	});

	test('without a master mark every circuit’s own is looked at; without any none is', () => {
		expect(looksAPanel(panelGeometry(board, { ...layout, skip: { circuit: { x: 1, y: 1 }, master: null } }), () => false)).toBe(3 + 8 + 4);
		expect(looksAPanel(panelGeometry(board, { ...layout, skip: { circuit: null, master: null } }), () => false)).toBe(3 + 8);
		expect(looksAPanel(panelGeometry(board, defaultPanel(board, 2, 2)))).toBe(3);
	});

	test('turned left to right, a circuit’s marks are mirrored in their circuit and the panel’s on the panel', () => {
		const bottom = panelGeometry(board, layout, 'bottom');
		expect(bottom.circuitFiducials).toEqual([
			{ x: 38, y: 3 },
			{ x: 2, y: 27 }
		]);
		expect(bottom.localFiducials[1]).toEqual({ refDes: 'U2', marks: [{ x: 10, y: 5 }] });
		expect(bottom.skip).toEqual({ circuit: { x: 39, y: 1 }, master: { x: bottom.widthMm - 50, y: 2 } });
	});

	test('on the panel they lie in each circuit, turned with it', () => {
		const free = {
			widthMm: 120,
			heightMm: 60,
			circuits: [
				{ x: 10, y: 10, rotationDeg: 0 },
				{ x: 110, y: 50, rotationDeg: 180 }
			]
		};
		const one = { ...layout, fiducials: [], free, localFiducials: [], skip: { circuit: null, master: null } };
		const marks = marksOnPanel(panelGeometry(board, one));
		expect(marks.map(({ x, y }) => [x, y].map((v) => Math.round(v * 1e9) / 1e9))).toEqual([
			[12, 13],
			[48, 37],
			[108, 47],
			[72, 23]
		]);
	});

	test('a mark beside its circuit or panel is refused by name', () => {
		const off = (part: Partial<PanelLayout>) => () => panelGeometry(board, { ...layout, ...part });
		expect(off({ circuitFiducials: [{ x: 40.1, y: 3 }] })).toThrow('panel.circuitFiducials[0]');
		expect(off({ circuitFiducials: [{ x: 40, y: 30 }] })).not.toThrow();
		expect(off({ localFiducials: [{ refDes: 'U9', marks: [{ x: -0.1, y: 0 }] }] })).toThrow('panel.localFiducials.U9');
		expect(off({ skip: { circuit: { x: 3, y: 31 }, master: null } })).toThrow('panel.skip.circuit');
		expect(off({ skip: { circuit: null, master: { x: 3, y: 73 } } })).toThrow('panel.skip.master');
		expect(off({ fiducials: [{ x: 1, y: Number.NaN }] })).toThrow('panel.fiducials[0]');
	});
});
