import { InputError, noData, type Verdict } from '../judgement/index.ts';

/** One reading of a temperature and humidity sensor. */
export interface SensorReading {
	atMs: number;
	temperatureC: number;
	rhPct?: number | null;
}

export interface Excursion {
	kind: 'high' | 'low' | 'freezing' | 'humid' | 'dry';
	fromMs: number;
	toMs: number;
	/** Furthest reading. */
	worst: number;
	/** Whether it is still going on at the last reading. */
	open: boolean;
}

export interface SensorLimits {
	lowC: number;
	highC: number;
	lowRhPct?: number;
	highRhPct?: number;
	/** Excursions up to this long do not count, min. */
	graceMin: number;
	/** Below 0 °C counts at once: the flux can separate. */
	neverBelowZero: boolean;
}

export interface SensorReport {
	excursions: Excursion[];
	/** Where readings are further apart than they should be: no data is not "good". */
	gaps: { fromMs: number; toMs: number }[];
}

/** Reads a sensor's log: when it was outside its limits, and when nothing is known.
 * A reading holds until the next one; across a gap nothing holds.
 * @param readings in time order
 * @param gapMin readings further apart than this leave a gap
 * @throws {InputError} where a reading is not a plausible temperature or humidity, or the order is broken
 */
export function readSensorLog(readings: readonly SensorReading[], limits: SensorLimits, gapMin = 20): SensorReport {
	const excursions: Excursion[] = [];
	const gaps: SensorReport['gaps'] = [];
	const running = new Map<Excursion['kind'], Excursion>();
	const close = (kind: Excursion['kind'], open: boolean) => {
		const e = running.get(kind);
		if (!e) return;
		running.delete(kind);
		if (kind === 'freezing' || e.toMs - e.fromMs > limits.graceMin * 60_000) excursions.push({ ...e, open });
	};
	readings.forEach((r, i) => {
		check(r, i, readings[i - 1]);
		const before = readings[i - 1];
		if (before && r.atMs - before.atMs > gapMin * 60_000) {
			gaps.push({ fromMs: before.atMs, toMs: r.atMs });
			for (const kind of [...running.keys()]) close(kind, false);
		}
		const now = kindsOf(r, limits);
		for (const [kind, e] of running) {
			e.toMs = r.atMs;
			if (!now.some((n) => n.kind === kind)) close(kind, false);
		}
		for (const { kind, value } of now) {
			const e = running.get(kind);
			if (!e) running.set(kind, { kind, fromMs: r.atMs, toMs: r.atMs, worst: value, open: true });
			else if (kind === 'low' || kind === 'freezing' || kind === 'dry' ? value < e.worst : value > e.worst) e.worst = value;
		}
	});
	for (const kind of [...running.keys()]) close(kind, true);
	return { excursions: excursions.sort((a, b) => a.fromMs - b.fromMs), gaps };
}

function kindsOf(r: SensorReading, limits: SensorLimits): { kind: Excursion['kind']; value: number }[] {
	const out: { kind: Excursion['kind']; value: number }[] = [];
	if (limits.neverBelowZero && r.temperatureC < 0) out.push({ kind: 'freezing', value: r.temperatureC });
	if (r.temperatureC < limits.lowC) out.push({ kind: 'low', value: r.temperatureC });
	if (r.temperatureC > limits.highC) out.push({ kind: 'high', value: r.temperatureC });
	const rh = r.rhPct ?? null;
	if (rh !== null && limits.highRhPct !== undefined && rh > limits.highRhPct) out.push({ kind: 'humid', value: rh });
	if (rh !== null && limits.lowRhPct !== undefined && rh < limits.lowRhPct) out.push({ kind: 'dry', value: rh });
	return out;
}

function check(r: SensorReading, i: number, before: SensorReading | undefined): void {
	if (!(r.temperatureC >= -10 && r.temperatureC <= 50))
		throw new InputError('out-of-range', `readings[${i}].temperatureC`, '-10 to 50 °C', r.temperatureC);
	if (r.rhPct != null && !(r.rhPct >= 1 && r.rhPct <= 100))
		throw new InputError('out-of-range', `readings[${i}].rhPct`, '1 to 100 % RH', r.rhPct);
	if (before && r.atMs < before.atMs) throw new InputError('mismatch', `readings[${i}].atMs`, 'readings in time order', r.atMs);
}

/** Who was there during an excursion, even for a moment.
 * @param stays when each jar, bead or reel stood where the sensor measures; null: still there
 */
export function touchedBy<T extends { fromMs: number; toMs: number | null }>(
	excursion: Pick<Excursion, 'fromMs' | 'toMs'>,
	stays: readonly T[]
): T[] {
	return stays.filter((s) => s.fromMs <= excursion.toMs && (s.toMs ?? Infinity) >= excursion.fromMs);
}

/** A sensor that has been silent for longer than this, or than three of its own intervals, says nothing of now, ms. */
const SILENT_MS = 20 * 60_000;

/** How the sensors of a plant stand together: what is outside its limits, what is silent, and what was never calibrated. */
export function judgeSensors(
	sensors: readonly { name: string; calibrated: boolean; everyMin: number; latestMs: number | null; outside: boolean }[],
	nowMs: number
): { verdict: Verdict; silent: string[] } {
	if (sensors.length === 0)
		return { verdict: noData('No sensor yet: nothing is known of fridge and room.', ['Enter the first sensor']), silent: [] };
	const names = (which: typeof sensors) => which.map((s) => s.name);
	const silent = names(sensors.filter((s) => nowMs - (s.latestMs ?? -Infinity) > Math.max(SILENT_MS, 3 * s.everyMin * 60_000)));
	const outside = names(sensors.filter((s) => s.outside && !silent.includes(s.name)));
	const uncalibrated = names(sensors.filter((s) => !s.calibrated));
	const say = (level: Verdict['level'], statement: string, ...doNext: string[]): Verdict => ({ level, statement, because: [], doNext });
	const verdict = outside.length
		? say(
				'act',
				`Outside ${outside.length === 1 ? 'its' : 'their'} limits: ${outside.join(', ')}.`,
				'Bring the air back; look at what it touched'
			)
		: silent.length
			? say('watch', `No readings from ${silent.join(', ')}.`, 'Look at the sensor and its network')
			: uncalibrated.length
				? say('watch', `Never calibrated: ${uncalibrated.join(', ')}.`, 'Calibrate it; until then its readings prove nothing')
				: say('good', `${sensors.length} ${sensors.length === 1 ? 'sensor reports' : 'sensors report'}, all within their limits.`);
	return { verdict, silent };
}
