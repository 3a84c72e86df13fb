import { describe, expect, test } from 'vitest';
import type { BoardFiles, ReadBoard } from '@keen-relay/core/boards';
import { readBoardFiles } from './read-files.ts';

// Three file sets written by hand: what comes out was worked out on paper, not by this program.
const utf8 = (text: string) => new TextEncoder().encode(text);
const file = (name: string, bytes: Uint8Array) => ({ name, bytes });
const SAME = {
	outline: null,
	netlist: null,
	layers: [],
	unit: null,
	decimal: null,
	positionsSide: null,
	layerUnit: null,
	content: 'circuit' as const
};
const areas = (board: ReadBoard) => board.apertures.map((a) => a.areaMm2);
const partAt = (board: ReadBoard, refDes: string) => {
	const { xMm, yMm, rotationDeg } = board.reconciliation.parts.find((part) => part.refDes === refDes)!;
	return [Math.round(xMm * 1e4) / 1e4, Math.round(yMm * 1e4) / 1e4, rotationDeg];
};

describe('inch, modal coordinates, macros', () => {
	const paste = `G04 written by hand*
%FSLAX24Y24*%
%MOIN*%
%AMPILL*
21,1,$1,$2,0,0,0*
1,1,$2,$1/2,0*
1,1,$2,-$1/2,0*
%
%AMWEDGE*
4,1,3,0,0,$1,0,0,$1,0,0,$2*
%
%ADD10R,0.0200X0.0240*%
%ADD11R,0.0240X0.0200*%
%ADD12PILL,0.0400X0.0200*%
%ADD13WEDGE,0.0300X90*%
%ADD14C,0.0320*%
D10*
X1810Y2000D03*
X2190D03*
X7110Y1700D03*
X7490D03*
X2810Y6200D03*
X3190D03*
G54D11*
X4500Y2910D03*
Y3290D03*
D12*
X5850Y6000D03*
X6550D03*
D13*
X8600Y6500D03*
D14*
X8500Y7100D03*
M02*
`;
	const positions = `Ref,X (mil),Y (mil),Rot,Side,Package
R1,200,200,0,T,0402
R3,730,170,0,T,0402
C1,300,620,180,T,0402
R2,450,310,-270,T,0402
U1,620,600,0,T,
Q1,852,684,0,T,
`;
	const bom = 'Part number,Designators,Package\nR-1,"R1-R3",0402\nC-1,C1,0402\nU-1,U1,\nQ-1,Q1,\n';
	const files: BoardFiles = {
		...SAME,
		paste: file('inch.gbr', utf8(paste)),
		positions: file('xy.csv', utf8(positions)),
		bom: file('bom.csv', utf8(bom)),
		widthMm: 25.4,
		heightMm: 20.32,
		side: 'top'
	};

	test('areas in the order of the file', async () => {
		const board = await readBoardFiles(files);
		expect(board.issues).toEqual([]);
		// 20 x 24 mil = 480 mil² = 0.3096768 mm²; a pill of 40 x 20 mil with round ends adds π 10² mil²; the wedge is half of 30 x 30 mil.
		const chip = 480 * 0.0254 ** 2;
		const pill = (800 + Math.PI * 100) * 0.0254 ** 2;
		const wedge = 450 * 0.0254 ** 2;
		const round = Math.PI * 256 * 0.0254 ** 2;
		const expected = [...Array<number>(8).fill(chip), pill, pill, wedge, round];
		areas(board).forEach((area, i) => expect(area / expected[i]!).toBeCloseTo(1, 2));
		expect(areas(board)[0]).toBeCloseTo(0.3096768, 9);
		expect(areas(board)[10]).toBeCloseTo(0.290322, 6);
		// Turned by 90° the wedge lies left of its origin: its centre is a third of 30 mil from each leg.
		expect(board.apertures[10]!.centre.x).toBeCloseTo((860 - 10) * 0.0254, 6);
		expect(board.apertures[10]!.centre.y).toBeCloseTo((650 + 10) * 0.0254, 6);
	});

	test('parts stand where the file says, in millimetres, with angles from 0 to below 360', async () => {
		const board = await readBoardFiles(files);
		expect(partAt(board, 'R1')).toEqual([5.08, 5.08, 0]);
		expect(partAt(board, 'R2')).toEqual([11.43, 7.874, 90]);
		expect(partAt(board, 'C1')).toEqual([7.62, 15.748, 180]);
		expect(board.apertures.map((a) => a.refDes)).toEqual(['R1', 'R1', 'R3', 'R3', 'C1', 'C1', 'R2', 'R2', 'U1', 'U1', 'Q1', 'Q1']);
		expect(board.apertures.every((a) => a.pin === null)).toBe(true);
	});
});

describe('mm, regions, clear polarity, step and repeat, block apertures, rotation, X2 attributes', () => {
	const paste = `G04 written by hand*
%FSLAX35Y35*%
%MOMM*%
%ADD10C,0.6*%
%ADD11R,0.2X3*%
%ADD12R,0.4X0.8*%
%ABD20*%
D12*
X-50000Y0D03*
X50000Y0D03*
%AB*%
G01*
G36*
X300000Y300000D02*
X500000D01*
Y400000D01*
X400000D01*
Y500000D01*
X300000D01*
Y300000D01*
G37*
%LPC*%
D11*
X450000Y350000D03*
%LPD*%
%SRX3Y2I1.5J2.0*%
D10*
X1000000Y300000D03*
%SR*%
%TO.P,U3,7*%
%TO.N,VALVE_2*%
D12*
X2000000Y300000D03*
%TD*%
%TO.P,U3,8*%
X2100000D03*
%TD*%
%LR90*%
D20*
X2000000Y1000000D03*
%LR0*%
D20*
X2500000Y1000000D03*
M02*
`;
	const positions = `Designator;X [mm];Y [mm];Rotation;Layer;Package
L1;3.9;3.9;0;Top;
J1;11.5;4;0;Top;CONN_5X3.6X4
U3;20.5;3;0;Top;
R1;20;10;90;Top;RESC1005X40N
R2;25;10;0;Top;RESC1005X40N
`;
	const bom = 'Part number;Designators;Package\nL;L1;\nJ;J1;CONN_5X3.6X4\nU;U3;\nR;R1,R2;RESC1005X40N\n';
	const files: BoardFiles = {
		...SAME,
		paste: file('mm.gbr', utf8(paste)),
		positions: file('xy.csv', utf8(positions)),
		bom: file('bom.csv', utf8(bom)),
		widthMm: 40,
		heightMm: 20,
		side: 'top'
	};

	test('the region is cut in two, the disc stands six times, the block turns', async () => {
		const board = await readBoardFiles(files);
		expect(board.issues.filter((issue) => issue.severity === 'error')).toEqual([]);
		const found = areas(board);
		expect(found).toHaveLength(2 + 6 + 2 + 4);
		// An L of 2 x 2 less 1 x 1 is 3 mm²; a clear bar from x 4.4 to 4.6 takes 0.2 mm² and leaves 2.4 and 0.4.
		const pieces = found.slice(0, 2).sort((a, b) => b - a);
		expect(pieces[0]).toBeCloseTo(2.4, 3);
		expect(pieces[1]).toBeCloseTo(0.4, 3);
		for (const area of found.slice(2, 8)) expect(area).toBeCloseTo(Math.PI * 0.09, 9);
		for (const area of found.slice(8)) expect(area).toBeCloseTo(0.32, 9);
		const discs = board.apertures.slice(2, 8).map((a) => `${a.centre.x.toFixed(2)} ${a.centre.y.toFixed(2)}`);
		expect(new Set(discs)).toEqual(new Set(['10.00 3.00', '11.50 3.00', '13.00 3.00', '10.00 5.00', '11.50 5.00', '13.00 5.00']));
		const turned = board.apertures.slice(10, 12).map((a) => [a.centre.x, a.centre.y].map((v) => Math.round(v * 1e4) / 1e4));
		expect(turned).toEqual([
			[20, 9.5],
			[20, 10.5]
		]);
		// Turned by 90° a bar of 0.4 x 0.8 is 0.8 wide.
		const xs = board.apertures[10]!.outline.map((p) => p.x);
		expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(0.8, 6);
	});

	test('pins are those of the attributes, unknown elsewhere; parts stand where the file says', async () => {
		const board = await readBoardFiles(files);
		expect(board.apertures.flatMap((a) => (a.pin ? [`${a.refDes}.${a.pin}`] : []))).toEqual(['U3.7', 'U3.8']);
		// The net was cleared with the pin: the next pad has none.
		expect(board.apertures.flatMap((a) => (a.pin ? [a.net] : []))).toEqual(['VALVE_2', null]);
		expect(partAt(board, 'R1')).toEqual([20, 10, 90]);
		expect(partAt(board, 'J1')).toEqual([11.5, 4, 0]);
		expect(board.reconciliation.parts.find((part) => part.refDes === 'R2')!.apertures).toHaveLength(2);
	});
});

describe('semicolons, decimal commas, UTF-16, the bottom mirrored', () => {
	// Seen from below on a board 50 mm wide: chips at (8, 6), (21, 9.5), (33.5, 20) and, at 30°, (40, 14).
	const CHIPS = [
		{ refDes: 'R1', x: 8, y: 6, deg: 0 },
		{ refDes: 'R2', x: 21, y: 9.5, deg: 90 },
		{ refDes: 'R3', x: 33.5, y: 20, deg: 0 },
		{ refDes: 'R4', x: 40, y: 14, deg: 30 }
	];
	// The layer is drawn through the board: x runs the other way, written out by hand in 0.1 µm. Round pads, 0.5 mm.
	const paste = `%FSLAX34Y34*%
%MOMM*%
%ADD10C,0.5*%
D10*
X424800Y60000D03*
X415200D03*
X290000Y90200D03*
Y99800D03*
X169800Y200000D03*
X160200D03*
X104157Y137600D03*
X95843Y142400D03*
M02*
`;
	const text = `Datei;Unterseite
Ref;X [mm];Y [mm];Drehung;Seite;Gehäuse
R1;8,0;6,0;0;unten;RESC1005X40N
R2;21,0;9,5;90;unten;RESC1005X40N
R3;33,5;20,0;0;unten;RESC1005X40N
R4;40,0;14,0;30;unten;RESC1005X40N
R9;12,5;3,25;0;oben;RESC1005X40N
`;
	const utf16 = new Uint8Array(2 + 2 * text.length);
	utf16.set([0xff, 0xfe]);
	for (let i = 0; i < text.length; i++) utf16.set([text.charCodeAt(i) & 255, text.charCodeAt(i) >> 8], 2 + 2 * i);
	const files: BoardFiles = {
		...SAME,
		paste: file('bottom.gbr', utf8(paste)),
		positions: file('unten.csv', utf16),
		bom: file('bom.csv', utf8('Part number,Designators,Package\nR-10K,"R1-R4,R9",RESC1005X40N\n')),
		widthMm: 50,
		heightMm: 30,
		side: 'bottom'
	};

	test('the mirror is found, the side is turned to what the machine sees, and every part stands as written', async () => {
		const board = await readBoardFiles(files);
		expect(board.refused).toBe(false);
		expect(board.issues.find((issue) => issue.code === 'registered')!.value).toContain('x mirrored');
		for (const { refDes, x, y, deg } of CHIPS) expect(partAt(board, refDes), refDes).toEqual([x, y, deg]);
		// The part of the other side is on the same parts list, and is not missing here.
		expect(board.reconciliation.findings).toEqual([]);
	});

	test('the openings are turned with it: each lies 0.48 mm from its part', async () => {
		const board = await readBoardFiles(files);
		for (const area of areas(board)) expect(area).toBeCloseTo(Math.PI * 0.0625, 9);
		expect(board.apertures.map((a) => a.refDes)).toEqual(['R1', 'R1', 'R2', 'R2', 'R3', 'R3', 'R4', 'R4']);
		expect(board.apertures[0]!.centre.x).toBeCloseTo(7.52, 6);
		for (const a of board.apertures) {
			const part = CHIPS.find((chip) => chip.refDes === a.refDes)!;
			expect(Math.hypot(a.centre.x - part.x, a.centre.y - part.y)).toBeCloseTo(0.48, 3);
		}
	});

	test('the angle at 30° says how the source draws angles', async () => {
		const board = await readBoardFiles(files);
		expect(board.issues.find((issue) => issue.code === 'angle_rule')).toMatchObject({ severity: 'warning', value: 'asSeen' });
	});
});
