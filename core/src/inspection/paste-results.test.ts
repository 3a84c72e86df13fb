import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
	checkLimits,
	DEPOSIT_LIMITS,
	gapAcrossWebMm,
	gapToNeighbourMm,
	gaugeShare,
	identityFactor,
	judgeDeposit,
	judgeIdentity,
	judgePanelPaste,
	readPasteTable,
	thermalMeans,
	statisticalLimits,
	widened
} from './index.ts';

/** A pad as wide as it is long. */
const even = (mm: number) => ({ xMm: mm, yMm: mm });
const HEAD = 'panel_no,pad_id,volume_pct,height_um,area_pct,offset_x_um,offset_y_um,peak_height_um,bridge';

describe('results as a table', () => {
	test('byte order mark, Windows line ends, any order, blanks counted', () => {
		const t = readPasteTable(`\ufeff${HEAD}\r\n2,b,95.5,98,97,3,-4,110,0\r\n1,a,,101,99,0,0,,1\r\n`);
		expect(t.issues).toEqual([]);
		expect(t.panel).toEqual(['2', '1']);
		expect([...t.values.volumePct]).toEqual([95.5, NaN]);
		expect(t.blanks).toBe(2);
		expect([...t.bridge]).toEqual([0, 1]);
		expect([...t.line]).toEqual([2, 3]);
	});

	test('a bad row is named with line, field and value, and the good ones stay', () => {
		const t = readPasteTable(
			`${HEAD}\n1,a,95,98,97,3,4,,\n1,b,9o,98,97,3,4,,\n1,c,95,-8,97,3,4,,\n,d,95,98,97,3,4,,\n1,a,80,98,97,3,4,,\n`
		);
		expect(t.pad).toEqual(['a']);
		expect(t.issues.map((i) => [i.line, i.field, i.code])).toEqual([
			[3, 'volume_pct', 'not_a_number'],
			[4, 'height_um', 'out_of_range'],
			[5, 'panel_no', 'no_identity'],
			[6, 'pad_id', 'twice']
		]);
		expect(t.issues[0]!.message).toContain('"9o" is not a number');
		expect(t.values.volumePct[0]).toBe(95);
	});

	test('semicolons, decimal commas, quotes, and a unit’s own titles', () => {
		const mapping = {
			panel_no: 'Panel',
			pad_id: 'Pad',
			volume_pct: 'Vol',
			height_um: 'H',
			area_pct: 'A',
			offset_x_um: 'DX',
			offset_y_um: 'DY'
		};
		const t = readPasteTable('Panel;Pad;Vol;H;A;DX;DY\n"P;1";"U1 1";95,5;98,2;97,0;3,0;-4,5\n', mapping);
		expect(t.panel).toEqual(['P;1']);
		expect(t.values.offsetYUm[0]).toBe(-4.5);
		expect(readPasteTable('Panel;Pad;Vol\n1;2;3\n').issues[0]!.code).toBe('no_header');
	});

	test('a quoted decimal comma among commas is ten times no more', () => {
		const t = readPasteTable(`${HEAD}\n1,a,"96,0","98,5",97,3,-4,,\n1,b,"101,5",99,97,"0,5",0,,\n`);
		expect([t.values.volumePct[0], t.values.volumePct[1], t.values.offsetXUm[1]]).toEqual([96, 101.5, 0.5]);
		expect(t.issues).toEqual([]);
	});

	test('points in one column and commas in another ask; the answer reads what it can and names the rest', () => {
		const text = `${HEAD.replaceAll(',', ';')}\n1;a;96.5;98;97;3;-4;;\n1;b;97,5;98;97;3;-4;;\n`;
		const t = readPasteTable(text);
		expect(t.asks).toMatchObject({ code: 'decimal_sign', line: 2 });
		expect(t.asks!.message).toContain('line 3, volume, %: "97,5" is no number with a decimal point, 97.5 with a decimal comma');
		expect(t.pad).toEqual([]);
		const chosen = readPasteTable(text, {}, 100, ',');
		expect([chosen.asks, chosen.pad, chosen.values.volumePct[0]]).toEqual([null, ['b'], 97.5]);
		expect(chosen.issues).toMatchObject([{ code: 'not_a_number', line: 2, field: 'volume_pct', value: '96.5' }]);
	});

	test('a comma on the last of many rows counts as much as one on the first', () => {
		const rows = Array.from({ length: 1000 }, (_, i) => `1;p${i};96;98;97;3;-4;;`);
		const t = readPasteTable(`${HEAD.replaceAll(',', ';')}\n${rows.join('\n')}\n1;z;96,5;98;97;3;-4;;\n`);
		expect([t.pad.length, t.values.volumePct[1000], t.issues]).toEqual([1001, 96.5, []]);
	});

	test('a row that an unquoted decimal comma has torn is left out and named', () => {
		const t = readPasteTable(`${HEAD}\n1,a,96,5,98,97,3,-4,,,0\n1,b,96,98,97,3,-4,,\n`);
		expect(t.pad).toEqual(['b']);
		expect(t.issues).toMatchObject([{ code: 'torn_row', line: 2 }]);
	});

	test('a column that is missing is named alone, with the titles that it may be', () => {
		const [issue] = readPasteTable('panel_no,pad_id,Vol,height_um,area_pct,offset_x_um,offset_y_um,Comment\n1,a,96,98,97,3,-4,ok\n').issues;
		expect(issue).toMatchObject({ code: 'no_header', line: 1, field: 'volume_pct' });
		expect(issue!.message).toBe(
			'Line 1: one column is missing: volume, % ("volume_pct"). It may be one of these: Vol, Comment; say which column is which.'
		);
	});

	test('heights in millimetres are asked about, never guessed', () => {
		expect(readPasteTable(`${HEAD}\n1,a,95,0.098,97,3,4,,\n1,b,95,0.101,97,3,4,,\n`).asks).toMatchObject({
			code: 'height_unit',
			field: 'height_um'
		});
		expect(readPasteTable('a,b\n"never closed,1').issues[0]!.code).toBe('open_quote');
	});

	test('what is written is read back (property)', () => {
		const row = fc.record({ v: fc.integer({ min: 0, max: 3000 }), x: fc.integer({ min: -300, max: 300 }) });
		fc.assert(
			fc.property(fc.array(row, { minLength: 1, maxLength: 40 }), fc.constantFrom('\n', '\r\n', '\r'), (rows, end) => {
				const t = readPasteTable([HEAD, ...rows.map(({ v, x }, i) => `P,${i},${v / 10},100,100,${x},0,,`)].join(end));
				expect(t.issues).toEqual([]);
				rows.forEach(({ v, x }, i) => {
					expect(t.values.volumePct[i]).toBeCloseTo(v / 10, 3);
					expect(t.values.offsetXUm[i]).toBe(x);
				});
			})
		);
	});
});

describe('limits', () => {
	const good = { volumePct: 100, heightPct: 100, areaPct: 100, offsetXUm: 0, offsetYUm: 0 };
	test('all codes, the primary first; missing hides height and area; on a limit passes', () => {
		expect(judgeDeposit('chip', even(0.5), { ...good, volumePct: 180, heightPct: 170, offsetXUm: 400, bridge: true }).codes).toEqual([
			'bridge',
			'excess',
			'offset',
			'height'
		]);
		expect(judgeDeposit('chip', even(0.5), { ...good, volumePct: 9.9, heightPct: 0, areaPct: 0 }).codes).toEqual(['missing']);
		// It silences those two only: a bridge or an offset that was measured stands.
		expect(judgeDeposit('chip', even(0.5), { ...good, volumePct: 9.9, heightPct: 0, offsetXUm: 400, bridge: true }).codes).toEqual([
			'bridge',
			'missing',
			'offset'
		]);
		expect(judgeDeposit('chip', even(0.5), { ...good, volumePct: 9.9, offsetXUm: NaN, offsetYUm: NaN }).codes).toEqual(['missing']);
		expect(judgeDeposit('chip', even(0.5), { ...good, volumePct: 50 })).toEqual({ codes: [], warn: true });
		expect(judgeDeposit('chip', even(0.5), { ...good, offsetXUm: 150 }).codes).toEqual([]);
	});

	test('three warnings on one part ask for a look', () => {
		expect([judgePanelPaste(1000, 0, 3, 2), judgePanelPaste(1000, 0, 3, 3), judgePanelPaste(1000, 1, 0, 0)]).toEqual([
			'pass',
			'review',
			'reject'
		]);
	});

	test('statistical limits only tighten; widening is named; contradictions are refused', () => {
		const tight = statisticalLimits(DEPOSIT_LIMITS.chip, 98, 5);
		expect(tight.volumePct.fail).toEqual([78, 118]);
		expect(statisticalLimits(DEPOSIT_LIMITS.chip, 98, 60).volumePct).toEqual(DEPOSIT_LIMITS.chip.volumePct);
		const wide = { ...DEPOSIT_LIMITS, chip: { ...DEPOSIT_LIMITS.chip, heightPct: [50, 160] as [number, number] } };
		expect(widened(DEPOSIT_LIMITS, wide)).toEqual(['chip from 0402 height']);
		expect(() =>
			checkLimits({ ...DEPOSIT_LIMITS, chip: { ...DEPOSIT_LIMITS.chip, volumePct: { fail: [70, 150], warn: [60, 140] } } })
		).toThrow('chip.volumePct.warn');
	});

	test('windows of a thermal pad may pass one by one and fail together; one window and other pads have no mean', () => {
		const classes = ['thermal', 'thermal', 'chip', 'thermal'] as const;
		const parts = ['U1', 'U1', 'R1', 'U2'];
		const means = thermalMeans(classes, parts, [60, 62, 10, 55, 118, 122, 100, 55]);
		expect(means).toEqual([
			{ pads: [0, 1], meanPct: 61, within: false },
			{ pads: [4, 5], meanPct: 120, within: true }
		]);
		expect(thermalMeans(classes, parts, [NaN, 62, 10, 55])).toEqual([]);
		for (const volumePct of [60, 62])
			expect(judgeDeposit('thermal', even(1), { volumePct, heightPct: 90, areaPct: 90, offsetXUm: 0, offsetYUm: 0 }).codes).toEqual([]);
	});

	test('the gap to the neighbouring pad shrinks with the offset', () => {
		expect(gapToNeighbourMm(0.4, 0.2, 0.18, 50)).toBeCloseTo(0.16, 9);
		// With pads as large as their openings the foil between them is all that counts.
		expect(gapAcrossWebMm(0.22, 30, -40)).toBeCloseTo(gapToNeighbourMm(0.4, 0.18, 0.18, 50), 9);
	});
});

describe('the unit itself', () => {
	const readings = (gain: number, n = 300) =>
		Array.from({ length: n }, (_, i) => ({ volumePct: gain * 95, areaPct: 97, heightUm: 98 + (i % 3) - 1 }));
	test('a factor of its own by design is learned; moving by a tenth is wrong', () => {
		const learned = new Map([['small', identityFactor('small', readings(1.2), 100)]]);
		expect(judgeIdentity([identityFactor('small', readings(1.2), 100)], learned).level).toBe('good');
		expect(judgeIdentity([identityFactor('small', readings(1.36), 100)], learned).level).toBe('act');
		expect(judgeIdentity([identityFactor('small', readings(1.2), 100)], new Map()).level).toBe('watch');
	});

	test('repeatability against the tolerance', () => {
		expect(
			gaugeShare(
				[
					[100, 101, 99],
					[90, 91, 89]
				],
				60,
				140
			)
		).toMatchObject({ sigma: 1, enough: true });
		expect(gaugeShare([[100, 108, 92]], 60, 140).enough).toBe(false);
	});
});
