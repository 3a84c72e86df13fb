import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { readPackage } from '../parts/index.ts';
import { readPasteLayer } from './apertures.ts';
import { expandDesignators, readBom } from './bill-of-materials.ts';
import { circuitCorners, defaultPanel, panelGeometry } from './panel.ts';
import { readPositions } from './positions.ts';
import { reconcile } from './reconcile.ts';
import { partsOverPaste } from './reconcile.ts';
import { registerToArtwork } from './register.ts';
import { decodeText } from '../tables/index.ts';

describe('position files', () => {
	test('units in cells, quoted cells, words for sides, angles brought into one turn', () => {
		const { rows, issues } = readPositions(
			'# made elsewhere\nDesignator,Mid X,Mid Y,Rotation,Layer,Comment\nR1,1.5mm,100mil,-90,TopLayer,"4k7, 1 %"\nU2,"10","20",450,BottomLayer,x\n'
		);
		expect(issues).toEqual([]);
		expect(rows[0]).toMatchObject({ refDes: 'R1', xMm: 1.5, yMm: 2.54, rotationDeg: 270, side: 'top', value: '4k7, 1 %', line: 3 });
		expect(rows[1]).toMatchObject({ rotationDeg: 90, side: 'bottom' });
	});

	test('semicolons with decimal commas, a unit in the header and a footer', () => {
		const { rows, unit, ignored } = readPositions('Ref;X [mm];Y [mm];Rot;Seite\r\nR1;1,5;2,25;0;oben\r\nTOTAL;1\r\n');
		expect(unit).toBe('mm');
		expect(rows).toMatchObject([{ xMm: 1.5, yMm: 2.25, side: 'top' }]);
		expect(ignored).toEqual([{ line: 3, text: 'TOTAL 1' }]);
	});

	test('blank-separated columns with the unit in the preamble', () => {
		const { rows, unit } = readPositions('Units: mils\nRefDes   X      Y     Rotation\nR1  1000   2000  90\n', null, null, 'top');
		expect(unit).toBe('mil');
		expect(rows[0]).toMatchObject({ xMm: 25.4, yMm: 50.8 });
	});

	test('a bad cell rejects its row with line, field and value; the others load', () => {
		const { rows, issues } = readPositions('Ref,X,Y,Rot\nR1,1,2,0\nR2,12.3.4,2,0\nR3,3,abc,0\nR1,9,9,0\n', null, null, 'top');
		expect(rows.map((row) => row.refDes)).toEqual(['R1', 'R1']);
		expect(issues).toMatchObject([
			{ line: 3, field: 'X', value: '12.3.4' },
			{ line: 4, field: 'Y', value: 'abc' },
			{ line: 5, code: 'duplicate_ref' }
		]);
	});

	test('numbers that can be read both ways are asked about, never guessed; the answer reads them', () => {
		const text = 'Ref\tX\tY\tSide\nR1\t1,250\t2,500\tT\n';
		const [asked] = readPositions(text).issues;
		expect(asked).toMatchObject({ code: 'ambiguous_decimal', line: 2, field: 'decimal', value: '1,250' });
		expect(asked!.message).toContain('line 2, X: "1,250" is 1250 with a decimal point, 1.25 with a decimal comma');
		expect(readPositions(text).rows).toEqual([]);
		expect(readPositions(text, 'mm', '.').rows[0]).toMatchObject({ xMm: 1250, yMm: 2500 });
		expect(readPositions(text, 'mm', ',').rows[0]).toMatchObject({ xMm: 1.25, yMm: 2.5 });
	});

	test('no header, no rows: a sentence that says what to do', () => {
		expect(readPositions('hello\nworld\n').issues[0]).toMatchObject({ code: 'needs_mapping', value: 'hello' });
		expect(readPositions('Ref,X,Y\n').issues[0]!.code).toBe('no_rows');
	});
});

describe('bytes', () => {
	const decode = (bytes: Uint8Array, encoding: string) => {
		try {
			return new TextDecoder(encoding, { fatal: true }).decode(bytes);
		} catch {
			return null;
		}
	};
	test('UTF-16, Windows-1252, empty and binary', () => {
		expect(decodeText(Uint8Array.from([0xff, 0xfe, 0x52, 0, 0x31, 0]), decode)).toMatchObject({ text: 'R1', encoding: 'utf-16' });
		expect(decodeText(Uint8Array.from([0x47, 0xe4]), decode)).toMatchObject({ text: 'Gä', encoding: 'windows-1252' });
		expect(decodeText(new Uint8Array(), decode)).toMatchObject({ code: 'empty_file' });
		expect(decodeText(Uint8Array.from([80, 75, 3, 4, 0, 0]), decode)).toMatchObject({ code: 'binary_file' });
	});
});

describe('parts lists', () => {
	test('ranges, continued lines, fitted and not fitted', () => {
		const { items, issues } = readBom(
			'Part number,Designators,Qty,Value,DNP\nP1,"R1-R3, R7",4,10k,N\nP2,C1,2,100n,\n,C2,,,\nP3,R9,1,0R,Y\nP4,R10,0,0R,\n'
		);
		expect(issues.map((issue) => issue.code)).toEqual([]);
		expect(items.map((item) => [item.partNumber, item.designators.join(' '), item.fitted])).toEqual([
			['P1', 'R1 R2 R3 R7', true],
			['P2', 'C1 C2', true],
			['P3', 'R9', false],
			['P4', 'R10', false]
		]);
	});

	test('a wrong quantity, a reference on two lines and a bad range are errors with their line', () => {
		const { issues } = readBom('Part number,Designators,Quantity\nP1,R1-R3,2\nP2,R3,1\nP3,R9-R4,1\n');
		expect(issues.map((issue) => [issue.code, issue.line])).toEqual([
			['bad_range', 4],
			['qty_mismatch', 2],
			['ref_on_two_lines', 3],
			['qty_mismatch', 4]
		]);
	});

	test('a range expands to exactly its members', () => {
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 300 }), fc.integer({ min: 0, max: 200 }), (first, more) => {
				const { designators, bad } = expandDesignators(`R${first}-R${first + more}`);
				expect(bad).toEqual([]);
				expect(designators).toHaveLength(more + 1);
				expect(designators.at(-1)).toBe(`R${first + more}`);
			})
		);
	});
});

const PASTE = readPasteLayer(
	`%FSLAX34Y34*%\n%MOMM*%\n%ADD10R,0.5X0.54*%\nD10*\n${[10, 20, 30, 40, 50, 60]
		.map((x, i) => `X${x * 10000 - 4800}Y${i * 30000 + 100000}D03*\nX${x * 10000 + 4800}D03*`)
		.join('\n')}\nX900000Y900000D03*\nM02*\n`
).apertures;
const rowsAt = (shift: number, scale: number, mirror = 1) =>
	readPositions(
		`Ref,X,Y,Footprint\n${[10, 20, 30, 40, 50, 60].map((x, i) => `R${i + 1},${(mirror * x + shift) / scale},${(i * 3 + 10) / scale},R0402`).join('\n')}\n`,
		null,
		null,
		'top'
	).rows;

test('reconciling ties openings to parts and names every disagreement', () => {
	const { items } = readBom('Part number,Designators,Fitted\nP1,"R1-R4, R8",Y\nP2,R5,N\n');
	const { parts, partOfAperture, findings } = reconcile(rowsAt(0, 1), items, PASTE, readPackage);
	expect(partOfAperture.slice(0, 4)).toEqual(['R1', 'R1', 'R2', 'R2']);
	expect(parts.find((part) => part.refDes === 'R3')!.apertures).toEqual([4, 5]);
	expect(findings.map((finding) => [finding.code, finding.value]).sort()).toEqual([
		['bom_ref_missing_in_centroid', 'R8'],
		['centroid_ref_missing_in_bom', 'R6'],
		['dnp_has_paste', 'R5'],
		['paste_without_part', '13']
	]);
});

describe('an opening whose attribute names a part', () => {
	const items = readBom('Part number,Designators,Fitted\nP1,R1-R6,Y\n').items;
	const named = (i: number, refDes: string, dx = 0) =>
		PASTE.map((a, j) => (j === i ? { ...a, refDes, centre: { x: a.centre.x + dx, y: a.centre.y } } : a));
	const findings = (openings: typeof PASTE) =>
		reconcile(rowsAt(0, 1), items, openings, readPackage).findings.filter((f) => f.field === 'opening' || f.code === 'paste_off_part');

	test('is looked for where it lies as well: off its body by more than 3 mm it is an error', () => {
		const before = findings(PASTE).length;
		const { lengthMm } = readPackage(rowsAt(0, 1)[0]!.packageName);
		const part = rowsAt(0, 1)[0]!;
		const at = (missMm: number) => part.xMm - lengthMm! / 2 - missMm - PASTE[0]!.centre.x;
		expect(findings(named(0, 'R1', at(2.99)))).toHaveLength(before);
		const off = findings(named(0, 'R1', at(3.01)));
		expect(off[0]).toMatchObject({ code: 'paste_off_part', severity: 'error', value: 'R1', at: { y: PASTE[0]!.centre.y } });
		expect(off[0]!.message).toContain('lies 3.0 mm off its body');
	});
	test('of a part that has no position is nobody else’s, and is named', () => {
		const { partOfAperture } = reconcile(rowsAt(0, 1), items, named(0, 'U9'), readPackage);
		expect(partOfAperture.slice(0, 3)).toEqual([null, 'R1', 'R2']);
		expect(findings(named(0, 'U9')).map((f) => f.message)).toContainEqual(
			expect.stringContaining('is of U9 by its attribute, which has no position')
		);
	});
	test('parts on their pads are counted by place, whatever attributes say', () => {
		expect(partsOverPaste(rowsAt(0, 1), named(0, 'U9'), readPackage)).toEqual({ onPads: 6, parts: 6 });
		expect(partsOverPaste(rowsAt(5, 1), PASTE, readPackage)).toEqual({
			onPads: partsOverPaste(rowsAt(5, 1), named(0, 'R1'), readPackage).onPads,
			parts: 6
		});
		expect(partsOverPaste(rowsAt(500, 1), PASTE, readPackage).onPads).toBe(0);
	});
});

test('a position file in another unit, mirrored or moved is brought onto the paste', () => {
	const centres = PASTE.map((a) => a.centre);
	const moved = registerToArtwork(rowsAt(5, 1), centres, ['mm']).best!;
	expect(moved.offset.x).toBeCloseTo(-5, 2);
	const mirrored = registerToArtwork(rowsAt(0, 1, -1), centres, ['mm']).best!;
	expect([mirrored.mirrored, mirrored.share]).toEqual([true, 1]);
	const mil = registerToArtwork(rowsAt(0, 0.0254), centres).best!;
	expect([mil.unit, mil.mirrored]).toEqual(['mil', false]);
	// A row of equal parts meets its own mirror image as well: as it stands is the simplest answer.
	const even = rowsAt(0, 1).map((row) => ({ ...row, yMm: 10 }));
	const flat = even.flatMap((row) => [-0.48, 0.48].map((dx) => ({ x: row.xMm + dx, y: 10 })));
	expect(registerToArtwork(even, flat, ['mm']).best).toMatchObject({ mirrored: false, offset: { x: 0, y: 0 }, share: 1 });
	const foreign = readPositions('Ref,X,Y\nR1,3,77\nR2,9,13\nR3,55,2\nR4,31,64\nR5,8,90\n', null, null, 'top').rows;
	expect(registerToArtwork(foreign, centres).best).toBeNull();
});

test('a panel: circuits row by row, impossible layouts refused by name', () => {
	const board = { widthMm: 52, heightMm: 38 };
	const layout = { ...defaultPanel(board, 2, 2), pitchXMm: 54, pitchYMm: 40, railMm: 6, fiducials: [{ x: 3, y: 3 }] };
	const panel = panelGeometry(board, layout);
	expect([panel.widthMm, panel.heightMm]).toEqual([118, 90]);
	expect(panel.origins).toEqual([
		{ x: 6, y: 6, rotationDeg: 0 },
		{ x: 60, y: 6, rotationDeg: 0 },
		{ x: 6, y: 46, rotationDeg: 0 },
		{ x: 60, y: 46, rotationDeg: 0 }
	]);
	expect(() => panelGeometry(board, { ...layout, pitchXMm: 50 })).toThrow('panel.pitchXMm: expected at least the board');
	expect(() => panelGeometry(board, { ...layout, fiducials: [{ x: 500, y: 1 }] })).toThrow('panel.fiducials[0]');
});

test('a panel of free places: turned circuits stand on it, none may hang over its edge', () => {
	const board = { widthMm: 30, heightMm: 20 };
	const layout = { ...defaultPanel(board), fiducials: [] };
	const free = {
		widthMm: 80,
		heightMm: 50,
		circuits: [
			{ x: 5, y: 5, rotationDeg: 0 },
			{ x: 70, y: 10, rotationDeg: 90 }
		]
	};
	const panel = panelGeometry(board, { ...layout, free });
	expect([panel.widthMm, panel.heightMm]).toEqual([80, 50]);
	// Turned by 90° the circuit's far corner lies up and to the left of its origin.
	const corners = circuitCorners(board, panel.origins[1]!).map((p) => [Math.round(p.x), Math.round(p.y)]);
	expect(corners).toEqual([
		[70, 10],
		[70, 40],
		[50, 40],
		[50, 10]
	]);
	const over = { ...free, circuits: [{ x: 10, y: 40, rotationDeg: 0 }] };
	expect(() => panelGeometry(board, { ...layout, free: over })).toThrow('panel.circuits[0]: expected a circuit on the panel, 80 x 50 mm');
	expect(() => panelGeometry(board, { ...layout, free: { ...free, circuits: [] } })).toThrow('panel.circuits');
});

test('parts of the other side are on the same parts list and not missing; paste for them is an error', () => {
	const row = (refDes: string, side: 'top' | 'bottom', line: number) => ({
		refDes,
		xMm: 10,
		yMm: 10,
		rotationDeg: 0,
		side,
		value: '',
		packageName: '',
		kind: 'part' as const,
		line
	});
	const items = readBom('Part number,Designators\nA,R1\nB,R2\nC,R3\n').items;
	const opening = {
		index: 0,
		shape: 'circle' as const,
		outline: [],
		centre: { x: 10, y: 10 },
		areaMm2: 0.2,
		perimeterMm: 1.6,
		widthMm: 0.5,
		lengthMm: 0.5,
		pin: null,
		line: 1
	};
	const read = (refDes: string | null) =>
		reconcile([row('R1', 'top', 2)], items, [{ ...opening, refDes }], () => ({ lengthMm: 1, widthMm: 0.5 }), [row('R2', 'bottom', 3)])
			.findings;
	// R3 stands on neither side.
	expect(read(null).map((finding) => [finding.code, finding.value])).toEqual([['bom_ref_missing_in_centroid', 'R3']]);
	expect(read('R2').map((finding) => finding.code)).toContain('paste_on_other_side');
});

describe('two footprints for one function', () => {
	const row = (refDes: string, x: number, packageName: string, line: number) => ({
		refDes,
		xMm: x,
		yMm: 10,
		rotationDeg: 0,
		side: 'top' as const,
		value: '',
		packageName,
		kind: 'part' as const,
		line
	});
	const opening = (x: number, y: number, index: number) => ({ ...PASTE[0]!, index, refDes: null, centre: { x, y } });
	const rows = [row('U3', 20, 'SOIC127P600X175-8', 2), row('U3A', 20.4, 'SOT95P237X112-3', 3), row('R1', 40, 'RESC1608X50N', 4)];
	const paste = [opening(18, 12.6, 0), opening(22, 12.6, 1), opening(20.4, 10.2, 2), opening(39.3, 10, 3), opening(40.7, 10, 4)];
	const bom = (dnp: string) =>
		readBom(`Part number,Designators,Fitted\nA,U3,${dnp === 'U3' ? 'N' : 'Y'}\nB,U3A,${dnp === 'U3A' ? 'N' : 'Y'}\nC,R1,Y\n`).items;

	test('both placed over each other is an error, once, at the later line', () => {
		const { findings } = reconcile(rows, bom(''), paste, readPackage);
		expect(findings.filter((f) => f.code === 'two_footprints')).toMatchObject([
			{ severity: 'error', value: 'U3A', line: 3, at: { x: 20.4, y: 10 } }
		]);
	});

	test('where one is left out the other takes the paste under both, and the one left out is named as its second footprint', () => {
		const { findings, parts } = reconcile(rows, bom('U3A'), paste, readPackage);
		expect(findings.filter((f) => f.code === 'two_footprints' || f.code === 'placed_without_paste')).toEqual([]);
		expect(parts.find((part) => part.refDes === 'U3')!.apertures).toEqual([0, 1, 2]);
		const other = reconcile(rows, bom('U3'), paste, readPackage);
		expect(other.parts.find((part) => part.refDes === 'U3A')!.apertures).toEqual([2]);
		expect(other.findings.find((f) => f.code === 'dnp_has_paste')!.message).toContain(
			'a second footprint for U3A, which is placed over it'
		);
	});

	test('parts beside each other are no such pair, however near', () => {
		const beside = [row('R1', 40, 'RESC1608X50N', 2), row('R2', 40.9, 'RESC1608X50N', 3)];
		const items = readBom('Part number,Designators\nA,R1\nB,R2\n').items;
		expect(reconcile(beside, items, [], readPackage).findings.filter((f) => f.code === 'two_footprints')).toEqual([]);
		const over = [row('R1', 40, 'RESC1608X50N', 2), row('R2', 40.7, 'RESC1608X50N', 3)];
		expect(reconcile(over, items, [], readPackage).findings.filter((f) => f.code === 'two_footprints')).toHaveLength(1);
	});
});
