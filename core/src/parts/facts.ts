import { InputError } from '../judgement/index.ts';
import { readPackage, type PackageRecord } from './package.ts';

/** What is kept of a package, with unit and usual range for a typed value. */
export const PACKAGE_FIELDS = {
	lengthMm: { words: 'Body length', unit: 'mm', min: 0.1, max: 150 },
	widthMm: { words: 'Body width', unit: 'mm', min: 0.1, max: 150 },
	heightMm: { words: 'Body height', unit: 'mm', min: 0.05, max: 60 },
	massG: { words: 'Mass', unit: 'g', min: 0.00001, max: 200 },
	leads: { words: 'Leads or balls', unit: '', min: 1, max: 3000 },
	pitchMm: { words: 'Pitch', unit: 'mm', min: 0.2, max: 10 },
	padSpanMm: { words: 'Land pattern, outer span', unit: 'mm', min: 0.2, max: 160 },
	pinOneDeg: { words: 'Pin 1 at 0°, direction from the middle, counter-clockwise from the right', unit: '°', min: 0, max: 360 },
	classificationC: { words: 'Classification temperature, lead-free', unit: '°C', min: 180, max: 300 }
} as const;
export type PackageField = keyof typeof PACKAGE_FIELDS;

/** A value that somebody entered, with where it comes from. */
export interface EnteredFact {
	value: number | null;
	source: string;
}
export type EnteredFacts = Partial<Record<PackageField, EnteredFact>>;

export interface PackageFactRow {
	field: PackageField;
	value: number | null;
	/** "unknown" where nobody said and nothing tells. */
	source: string;
	entered: boolean;
}

/** Checks a value before it is kept.
 * @throws {InputError} `out-of-range`; `empty` where no source is named
 */
export function checkFact(field: PackageField, value: number | null, source: string): void {
	const { min, max, unit } = PACKAGE_FIELDS[field];
	if (source.trim() === '')
		throw new InputError('empty', `${field}.source`, 'where the value comes from, for example the maker’s data sheet', source);
	if (value !== null && !(value >= min && value <= max))
		throw new InputError('out-of-range', field, `${min} to ${max} ${unit}`.trim(), value);
}

/** Classification temperature of a lead-free body from its thickness and volume, °C.
 * @see J-STD-020 table 4-2, value from memory; a maker's label outranks it
 * @example classificationC(1.0, 400) // => 260
 */
export function classificationC(heightMm: number, volumeMm3: number): number {
	const column = volumeMm3 < 350 ? 0 : volumeMm3 <= 2000 ? 1 : 2;
	const row = heightMm < 1.6 ? [260, 260, 260] : heightMm <= 2.5 ? [260, 250, 245] : [250, 245, 245];
	return row[column]!;
}

/** Everything known of a package: what was entered first, else what its name gives, else "unknown".
 * @param padSpanMm outer span of the openings under such parts, where a board has shown it
 */
export function packageSheet(name: string, entered: EnteredFacts = {}, padSpanMm: number | null = null): PackageFactRow[] {
	const named = readPackage(name);
	const body = withFacts(named, entered);
	const leads = /-(\d+)[A-Z]?$/.exec(name.trim().toUpperCase())?.[1] ?? /BGA(\d+)/.exec(name.toUpperCase())?.[1];
	const two = named.kind === 'chip' || named.kind === 'magnetic';
	const known: Record<PackageField, [number | null, string]> = {
		lengthMm: [named.lengthMm, named.source],
		widthMm: [named.widthMm, named.source],
		heightMm: [named.heightMm, named.source],
		massG: [named.massG, 'body volume times a mean density by kind: an estimate'],
		leads: [leads ? Number(leads) : two ? 2 : null, leads ? named.source : 'two-ended part'],
		pitchMm: [named.pitchMm, named.source],
		padSpanMm: [padSpanMm, 'measured on the paste layer of a board'],
		pinOneDeg: [null, 'unknown until it is confirmed from the maker’s drawing'],
		classificationC: [
			body.heightMm && body.lengthMm && body.widthMm && !two
				? classificationC(body.heightMm, body.lengthMm * body.widthMm * body.heightMm)
				: null,
			'J-STD-020 table by thickness and volume (value from memory)'
		]
	};
	return (Object.keys(PACKAGE_FIELDS) as PackageField[]).map((field) => {
		const own = entered[field];
		if (own) return { field, value: own.value, source: own.source, entered: true };
		const [value, source] = known[field];
		return { field, value, source: value === null ? 'unknown' : source, entered: false };
	});
}

/** A record with what was entered laid over what its name says. */
export function withFacts(record: PackageRecord, entered: EnteredFacts): PackageRecord {
	const pick = (field: 'lengthMm' | 'widthMm' | 'heightMm' | 'massG' | 'pitchMm') => entered[field]?.value ?? record[field];
	const sources = Object.values(entered).map((fact) => fact.source);
	return {
		...record,
		lengthMm: pick('lengthMm'),
		widthMm: pick('widthMm'),
		heightMm: pick('heightMm'),
		massG: pick('massG'),
		pitchMm: pick('pitchMm'),
		source: sources.length ? [...new Set([...sources, record.source])].join('; ') : record.source
	};
}

/** How packages are read: by name alone, or with what a plant has entered. */
export type PackageReader = (name: string) => PackageRecord;
