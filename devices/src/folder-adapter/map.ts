import { instantOf } from '@keen-relay/core/units';
import { findHeader, plainTitle } from '@keen-relay/core/tables';

/** What a machine's result file means: its columns by their titles, and its words. All of it stands in one JSON file beside the program. */
export interface FileMapping {
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

export interface VisitMessage {
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

export interface Refused {
	/** Line of the file, the first is 1. */
	line: number;
	reason: string;
}

const sameWord = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();

/** ISO time of what a file writes: with its zone, or by the mapping's. null where it cannot be read, or in two ways.
 * @example readMoment('27/11/2026 14:03', { timeZone: 'UTC', dateOrder: 'day-first' }) // => '2026-11-27T14:03:00.000Z'
 */
export function readMoment(text: string, { timeZone, dateOrder }: Pick<FileMapping, 'timeZone' | 'dateOrder'>): string | null {
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
	const real = new Date(`${date}T00:00:00Z`);
	if (
		Number.isNaN(real.getTime()) ||
		real.toISOString().slice(0, 10) !== date ||
		Number(hour) > 23 ||
		Number(minute) > 59 ||
		Number(second) > 59
	)
		return null;
	return new Date(instantOf(date, `${hour!.padStart(2, '0')}:${minute}`, timeZone) + Number(second) * 1000).toISOString();
}

/** Messages of a result file: rows of one panel, circuit and time are one visit, those with a part are its calls. Rows that cannot be read are named, the others go on.
 * @param text the whole file
 */
export function visitsOf(text: string, mapping: FileMapping): { visits: VisitMessage[]; refused: Refused[] } {
	const wanted = mapping.columns;
	const roles = Object.keys(wanted) as (keyof FileMapping['columns'])[];
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
	const visits = new Map<string, VisitMessage>();
	const refused: Refused[] = [];
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
