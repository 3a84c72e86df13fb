import { findHeader, headerDelimiter, openQuote, plainTitle, splitTable } from '../tables/index.ts';
import { instantOf, isDate } from '../units/index.ts';

/** What a file of results means: its columns by their titles, and its words. */
export interface VisitMapping {
	/** Line and station as they are entered in the plant. */
	source: string;
	/** What the station says: a message of visits, such as "optical_inspection" or "bench_inspection". */
	type: string;
	columns: {
		panel: string;
		result: string;
		/** When the inspection ended. */
		at: string;
		circuit?: string;
		startedAt?: string;
		attempt?: string;
		/** A row with a part is a call on it. */
		refDes?: string;
		pin?: string;
		code?: string;
		measured?: string;
	};
	/** Number of the first circuit in the file; 1 where it says none. */
	firstCircuit?: number;
	/** Words of the result column. */
	pass: readonly string[];
	fail: readonly string[];
	/** Zone of times without one. */
	timeZone: string;
	/** How 03/04/2026 is read; needed only where the file writes dates so. */
	dateOrder?: 'day-first' | 'month-first';
}

export interface VisitOfFile {
	source: string;
	type: string;
	at: string;
	startedAt: string;
	panel: string;
	circuit: number;
	attempt: number;
	result: 'pass' | 'fail';
	calls: { refDes: string; pin: string | null; code: string; measured: string | null }[];
}

export interface RefusedRow {
	/** Line of the file, the first is 1. */
	line: number;
	reason: string;
}

/** Of the titles in the first line. */
const delimiterOf = (text: string) => headerDelimiter(text.split(/\r\n|\r|\n/, 1)[0] ?? '');

const sameWord = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();

/** ISO time of what a file writes: with its zone, or by the mapping's. null where it cannot be read, or in two ways.
 * @example readMoment('27/11/2026 14:03', { timeZone: 'UTC', dateOrder: 'day-first' }) // => '2026-11-27T14:03:00.000Z'
 */
export function readMoment(text: string, { timeZone, dateOrder }: Pick<VisitMapping, 'timeZone' | 'dateOrder'>): string | null {
	const said = text.trim();
	if (/^\d{4}-\d\d-\d\dT[\d:.]+(Z|[+-]\d\d:?\d\d)$/.test(said)) {
		const ms = Date.parse(said);
		return Number.isNaN(ms) ? null : new Date(ms).toISOString();
	}
	const m = /^(\d{1,4})([-./])(\d{1,2})\2(\d{1,4})[ T]+(\d{1,2}):(\d\d)(?::(\d\d)(?:[.,]\d+)?)?$/.exec(said);
	if (!m) return null;
	const [, a, sign, b, c, hour, minute, second = '00'] = m as unknown as string[];
	const yearFirst = a!.length === 4;
	if (!yearFirst && c!.length !== 4) return null;
	// A point stands between day and month in that order everywhere; a slash does not say.
	const order = sign === '.' ? 'day-first' : dateOrder;
	if (!yearFirst && !order) return null;
	const [year, month, day] = yearFirst ? [a!, b!, c!] : order === 'day-first' ? [c!, b!, a!] : [c!, a!, b!];
	const date = `${year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`;
	if (!isDate(date) || Number(hour) > 23 || Number(minute) > 59 || Number(second) > 59) return null;
	return new Date(instantOf(date, `${hour!.padStart(2, '0')}:${minute}`, timeZone) + Number(second) * 1000).toISOString();
}

/** Messages of a result file: rows of one panel, circuit and time are one visit, those with a part are its calls. Rows that cannot be read are named, the others go on.
 * @param text the whole file
 */
export function visitsOf(text: string, mapping: VisitMapping): { visits: VisitOfFile[]; refused: RefusedRow[] } {
	const torn = openQuote(text, delimiterOf(text));
	if (torn) return { visits: [], refused: [{ line: torn.line ?? 1, reason: torn.message }] };
	const wanted = mapping.columns;
	const roles = Object.keys(wanted) as (keyof VisitMapping['columns'])[];
	const rolesOf = (titles: readonly string[]) => {
		const plain = titles.map(plainTitle);
		const found: Partial<Record<(typeof roles)[number], number>> = {};
		for (const role of roles) {
			const at = plain.indexOf(plainTitle(wanted[role]!));
			if (at >= 0) found[role] = at;
		}
		return found;
	};
	const header = findHeader(text, rolesOf, roles);
	if (!header)
		return { visits: [], refused: [{ line: 1, reason: `no line has the titles ${roles.map((role) => `“${wanted[role]}”`).join(', ')}` }] };
	const visits = new Map<string, VisitOfFile>();
	const refused: RefusedRow[] = [];
	for (const { line, cells } of header.rows.slice(header.headerAt + 1)) {
		if (cells.every((cell) => cell.trim() === '')) continue;
		const cell = (role: (typeof roles)[number]) => (header.columns[role] === undefined ? '' : (cells[header.columns[role]!] ?? '').trim());
		const no = (reason: string) => void refused.push({ line, reason });
		const word = cell('result');
		const result = mapping.pass.some((p) => sameWord(p, word)) ? 'pass' : mapping.fail.some((f) => sameWord(f, word)) ? 'fail' : null;
		const at = readMoment(cell('at'), mapping);
		const startedAt = cell('startedAt') ? readMoment(cell('startedAt'), mapping) : at;
		const circuit = cell('circuit') === '' ? 0 : Number(cell('circuit')) - (mapping.firstCircuit ?? 1);
		const attempt = cell('attempt') === '' ? 1 : Number(cell('attempt'));
		const panel = cell('panel');
		if (panel === '') no('no panel');
		else if (result === null) no(`result “${word}” is neither one of ${mapping.pass.join(', ')} nor of ${mapping.fail.join(', ')}`);
		else if (at === null || startedAt === null)
			no(`time “${at === null ? cell('at') : cell('startedAt')}” cannot be read: is it day or month first?`);
		else if (!Number.isInteger(circuit) || circuit < 0)
			no(`circuit “${cell('circuit')}” is none, the first is ${mapping.firstCircuit ?? 1}`);
		else if (!Number.isInteger(attempt) || attempt < 1) no(`attempt “${cell('attempt')}” is no whole number from 1`);
		else {
			const key = `${panel}\n${circuit}\n${attempt}\n${at}`;
			const visit = visits.get(key) ?? {
				source: mapping.source,
				type: mapping.type,
				at,
				startedAt,
				panel,
				circuit,
				attempt,
				result,
				calls: []
			};
			visits.set(key, visit);
			if (visit.result !== result) {
				no(`panel ${panel} passed and failed at the same time`);
				continue;
			}
			if (cell('refDes'))
				visit.calls.push({
					refDes: cell('refDes'),
					pin: cell('pin') || null,
					code: cell('code') || 'not said',
					measured: cell('measured') || null
				});
		}
	}
	return { visits: [...visits.values()], refused };
}

type Column = keyof VisitMapping['columns'];

/** Words by which a title is taken for a column, the surest first. */
const TITLES: readonly (readonly [Column, RegExp])[] = [
	['startedAt', /^(start|begin|began|test start)/],
	['panel', /serial|panel|barcode|board ?id/],
	['circuit', /circuit|position|image|multi ?board|sub ?board|cavity/],
	['attempt', /attempt|try|pass ?no|run ?no|repeat/],
	['result', /result|status|verdict|judg|outcome|pass ?\/? ?fail/],
	['at', /finish|end|time|date|stamp/],
	['refDes', /ref|designator|part|component|device|location|place/],
	['pin', /pin|lead|pad|joint/],
	['code', /defect|fault|code|reason|error|what is wrong/],
	['measured', /measured|value|reading/]
];
const PASS = /^(ok|pass(ed)?|good|p|true|1|yes)$/i;
const FAIL = /^(ng|fail(ed)?|bad|f|false|0|no|reject(ed)?|nok)$/i;
/** Rows that are looked at for words and dates. */
const LOOKED = 5000;

/** What a file of results says of itself before anybody said what it means. */
export interface VisitTableLook {
	titles: string[];
	/** The first rows below the titles. */
	rows: string[][];
	columns: Partial<Record<Column, string>>;
	/** Words of the result column, and what they are taken for; null where nobody can know. */
	words: { word: string; means: 'pass' | 'fail' | null }[];
	/** Whether its dates need to be told which comes first; null where they say it themselves, or write the year first or points. */
	dateOrder: 'day-first' | 'month-first' | 'ask' | null;
	/** Why it is no table at all. */
	problem: string | null;
}

/** Looks at a file of results: titles, words and dates; what it does not decide is asked.
 * @param columns as somebody has chosen them; else by the titles
 */
export function lookAtVisits(text: string, columns?: Partial<Record<Column, string>>): VisitTableLook {
	const delimiter = delimiterOf(text);
	const torn = openQuote(text, delimiter);
	if (torn) return { titles: [], rows: [], columns: {}, words: [], dateOrder: null, problem: torn.message };
	const [titles = [], ...all] = splitTable(text, delimiter).map(({ cells }) => cells.map((cell) => cell.trim()));
	const rows = all.filter((cells) => cells.some((cell) => cell !== ''));
	const found: Partial<Record<Column, string>> = { ...columns };
	if (!columns) {
		const left = titles.filter((title) => title !== '');
		for (const [column, looks] of TITLES) {
			const at = left.findIndex((title) => looks.test(plainTitle(title)));
			if (at >= 0) found[column] = left.splice(at, 1)[0]!;
		}
	}
	const cellsOf = (column: Column) => {
		const at = found[column] === undefined ? -1 : titles.indexOf(found[column]);
		return at < 0 ? [] : rows.slice(0, LOOKED).map((cells) => cells[at] ?? '');
	};
	const words = [...new Set(cellsOf('result').filter((word) => word !== ''))].slice(0, 20);
	return {
		titles,
		rows: rows.slice(0, 5),
		columns: found,
		words: words.map((word) => ({ word, means: PASS.test(word) ? 'pass' : FAIL.test(word) ? 'fail' : null })),
		dateOrder: dateOrderOf([...cellsOf('at'), ...cellsOf('startedAt')]),
		problem: null
	};
}

/** Which of day and month stands first in dates with slashes or dashes: a number over 12 says it.
 * @example dateOrderOf(['03/04/2026 10:00', '27/04/2026 10:00']) // => 'day-first'
 */
export function dateOrderOf(cells: readonly string[]): VisitTableLook['dateOrder'] {
	let open = false;
	let dayFirst = false;
	let monthFirst = false;
	for (const cell of cells) {
		const m = /^(\d{1,2})[-/](\d{1,2})[-/]\d{4}\b/.exec(cell.trim());
		if (!m) continue;
		open = true;
		if (Number(m[1]) > 12) dayFirst = true;
		if (Number(m[2]) > 12) monthFirst = true;
	}
	if (!open) return null;
	if (dayFirst === monthFirst) return 'ask';
	return dayFirst ? 'day-first' : 'month-first';
}
