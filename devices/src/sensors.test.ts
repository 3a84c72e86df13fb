import { expect, test } from 'vitest';
import { readSensorLog } from '@keen-relay/core/paste';
import type { Sent } from './message.ts';
import { Sensor } from './sensors.ts';

const H = 3_600_000;
function log(troubles: ConstructorParameters<typeof Sensor>[5] = []) {
	const out: Sent[] = [];
	new Sensor(
		{ name: 'Fridge 1', kind: 'fridge', everyMin: 5 },
		3,
		0,
		'00000000-0000-4000-8000-000000000001',
		(m) => out.push(m),
		troubles
	).runTo(24 * H);
	return {
		out,
		report: readSensorLog(
			out.map((m) => ({ atMs: Date.parse(m.at), temperatureC: m.temperatureC as number })),
			{ lowC: 2, highC: 10, graceMin: 30, neverBelowZero: true }
		)
	};
}

test('a fridge that is shut stays inside its limits, without a gap', () => {
	const { out, report } = log();
	expect(out).toHaveLength(289);
	expect(report).toEqual({ excursions: [], gaps: [] });
});

test('a door left open for an hour is one excursion', () => {
	const { report } = log([{ fromMs: 5 * H, toMs: 6 * H, toC: 18 }]);
	expect(report.excursions).toMatchObject([{ kind: 'high', open: false }]);
	expect(report.excursions[0]!.worst).toBeGreaterThan(14);
});
