import { describe, expect, test } from 'vitest';
import { seededRandom } from '../numerics/index.ts';
import { offsetCauses, type PlacedOffset } from './offset-causes.ts';

const SIGMA = 15;

interface Said {
	panels?: number;
	circuits?: number;
	/** Added to a row before the noise, µm along the panel. */
	off?: (row: PlacedOffset, panel: number) => [number, number];
	/** Share of rows that are anywhere. */
	gross?: number;
	/** Every part number has a feeder of its own; else two feeders feed each. */
	oneFeeder?: boolean;
	/** Every part of a number stands the same way round. */
	oneAngle?: boolean;
}

/** Sixty designators of six part numbers by four nozzles, dealt so that no two always go together. */
function board(seed: number, { panels = 5, circuits = 2, off = () => [0, 0], gross = 0, oneFeeder, oneAngle }: Said = {}): PlacedOffset[] {
	const random = seededRandom(seed);
	const rows: PlacedOffset[] = [];
	for (let panel = 0; panel < panels; panel++)
		for (let circuit = 0; circuit < circuits; circuit++)
			for (let i = 0; i < 60; i++) {
				const part = i % 6;
				const turn = oneAngle ? 0 : [0, 90, 180, 270][Math.floor(i / 6) % 4]!;
				const row: PlacedOffset = {
					panel: `P${panel}`,
					circuit,
					refDes: `R${i + 1}`,
					partNumber: `part ${part}`,
					feeder: String(10 + (oneFeeder ? part : part * 2 + (Math.floor(i / 12) % 2))),
					nozzle: `N${((i * 7 + Math.floor(i / 4) + circuit) % 4) + 1}`,
					angleDeg: (turn + 180 * circuit) % 360,
					circuitDeg: 180 * circuit,
					xMm: circuit * 80 + (i % 10) * 7,
					yMm: Math.floor(i / 10) * 11,
					dxUm: 0,
					dyUm: 0
				};
				const [dx, dy] = off(row, panel);
				const far = random.chance(gross);
				const at = () => (far ? 400 * (random.uniform() - 0.5) : SIGMA * random.normal());
				rows.push({ ...row, dxUm: dx + at(), dyUm: dy + at() });
			}
	return rows;
}

const first = (rows: PlacedOffset[]) => {
	const [cause] = offsetCauses(rows).causes;
	return cause ? `${cause.level} ${cause.name}` : 'none';
};

describe('what offsets have in common', () => {
	test('the spread of a designator is found whatever lies on top of it', () => {
		const still = offsetCauses(board(1, { panels: 12 }));
		expect(still.sigmaUm).toBeGreaterThan(0.9 * SIGMA);
		expect(still.sigmaUm).toBeLessThan(1.1 * SIGMA);
		const moved = offsetCauses(board(1, { panels: 12, off: (row) => (row.nozzle === 'N2' ? [80, 0] : [0, 0]) }));
		expect(moved.sigmaUm).toBeCloseTo(still.sigmaUm, 9);
		expect(still.causes).toEqual([]);
		expect(still).toMatchObject({ rows: 12 * 2 * 60, panels: 12 });
	});

	test.each<[string, Said]>([
		['program all', { off: () => [30, -10] }],
		['circuit 2', { off: (row) => (row.circuit === 1 ? [0, 40] : [0, 0]) }],
		['nozzle N3', { off: (row) => (row.nozzle === 'N3' ? [30, 10] : [0, 0]) }],
		['feeder 14', { off: (row) => (row.feeder === '14' ? [-35, 0] : [0, 0]) }],
		['ref R17', { off: (row) => (row.refDes === 'R17' ? (row.circuit === 0 ? [0, 60] : [0, -60]) : [0, 0]) }]
	])('%s is named, not what shares some of its rows', (name, said) => {
		for (let seed = 1; seed <= 10; seed++) expect(first(board(seed, said))).toBe(name);
	});

	test('an error of the part turns with the part: its offset is the same in the frame of the part only', () => {
		const off = ({ partNumber, angleDeg }: PlacedOffset): [number, number] => {
			const a = (angleDeg * Math.PI) / 180;
			return partNumber === 'part 4' ? [40 * Math.cos(a), 40 * Math.sin(a)] : [0, 0];
		};
		const [cause] = offsetCauses(board(3, { off, panels: 8 })).causes;
		expect(cause).toMatchObject({ level: 'part', name: 'part 4', tied: [] });
		expect(Math.abs(cause!.dxUm - 40)).toBeLessThan(6);
		expect(Math.abs(cause!.dyUm)).toBeLessThan(6);
		expect(cause!.trim!.x.correctionUm).toBeCloseTo(-cause!.dxUm, 9);
		expect(cause!.trim!.y.correctionUm).toBe(0);
	});

	test('one part on one feeder at one angle: either may be it, and both are named', () => {
		const off = (row: PlacedOffset): [number, number] => (row.partNumber === 'part 2' ? [50, 0] : [0, 0]);
		const [cause] = offsetCauses(board(4, { oneFeeder: true, oneAngle: true, circuits: 1, off })).causes;
		expect(cause).toMatchObject({ level: 'feeder', name: '12', tied: [{ level: 'part', name: 'part 2' }] });
		const [turned] = offsetCauses(board(4, { oneFeeder: true, circuits: 2, off })).causes;
		expect(turned).toMatchObject({ level: 'feeder', name: '12', tied: [] });
	});

	test('panels that sit off each for itself, turned too, are the board: nothing is trimmed for it', () => {
		const shift = [60, -50, 20, -70, 40, -10];
		const off = ({ xMm, yMm }: PlacedOffset, panel: number): [number, number] => {
			const turn = panel % 2 ? 0.5 : -0.5;
			return [shift[panel]! - turn * yMm, turn * xMm];
		};
		const rows = board(5, { panels: 6, off });
		const { causes } = offsetCauses(rows);
		expect(causes.map(({ level, name }) => `${level} ${name}`)).toEqual(['board panels']);
		expect(causes[0]).toMatchObject({ trim: null, dxUm: 0, dyUm: 0, panels: 6, rows: 720 });
		const put = rows.map((row) => off(row, Number(row.panel.slice(1))));
		const [mx, my] = [0, 1].map((axis) => put.reduce((sum, o) => sum + o[axis]!, 0) / put.length);
		const spread = Math.sqrt(put.reduce((sum, [x, y]) => sum + (x - mx!) ** 2 + (y - my!) ** 2, 0) / put.length);
		expect(Math.abs(causes[0]!.sizeUm - spread)).toBeLessThan(2);
	});

	test('two causes are told one after the other, the second from what the first leaves', () => {
		const off = (row: PlacedOffset): [number, number] => [row.nozzle === 'N1' ? 45 : 0, row.feeder === '19' ? 60 : 0];
		const { causes } = offsetCauses(board(6, { panels: 8, off }));
		expect(causes.map(({ level, name }) => `${level} ${name}`).sort()).toEqual(['feeder 19', 'nozzle N1']);
		const feeder = causes.find((c) => c.level === 'feeder')!;
		expect(Math.abs(feeder.dxUm)).toBeLessThan(10);
		expect(Math.abs(feeder.dyUm - 60)).toBeLessThan(10);
	});

	test('on noise with gross errors nothing is named, in nineteen of twenty boards or more', () => {
		let named = 0;
		for (let seed = 1; seed <= 60; seed++) if (first(board(seed, { gross: 0.03 })) !== 'none') named++;
		expect(named).toBeLessThanOrEqual(3);
	});

	test('an offset of 15 µm is worth naming, a smaller one is not, however sure', () => {
		const of = (size: number) => offsetCauses(board(7, { panels: 60, off: () => [size, 0] }));
		expect(of(14).causes).toEqual([]);
		expect(of(14).median.dxUm).toBeGreaterThan(12);
		expect(of(17).causes.map((c) => c.level)).toEqual(['program']);
	});

	test('from two panels nothing is said; from three it is', () => {
		const off = (): [number, number] => [60, 0];
		expect(offsetCauses(board(8, { panels: 2, off })).causes).toEqual([]);
		expect(offsetCauses(board(8, { panels: 3, off })).causes).toHaveLength(1);
		expect(offsetCauses([])).toMatchObject({ rows: 0, panels: 0, causes: [] });
	});

	test('seven rows are too few for a cause, eight are enough', () => {
		const rows = board(9, { panels: 8, circuits: 1, off: (row) => (row.refDes === 'R5' ? [120, 0] : [0, 0]) });
		expect(first(rows)).toBe('ref R5');
		expect(first(rows.filter((row) => row.refDes !== 'R5' || row.panel !== 'P0'))).toBe('none');
	});

	test('what nobody knows of a row is no cause; what is no number is refused by its row', () => {
		const rows = board(10, { off: (row) => (row.nozzle === 'N2' ? [50, 0] : [0, 0]) });
		expect(first(rows)).toBe('nozzle N2');
		const unknown = rows.map((row) => ({ ...row, nozzle: null }));
		expect(first(unknown)).not.toMatch(/^nozzle/);
		expect(() => offsetCauses([{ ...rows[0]!, dyUm: NaN }])).toThrow(/rows\.0\.dyUm/);
	});
});
