export type PackageKind = 'chip' | 'leaded' | 'noLead' | 'ballGrid' | 'magnetic' | 'connector' | 'unknown';

export interface PackageRecord {
	name: string;
	kind: PackageKind;
	/** Body, mm; null where nobody said. */
	lengthMm: number | null;
	widthMm: number | null;
	heightMm: number | null;
	pitchMm: number | null;
	/** Imperial chip code, for the classes that go by it. */
	chip: string | null;
	/** Estimated from body volume and a density by kind, g; null where the body is unknown. */
	massG: number | null;
	/** Where these values come from. */
	source: string;
}

/** Imperial chip code -> metric code, length and width, mm.
 * @see EIA chip sizes, common practice
 */
const CHIPS: Record<string, { metric: string; l: number; w: number; h: number }> = {
	'008004': { metric: '0201', l: 0.25, w: 0.125, h: 0.125 },
	'01005': { metric: '0402', l: 0.4, w: 0.2, h: 0.2 },
	'0201': { metric: '0603', l: 0.6, w: 0.3, h: 0.3 },
	'0402': { metric: '1005', l: 1.0, w: 0.5, h: 0.5 },
	'0603': { metric: '1608', l: 1.6, w: 0.8, h: 0.8 },
	'0805': { metric: '2012', l: 2.0, w: 1.25, h: 0.9 },
	'1008': { metric: '2520', l: 2.5, w: 2.0, h: 1.8 },
	'1206': { metric: '3216', l: 3.2, w: 1.6, h: 1.1 },
	'1210': { metric: '3225', l: 3.2, w: 2.5, h: 2.0 },
	'1812': { metric: '4532', l: 4.5, w: 3.2, h: 2.3 },
	'2010': { metric: '5025', l: 5.0, w: 2.5, h: 0.6 },
	'2512': { metric: '6332', l: 6.3, w: 3.2, h: 0.6 }
};

/** Mean densities of whole bodies, g/cm³: ceramics heavier than moulded leads; common practice, an estimate. */
const DENSITY: Record<PackageKind, number> = {
	chip: 4,
	leaded: 2,
	noLead: 2.2,
	ballGrid: 2,
	magnetic: 4.5,
	connector: 1.6,
	unknown: 2
};

const chipByMetric = new Map(Object.entries(CHIPS).map(([imperial, chip]) => [chip.metric, imperial]));

function record(
	name: string,
	kind: PackageKind,
	l: number | null,
	w: number | null,
	h: number | null,
	pitchMm: number | null,
	source: string,
	chip: string | null = null
): PackageRecord {
	const massG = l && w && h ? (l * w * h * DENSITY[kind]) / 1000 : null;
	return { name, kind, lengthMm: l, widthMm: w, heightMm: h, pitchMm, chip, massG, source };
}

/** What a package name says about the body.
 * Names by land-pattern convention (CAPC1005X55N, QFN50P400X400X80-25) are metric; a bare code that exists in both systems
 * (0201, 0402, 0603) is read as imperial, and the source says so.
 * @see IPC-7351 naming (value from memory); EIA chip sizes (common practice)
 * @example readPackage('RESC1005X40N').chip // => '0402'
 */
export function readPackage(name: string): PackageRecord {
	const text = name.trim().toUpperCase();
	if (text === '') return record(name, 'unknown', null, null, null, null, 'no package given');
	const ipcChip = /^(RES|CAP|IND|LED|DIO|FB)[A-Z]?C?(\d{4})X(\d+)/.exec(text) ?? /^(RES|CAP|IND|LED|DIO|FB)C(\d{4})/.exec(text);
	if (ipcChip) {
		const imperial = chipByMetric.get(ipcChip[2]!);
		const chip = imperial ? CHIPS[imperial] : undefined;
		const l = chip?.l ?? Number(ipcChip[2]!.slice(0, 2)) / 10;
		const w = chip?.w ?? Number(ipcChip[2]!.slice(2)) / 10;
		const h = ipcChip[3] ? Number(ipcChip[3]) / 100 : (chip?.h ?? w);
		const kind = ipcChip[1] === 'IND' && l > 2 ? 'magnetic' : 'chip';
		return record(name, kind, l, w, h, null, 'land-pattern name, metric (IPC-7351, value from memory)', imperial ?? null);
	}
	const molded = /^(IND|CAP|DIO)M(\d{4,6})X(\d+)/.exec(text);
	if (molded) {
		const digits = molded[2]!;
		const half = digits.length / 2;
		const [l, w] = [Number(digits.slice(0, half)) / 10, Number(digits.slice(half)) / 10];
		const kind = molded[1] === 'IND' ? 'magnetic' : 'chip';
		return record(name, kind, l, w, Number(molded[3]) / 100, null, 'land-pattern name (IPC-7351, value from memory)');
	}
	const grid = /BGA\d*C(\d+)P\d*X?\d*_(\d+)X(\d+)X(\d+)/.exec(text) ?? /BGA\d*C(\d+)P(\d+)X(\d+)X(\d+)/.exec(text);
	if (grid)
		return record(
			name,
			'ballGrid',
			Number(grid[2]) / 100,
			Number(grid[3]) / 100,
			Number(grid[4]) / 100,
			Number(grid[1]) / 100,
			'land-pattern name (IPC-7351, value from memory)'
		);
	const leads = /^(QFN|DFN|SON|PQFN|QFP|TQFP|LQFP|SOIC|SOP|TSSOP|SSOP|SOT|SOJ)(\d+)P(\d+)X(\d+)(?:X(\d+))?(?:-(\d+))?/.exec(text);
	if (leads) {
		const kind = /QFN|DFN|SON/.test(leads[1]!) ? 'noLead' : 'leaded';
		const pitchMm = Number(leads[2]) / 100;
		// Two sizes are lead span and height, three are length, width and height; the row of leads then gives the length.
		const row = pitchMm * Math.max(1, Number(leads[6] ?? 8) / 2);
		const [l, w, h] = leads[5] ? [leads[3], leads[4], leads[5]] : [row * 100, leads[3], leads[4]];
		return record(
			name,
			kind,
			Number(l) / 100,
			Number(w) / 100,
			Number(h) / 100,
			pitchMm,
			'land-pattern name (IPC-7351, value from memory)'
		);
	}
	const sized = /^(CONN|HDR|TERM|SW|OSC|CAPE)\w*?_(\d+(?:\.\d+)?)X(\d+(?:\.\d+)?)X(\d+(?:\.\d+)?)/.exec(text);
	if (sized) {
		const kind = { OSC: 'noLead', CAPE: 'leaded' }[sized[1]!] as PackageKind | undefined;
		return record(name, kind ?? 'connector', Number(sized[2]), Number(sized[3]), Number(sized[4]), null, 'sizes in the package name, mm');
	}
	const metric = /(\d{4})\s*(M|METRIC)/.exec(text);
	const metricChip = metric ? chipByMetric.get(metric[1]!) : undefined;
	if (metricChip) {
		const chip = CHIPS[metricChip]!;
		return record(name, 'chip', chip.l, chip.w, chip.h, null, 'chip code marked metric', metricChip);
	}
	// 1608 and the like exist in the metric system only.
	const onlyMetric = /(?:^|[^0-9])(1005|1608|2012|2520|3216|3225|4532|5025|6332)(?:$|[^0-9])/.exec(text);
	if (onlyMetric) {
		const imperial = chipByMetric.get(onlyMetric[1]!)!;
		const chip = CHIPS[imperial]!;
		return record(name, 'chip', chip.l, chip.w, chip.h, null, 'chip code that is metric only', imperial);
	}
	const code = /(?:^|[^0-9])(008004|01005|0201|0402|0603|0805|1008|1206|1210|1812|2010|2512)(?:$|[^0-9])/.exec(text);
	if (code) {
		const chip = CHIPS[code[1]!]!;
		const both = chipByMetric.has(code[1]!);
		return record(
			name,
			'chip',
			chip.l,
			chip.w,
			chip.h,
			null,
			both ? 'chip code, taken as imperial: it exists in both systems' : 'imperial chip code',
			code[1]!
		);
	}
	const sot = /SOT-?(23|223|323|363)/.exec(text);
	if (sot) {
		const size = { '23': [2.9, 1.3, 1.1, 0.95], '223': [6.5, 3.5, 1.6, 2.3], '323': [2, 1.25, 0.95, 0.65], '363': [2, 1.25, 0.95, 0.65] }[
			sot[1]!
		]!;
		return record(name, 'leaded', size[0]!, size[1]!, size[2]!, size[3]!, 'usual outline, common practice');
	}
	return record(name, 'unknown', null, null, null, null, 'name not understood');
}

export const PAD_CLASSES = ['fineBallGrid', 'smallChip', 'chip', 'fineLead', 'thermal', 'large'] as const;
export type PadClass = (typeof PAD_CLASSES)[number];

/** The class whose paste limits a deposit goes by.
 * @param lengthMm length of the opening: several openings of a no-lead body that are long both ways are its thermal windows
 */
export function padClass(body: PackageRecord, widthMm: number): PadClass {
	if (body.kind === 'ballGrid') return (body.pitchMm ?? 1) <= 0.5 ? 'fineBallGrid' : 'large';
	if (body.kind === 'chip' && (body.lengthMm ?? 9) <= 0.65) return 'smallChip';
	if (body.kind === 'chip') return 'chip';
	if (body.kind === 'noLead' && widthMm >= 0.6) return 'thermal';
	if ((body.kind === 'leaded' || body.kind === 'noLead') && (body.pitchMm ?? 9) <= 0.5) return 'fineLead';
	return 'large';
}

export const PAD_CLASS_NAMES: Record<PadClass, string> = {
	fineBallGrid: 'ball grid, pitch to 0.5 mm',
	smallChip: 'chip to 0201',
	chip: 'chip from 0402',
	fineLead: 'leads, pitch to 0.5 mm',
	thermal: 'thermal windows',
	large: 'leads and connectors'
};
