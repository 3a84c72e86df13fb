import { describe, expect, test } from 'vitest';
import { seededRandom } from '../numerics/index.ts';
import { transferEfficiency } from '../stencil/index.ts';
import { findSignatures, pasteStudy, readPadTable, readPanelTable, writeStudy, type SignatureRun, type TablePad } from './index.ts';

const PADS = `pad_id,refdes,package_class,x_mm,y_mm,shape,size_x_mm,size_y_mm,foil_um,area_mm2,area_ratio
A1,U1,ball,0,0,circle,0.3,0.3,100,,
A2,U1,ball,0.5,0,square,0.3,0.3,100,,
1,J1,lead,3,0,oblong,2,0.3,100,,
2,J1,lead,4,0,,1.5,0.25,127,,
3,J1,lead,5,0,polygon,1,1,100,0.8,1.9
`;
const PANELS = 'panel_no,t_min,stroke,prints_since_wipe,prints_since_topup,minutes_since_previous_print\n2,1.2,r,1,1,1.2\n1,0,F,0,0,\n';
const READINGS = 'panel_no,pad_id,volume_pct,height_um,area_pct,offset_x_um,offset_y_um\n';

describe('pads', () => {
	test('a blank area ratio follows from shape, sizes and foil', () => {
		const { pads, issues } = readPadTable(PADS);
		expect(issues).toEqual([]);
		// Circle and square both D/(4T); oblong and rectangle by their own perimeters.
		expect(pads.map((p) => Number(p.areaRatio.toFixed(3)))).toEqual([0.75, 0.75, 1.337, 0.844, 1.9]);
		expect(pads[2]!.areaMm2).toBeCloseTo(0.58069, 5);
		expect(pads[2]!.minSideMm).toBe(0.3);
	});

	test('a byte order mark, other line ends, another order of columns and decimal commas are taken', () => {
		const text = '\ufefffoil_um;y_mm;x_mm;pad_id;size_y_mm;size_x_mm;package_class\r\n127;1,5;2,25;P1;0,25;1,5;lead\r\n';
		expect(readPadTable(text).pads[0]).toMatchObject({ name: 'P1', xMm: 2.25, yMm: 1.5, foilUm: 127, shape: 'rectangle' });
	});

	test('the titles that people read are taken as well as the short ones', () => {
		const text = 'Pad;Class;X, mm;Y, mm;Size in X,  mm;size in y, mm;Foil, µm\nP1;lead;2,25;1,5;1,5;0,25;127\n';
		expect(readPadTable(text).pads[0]).toMatchObject({ name: 'P1', xMm: 2.25, sizeYMm: 0.25, foilUm: 127 });
	});

	test('bad rows are left out and named by line, field and value; the good ones are kept', () => {
		const text = `${PADS}4,J1,lead,1,1,rectangle,0,1,100,,\nA1,U1,ball,9,9,circle,0.3,0.3,100,,\n5,J1,lead,x,1,rectangle,1,1,100,,\n6,J1,lead,1,1,polygon,1,1,100,,\n`;
		const { pads, issues } = readPadTable(text);
		expect(pads).toHaveLength(5);
		expect(issues.map((i) => [i.line, i.field])).toEqual([
			[7, 'size_x_mm'],
			[9, 'x_mm'],
			[8, 'pad_id'],
			[10, 'area_mm2']
		]);
		expect(issues[0]!.message).toContain('0 is outside 0.05 to 20');
		expect(readPadTable('a,b\n1,2\n').issues[0]!.message).toContain('Needed are: pad; class; X, mm');
	});
});

test('panels stand in the order of time; the stroke is a label in either case', () => {
	const { panels, issues } = readPanelTable(PANELS);
	expect(issues).toEqual([]);
	expect(panels.map((p) => [p.serial, p.stroke, p.minutesSincePrevious])).toEqual([
		['1', 'F', 0],
		['2', 'R', 1.2]
	]);
});

describe('a study', () => {
	test('readings meet their pad and panel; what has no match is named, what is missing stays missing', () => {
		const readings = `${READINGS}1,A1,90,95,95,1,2\n2,2,100,127,100,0,0\n1,Z9,90,95,95,1,2\n3,A1,90,95,95,1,2\n1,A2,,,,,\n`;
		const { run, issues, missing } = pasteStudy({ pads: PADS, panels: PANELS, readings });
		expect(issues.map((i) => i.message)).toEqual([
			'Readings, line 4, pad: Z9 is not in the table of pads.',
			'Readings, line 5, panel: 3 is not in the table of panels.'
		]);
		expect([run!.volumePct[0], run!.volumePct[1]]).toEqual([90, NaN]);
		// Pad 2 lies on the thicker part of the foil: its full height is the run's full height.
		expect(run!.heightUm[5 + 3]).toBeCloseTo(100, 4);
		expect(missing).toBe(8);
		expect(run!.bridges).toBeUndefined();
	});

	test('a decimal sign that the three tables do not decide is asked about before anything is worked out', () => {
		const panels = PANELS.replaceAll(',', ';').replace('1.2;r', '1,2;r');
		expect(pasteStudy({ pads: PADS, panels, readings: READINGS })).toMatchObject({ run: null, asks: { code: 'decimal_sign', line: 2 } });
	});

	test('heights in millimetres are asked about before anything is worked out', () => {
		const readings = `${READINGS}1,A1,90,0.095,95,1,2\n`;
		expect(pasteStudy({ pads: PADS, panels: PANELS, readings })).toMatchObject({ run: null, asks: { code: 'height_unit' } });
		expect(pasteStudy({ pads: PADS, panels: PANELS, readings }, {}, 'mm').run!.heightUm[0]).toBeCloseTo(95, 3);
	});

	test('a run that is written and read again has the same causes', () => {
		const random = seededRandom(5);
		const pads: TablePad[] = Array.from({ length: 60 }, (_, i) => ({
			name: `R${i >> 1}.${i & 1}`,
			refDes: `0/R${i >> 1}`,
			padClass: 'chip',
			xMm: (i % 10) * 7,
			yMm: Math.floor(i / 10) * 9,
			shape: 'rectangle',
			sizeXMm: 0.5,
			sizeYMm: i % 3 ? 0.6 : 0.3,
			foilUm: 100,
			areaMm2: i % 3 ? 0.3 : 0.15,
			areaRatio: i % 3 ? 1.3636 : 0.9375,
			minSideMm: i % 3 ? 0.5 : 0.3
		}));
		const panels = Array.from({ length: 24 }, (_, m) => ({
			serial: `J-1-${m}`,
			tMin: m,
			stroke: m % 2 ? 'R' : 'F',
			printsSinceWipe: m % 5,
			printsSinceTopup: m,
			minutesSincePrevious: m ? 1 : 0
		}));
		const each = (of: (m: number, p: number) => number) =>
			Float32Array.from({ length: 24 * 60 }, (_, i) => Math.round(10 * of(Math.floor(i / 60), i % 60)) / 10);
		const volumePct = each((m, p) => 100 * transferEfficiency(pads[p]!.areaRatio) * (m % 2 ? 0.88 : 1) * (1 + 0.02 * random.normal()));
		const run: SignatureRun & { pads: TablePad[] } = {
			pads,
			panels,
			volumePct,
			heightUm: volumePct.map((v) => Math.round(v * 10) / 10),
			areaPct: each(() => 100),
			offsetXUm: each(() => random.normal()),
			offsetYUm: each(() => random.normal()),
			foilUm: 100,
			strokeAxis: 'y'
		};
		const again = pasteStudy(writeStudy(run, [[3, 4]]));
		expect(again.issues).toEqual([]);
		expect(again.run!.bridges!.slice(0, 2)).toEqual([2, 0]);
		const [before, after] = [findSignatures(run), findSignatures({ ...again.run!, bridges: undefined } as SignatureRun)];
		expect(before.signatures.map((s) => s.code)).toEqual(['STROKE_PAIR']);
		expect(after.signatures).toEqual(before.signatures);
	});
});
