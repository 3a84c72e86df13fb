import { type Issue, quoteValue } from '../judgement/index.ts';
import {
	askDecimal,
	DecimalEvidence,
	headerDelimiter,
	openQuote,
	readNumber,
	splitTable,
	tornRow,
	type DecimalSign
} from '../tables/index.ts';
import { profileMetrics, type ProfileMetrics } from './metrics.ts';
import { RAMP_WINDOW_S } from './judge.ts';
import type { Curve } from './predict.ts';
import type { PasteWindow } from './window.ts';

/** What a profiler recorded: one time axis, a temperature for each thermocouple. */
export interface ProfileLog {
	timeS: number[];
	channels: { name: string; tempC: number[] }[];
}

const TIME_TITLE = /^\W*(time|elapsed|sec|t\b|zeit)/i;

/** Reads a thermocouple log: a header with a time column and one column a channel, CSV with any usual delimiter and decimal sign.
 * Temperatures in °F are turned to °C where the header says so; a clock time (hh:mm:ss) counts from its first row.
 * A row with a cell that is no number is left out and reported with its line; a channel that is open (above 1000 or empty) ends there.
 * @param decimal the decimal sign that a person chose, where the file can be read both ways
 * @returns the log, null where there is none to read, and every issue with line, field and value
 */
export function readProfileLog(text: string, decimal: DecimalSign | null = null): { log: ProfileLog | null; issues: Issue[] } {
	const issues: Issue[] = [];
	const problem = (line: number, field: string, value: string, message: string, severity: Issue['severity'] = 'error') =>
		issues.push({ severity, code: 'bad_log', line, field, value: quoteValue(value), message });
	const titles = text.split(/\r\n|\r|\n/).find((raw) => TIME_TITLE.test(raw)) ?? '';
	const delimiter = headerDelimiter(titles);
	const open = openQuote(text, delimiter);
	if (open) return { log: null, issues: [open] };
	const rows = splitTable(text, delimiter).filter((row) => row.cells.some((cell) => cell.trim() !== ''));
	const at = rows.findIndex((row) => row.cells.length >= 2 && TIME_TITLE.test(row.cells[0] ?? ''));
	const header = rows[at];
	if (!header) {
		const first = rows[0]?.cells.join(', ') ?? '';
		problem(1, 'header', first, 'No header line was found. The first column is the time, for example "Time (s),TC1 (°C),TC2 (°C)".');
		return { log: null, issues };
	}
	const data = rows.slice(at + 1);
	const evidence = new DecimalEvidence();
	for (const row of data) row.cells.forEach((cell, i) => evidence.add(header.cells[i] ?? '', cell, row.line));
	const decided = decimal ? { sign: decimal, ask: null } : evidence.decide(headerDelimiter(titles));
	if (decided.ask) {
		issues.push({ severity: 'error', code: 'decimal_sign', ...askDecimal(decided.ask) });
		return { log: null, issues };
	}
	const sign = decided.sign;
	const names = header.cells.slice(1).map((title, i) => title.replace(/[([].*[)\]]/, '').trim() || `TC${i + 1}`);
	const fahrenheit = header.cells.slice(1).map((title) => /°\s*F|\(F\)|\[F\]|fahrenheit/i.test(title));
	const minutes = /min/i.test(header.cells[0]!);
	const log: ProfileLog = { timeS: [], channels: names.map((name) => ({ name, tempC: [] })) };
	let origin: number | null = null;
	for (const row of data) {
		const torn = tornRow(row.cells, header.cells.length);
		if (torn) {
			problem(row.line, 'row', row.cells.join(' '), `Line ${row.line}: ${torn}; the row is left out.`, 'warning');
			continue;
		}
		const time = timeOf(row.cells[0] ?? '', sign, minutes);
		const temps = names.map((_, i) => readNumber((row.cells[i + 1] ?? '').trim(), sign));
		const bad = time === null ? 0 : temps.findIndex((temp) => temp === null) + 1;
		if (time === null || bad > 0) {
			const field = header.cells[bad] ?? 'time';
			problem(
				row.line,
				field,
				row.cells[bad] ?? '',
				`Line ${row.line}, ${field}: "${row.cells[bad] ?? ''}" is not a number; the row is left out.`,
				'warning'
			);
			continue;
		}
		origin ??= time;
		const last = log.timeS.at(-1);
		if (last !== undefined && time - origin <= last) {
			problem(row.line, header.cells[0]!, row.cells[0]!, `Line ${row.line}: the time does not rise; the row is left out.`, 'warning');
			continue;
		}
		log.timeS.push(time - origin);
		temps.forEach((temp, i) => log.channels[i]!.tempC.push(fahrenheit[i] ? ((temp!.value - 32) * 5) / 9 : temp!.value));
	}
	log.channels = log.channels.filter((channel) => {
		const hot = channel.tempC.findIndex((c) => c > 1000 || c < -60);
		if (hot < 0) return true;
		problem(
			data[hot]?.line ?? 1,
			channel.name,
			String(channel.tempC[hot]),
			`${channel.name} reads ${channel.tempC[hot]} °C: an open or reversed thermocouple. It is left out.`,
			'warning'
		);
		return false;
	});
	if (log.timeS.length < 10 || log.channels.length === 0) {
		problem(
			header.line,
			'rows',
			String(log.timeS.length),
			`Only ${log.timeS.length} rows of ${log.channels.length} channels could be read: a profile needs at least ten.`
		);
		return { log: null, issues };
	}
	return { log, issues };
}

function timeOf(cell: string, sign: DecimalSign, minutes: boolean): number | null {
	const clock = /^(\d+):(\d{2})(?::(\d{2}(?:[.,]\d+)?))?$/.exec(cell.trim());
	if (clock) {
		const [a, b, c] = [Number(clock[1]), Number(clock[2]), clock[3]];
		return c === undefined ? a * 60 + b : a * 3600 + b * 60 + Number(c.replace(',', '.'));
	}
	const number = readNumber(cell.trim(), sign);
	return number === null ? null : number.value * (minutes ? 60 : 1);
}

export interface MeasuredChannel {
	name: string;
	metrics: ProfileMetrics;
}

/** The metrics of every channel of a log, by the same definitions as a prediction's. */
export function measureLog(log: ProfileLog, window: PasteWindow): MeasuredChannel[] {
	return log.channels.map(({ name, tempC }) => ({
		name,
		metrics: profileMetrics(log.timeS, tempC, { ...window, windowS: RAMP_WINDOW_S })
	}));
}

/** Lays a log over a prediction: the log's clock began somewhere before the oven, so the shift in time is sought at which the mean of its
 * channels lies nearest to the curve (least squares, steps of 0.5 s).
 * @returns seconds to add to the log's time, and the root mean square of what is left, °C
 */
export function alignLog(log: ProfileLog, curve: Curve): { shiftS: number; rmsC: number } {
	const mean = log.timeS.map((_, i) => log.channels.reduce((sum, channel) => sum + channel.tempC[i]!, 0) / log.channels.length);
	const endS = curve.timeS.at(-1) ?? 0;
	let best = { shiftS: 0, rmsC: Infinity };
	for (let shiftS = -(log.timeS.at(-1) ?? 0); shiftS <= endS; shiftS += 0.5) {
		let sum = 0;
		let n = 0;
		let at = 0;
		for (let i = 0; i < mean.length; i++) {
			const t = log.timeS[i]! + shiftS;
			if (t < 0 || t > endS) continue;
			while (at < curve.timeS.length - 2 && curve.timeS[at + 1]! < t) at++;
			const share = (t - curve.timeS[at]!) / (curve.timeS[at + 1]! - curve.timeS[at]!);
			const predicted = curve.tempC[at]! + share * (curve.tempC[at + 1]! - curve.tempC[at]!);
			sum += (mean[i]! - predicted) ** 2;
			n++;
		}
		// A shift that drops most of the log would always fit.
		if (n < 0.6 * Math.min(mean.length, curve.timeS.length)) continue;
		const rmsC = Math.sqrt(sum / n);
		if (rmsC < best.rmsC) best = { shiftS, rmsC };
	}
	return best;
}

/** Where each sample of a log was in the oven, m, once it is laid over the prediction of the recipe that it was run with.
 * @param shiftS from `alignLog`; @param curve that prediction
 */
export function placesOfLog(log: ProfileLog, curve: Curve, shiftS: number, beltCmPerMin: number): number[] {
	return log.timeS.map((t) => curve.xM[0]! + ((t + shiftS) * beltCmPerMin) / 6000);
}
