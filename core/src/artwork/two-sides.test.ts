import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
	chooseAngleRule,
	guessCircuits,
	layerFunction,
	onPanel,
	panelGeometry,
	padsWithoutOpening,
	joinedPins,
	pinsFromNetlist,
	placesFromCorner,
	readLayer,
	readNetlist,
	readPasteLayer,
	seenAngle,
	seenPoint,
	type PanelLayout
} from './index.ts';

const NETLIST = [
	'C  a netlist written by hand',
	'P  UNITS CUST 0',
	'P  NNAME1  VERY_LONG_NET_OF_THE_PROBE',
	'327GND              U7    -1          A01X+001000Y+002000X0236Y0118R000 S2',
	'327NNAME1           U7    -23         A01X+001500Y-000500X0236Y0118R000 S2',
	'317GND              J1    -4   D0394PA00X+010000Y+010000X0600Y    R000 S0',
	'317GND              VIA   -     D0118PA00X+003000Y+003000X0236Y    R000 S3',
	'327N3               R9    -2          A02X+004000Y+004000X0200Y0200R000 S1',
	'999'
].join('\n');

describe('pads that get no paste', () => {
	const netlist = readNetlist(NETLIST);
	const pad = (refDes: string, pin: string, access: 'top' | 'bottom' | 'both' = 'top') => ({
		net: 'N',
		refDes,
		pin,
		access,
		at: { x: 0, y: 0 },
		xMm: 1,
		yMm: 1,
		line: 9
	});
	const list = (...pads: ReturnType<typeof pad>[]) => ({ ...netlist, pads });

	test('a pad whose part has other openings is named', () => {
		const found = padsWithoutOpening(list(pad('U1', '1'), pad('U1', '2'), pad('U1', '3')), 'top', [
			{ refDes: 'U1', pin: '1' },
			{ refDes: 'U1', pin: '3' }
		]);
		expect(found.map((p) => [p.refDes, p.pin, p.line])).toEqual([['U1', '2', 9]]);
	});
	test('parts without any opening, the other side and pins in holes are left alone', () => {
		const pads = list(pad('J1', '1'), pad('U2', '1', 'bottom'), pad('U1', '9', 'both'), pad('U1', '1'));
		expect(padsWithoutOpening(pads, 'top', [{ refDes: 'U1', pin: '1' }])).toEqual([]);
	});
	test('"U1" pin "12" is not "U11" pin "2"', () => {
		expect(
			padsWithoutOpening(list(pad('U11', '2'), pad('U1', '12')), 'top', [
				{ refDes: 'U1', pin: '12' },
				{ refDes: 'U11', pin: null }
			])
		).toHaveLength(1);
	});
	test('windows of one pad open it once and for all', () => {
		const windows = Array.from({ length: 4 }, () => ({ refDes: 'U1', pin: 'EP' }));
		expect(padsWithoutOpening(list(pad('U1', 'EP')), 'top', [...windows, null])).toEqual([]);
	});
});

describe('a netlist in IPC-D-356A', () => {
	const netlist = readNetlist(NETLIST);

	test('pads with part, pin, net, side and place; 0.0001 inch is 2.54 µm; vias have no pin', () => {
		expect(netlist.issues).toEqual([]);
		expect(netlist.pads.map((pad) => [pad.refDes, pad.pin, pad.net, pad.access])).toEqual([
			['U7', '1', 'GND', 'top'],
			['U7', '23', 'VERY_LONG_NET_OF_THE_PROBE', 'top'],
			['J1', '4', 'GND', 'both'],
			['R9', '2', 'N3', 'bottom']
		]);
		expect(netlist.pads[1]!.at.x).toBeCloseTo(3.81, 9);
		expect(netlist.pads[1]!.at.y).toBeCloseTo(-1.27, 9);
		expect(netlist.pads[0]!.xMm).toBeCloseTo(0.59944, 9);
	});

	test('an opening gets the pin of the pad under it, of its own part and side', () => {
		const at = (x: number, y: number, refDes: string | null = null) => ({ centre: { x, y }, lengthMm: 0.5, refDes });
		const openings = [at(2.6, 5.1), at(2.6, 5.1, 'C3'), at(3.81, -1.27, 'U7'), at(10.16, 10.16), at(30, 30)];
		const pins = (side: 'top' | 'bottom') => pinsFromNetlist(openings, netlist, side).map((p) => p && `${p.refDes}.${p.pin}`);
		expect(pins('top')).toEqual(['U7.1', null, 'U7.23', null, null]);
		expect(pins('bottom')).toEqual([null, null, null, 'R9.2', null]);
	});

	test('an opening over the pads of two pins joins them; one over a single pad, or over pads of the other side, joins nothing', () => {
		const box = (x0: number, y0: number, x1: number, y1: number) => ({
			outline: [
				{ x: x0, y: y0 },
				{ x: x1, y: y0 },
				{ x: x1, y: y1 },
				{ x: x0, y: y1 }
			]
		});
		const [a, b] = [netlist.pads[0]!.at, netlist.pads[1]!.at];
		const over = box(Math.min(a.x, b.x) - 0.1, Math.min(a.y, b.y) - 0.1, Math.max(a.x, b.x) + 0.1, Math.max(a.y, b.y) + 0.1);
		const one = box(a.x - 0.1, a.y - 0.1, a.x + 0.1, a.y + 0.1);
		expect(joinedPins([over, one], netlist, 'top')).toEqual([['U7.1', 'U7.23'], []]);
		expect(joinedPins([over], netlist, 'bottom')).toEqual([[]]);
	});

	test.each([
		{ what: 'cut short', text: NETLIST.replace('\n999', ''), word: 'without its end record' },
		{ what: 'without units', text: NETLIST.replace('P  UNITS CUST 0\n', ''), word: 'before the unit is said' },
		{ what: 'a pad without Y', text: NETLIST.replace('Y+002000', '        '), word: 'this pad has no place' },
		{ what: 'something else', text: 'hello\nworld', word: 'is not one of IPC-D-356A' },
		{ what: 'nothing', text: 'P  UNITS CUST 1\n999', word: 'no pad of a part was found' }
	])('$what is said with its line', ({ text, word }) => {
		const { issues } = readNetlist(text);
		expect(issues.map((issue) => issue.message).join(' ')).toContain(word);
		for (const issue of issues) expect(issue.line).toBeGreaterThan(0);
	});
});

describe('other layers', () => {
	test.each([
		['%TF.FileFunction,Soldermask,Bot*%', 'x.gbr', 'mask'],
		['%TF.FileFunction,Copper,L1,Top*%', 'paste.gbr', 'copper'],
		['', 'board.GTO', 'legend'],
		['', 'Edge_Cuts-profile.gbr', 'profile'],
		['', 'drawing.gbr', 'other']
	])('%s %s is %s', (text, name, kind) => expect(layerFunction(text, name)).toBe(kind));

	test('a layer that cannot be read is said, not drawn', () => {
		expect(readLayer('hello', 'x.gbr')).toMatchObject({ rings: [], issues: [{ severity: 'error', line: 1 }] });
	});
});

describe('the bottom, as the machine sees it', () => {
	test('x turns over, angles by the rule of their source', () => {
		expect(seenPoint({ x: 12, y: 7 }, 'bottom', 50)).toEqual({ x: 38, y: 7 });
		expect(seenPoint({ x: 12, y: 7 }, 'top', 50)).toEqual({ x: 12, y: 7 });
		expect([seenAngle(30, 'bottom', 'asSeen'), seenAngle(30, 'bottom', 'negate'), seenAngle(30, 'bottom', 'supplement')]).toEqual([
			30, 330, 150
		]);
	});

	test.each(['asSeen', 'negate'] as const)('the rule %s is found from parts that stand at 30°', (rule) => {
		const parts = [30, 60, 120].map((rotationDeg, i) => ({ xMm: 20 * i, yMm: 10, rotationDeg, lengthMm: 4, widthMm: 1 }));
		const openings = parts.flatMap((part) => {
			const a = (seenAngle(part.rotationDeg, 'bottom', rule) * Math.PI) / 180;
			return [-1.7, 1.7].map((d) => ({ x: part.xMm + d * Math.cos(a), y: part.yMm + d * Math.sin(a) }));
		});
		expect(chooseAngleRule(parts, openings)).toMatchObject({ rule, caught: { [rule]: 6 } });
	});

	test('parts at right angles decide nothing', () => {
		const { caught } = chooseAngleRule([{ xMm: 0, yMm: 0, rotationDeg: 90, lengthMm: 4, widthMm: 1 }], [{ x: 0, y: 1.7 }]);
		expect(caught).toEqual({ asSeen: 0, negate: 0, supplement: 0 });
	});

	test('a panel turned over shows each circuit where it was, mirrored; numbers travel with the circuit (property)', () => {
		const board = { widthMm: 30, heightMm: 20 };
		const place = fc.record({
			x: fc.double({ min: 40, max: 60, noNaN: true }),
			y: fc.double({ min: 40, max: 60, noNaN: true }),
			rotationDeg: fc.constantFrom(0, 90, 180, 270)
		});
		const point = fc.record({ x: fc.double({ min: 0, max: 30, noNaN: true }), y: fc.double({ min: 0, max: 20, noNaN: true }) });
		fc.assert(
			fc.property(place, point, (circuit, p) => {
				const layout: PanelLayout = {
					rows: 1,
					columns: 1,
					pitchXMm: 0,
					pitchYMm: 0,
					railMm: 0,
					fiducials: [{ x: 10, y: 5 }],
					free: { widthMm: 120, heightMm: 110, circuits: [circuit] }
				};
				const top = panelGeometry(board, layout);
				const bottom = panelGeometry(board, layout, 'bottom');
				const above = onPanel(p, top.origins[0]!);
				const below = onPanel(seenPoint(p, 'bottom', board.widthMm), bottom.origins[0]!);
				expect(below.x).toBeCloseTo(120 - above.x, 6);
				expect(below.y).toBeCloseTo(above.y, 6);
				expect(bottom.fiducials[0]).toEqual({ x: 110, y: 5 });
			})
		);
	});
});

describe('one circuit or the panel', () => {
	const CIRCUIT = [
		{ x: 1, y: 1, w: 0.5, h: 0.6 },
		{ x: 3, y: 1.4, w: 0.5, h: 0.6 },
		{ x: 6, y: 2, w: 1.2, h: 0.4 },
		{ x: 2, y: 5, w: 0.9, h: 0.9 },
		{ x: 7, y: 6, w: 0.3, h: 0.8 },
		{ x: 5, y: 7.5, w: 0.7, h: 0.2 }
	];
	const MARKS = [
		{ x: 0.5, y: 30, w: 1.01, h: 1.01 },
		{ x: 40, y: 0.5, w: 1.02, h: 1.02 }
	];
	const turn = (p: (typeof CIRCUIT)[number], deg: number) =>
		deg === 0 ? p : deg === 180 ? { ...p, x: -p.x, y: -p.y } : { x: deg === 90 ? -p.y : p.y, y: deg === 90 ? p.x : -p.x, w: p.h, h: p.w };
	const gerber = (list: typeof CIRCUIT) => {
		const n = (v: number) => Math.round(v * 1e5);
		return [
			'%FSLAX35Y35*%',
			'%MOMM*%',
			...list.map((p, i) => `%ADD${i + 10}R,${p.w.toFixed(4)}X${p.h.toFixed(4)}*%`),
			...list.flatMap((p, i) => [`D${i + 10}*`, `X${n(p.x)}Y${n(p.y)}D03*`]),
			'M02*'
		].join('\n');
	};
	const panelOf = (places: [number, number, number][], more: typeof CIRCUIT = []) =>
		readPasteLayer(
			gerber([
				...places.flatMap(([x, y, deg]) => CIRCUIT.map((p) => ({ ...turn(p, deg), x: turn(p, deg).x + x, y: turn(p, deg).y + y }))),
				...more
			])
		).apertures;

	test('four circuits in rows and columns are found, and the marks belong to none', () => {
		const openings = panelOf(
			[
				[2, 2, 0],
				[14, 2, 0],
				[2, 14, 0],
				[14, 14, 0]
			],
			MARKS
		);
		const guess = guessCircuits(openings);
		expect(guess.kind).toBe('panel');
		expect(guess.members).toHaveLength(6);
		expect(guess.left).toEqual([24, 25]);
		expect(guess.share).toBeCloseTo(24 / 26, 9);
		const moves = guess.places.map(({ x, y, rotationDeg }) => [x, y, rotationDeg]);
		expect(moves).toHaveLength(4);
		for (const move of [
			[0, 0, 0],
			[12, 0, 0],
			[0, 12, 0],
			[12, 12, 0]
		])
			expect(moves).toContainEqual(move);
	});

	test.each([90, 180, 270])('a second circuit turned by %i° is found with its turn', (deg) => {
		const guess = guessCircuits(
			panelOf([
				[2, 2, 0],
				[30, 20, deg]
			])
		);
		expect(guess).toMatchObject({ kind: 'panel', share: 1, left: [] });
		expect(guess.places[1]!.rotationDeg).toBe(deg);
		// The circuit's corner lands where the second circuit was drawn.
		const [, second] = placesFromCorner(guess, { x: 2, y: 2 });
		expect([second!.x, second!.y]).toEqual([30, 20]);
	});

	test('one circuit is one circuit, also with equal parts in it', () => {
		expect(guessCircuits(panelOf([[0, 0, 0]])).kind).toBe('circuit');
		const chips = Array.from({ length: 9 }, (_, i) => [
			{ x: (i % 3) * 4, y: Math.floor(i / 3) * 4, w: 0.5, h: 0.5 },
			{ x: (i % 3) * 4 + 1, y: Math.floor(i / 3) * 4, w: 0.5, h: 0.5 }
		]).flat();
		expect(guessCircuits(readPasteLayer(gerber(chips)).apertures).kind).toBe('circuit');
	});
});
