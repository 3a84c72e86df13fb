import { describe, expect, test } from 'vitest';
import { message } from './index.ts';

const common = { source: 'Line 1/Print', bootId: '6f3a1c0e-7b0f-4c57-9a57-0c9d3e1f2a44', number: 0, at: '2026-11-25T09:00:00Z' };

const GOOD = {
	state: { ...common, type: 'state', state: 'stopped', reason: 'pick failed' },
	print: { ...common, type: 'print', runId: 3, panel: 'J-1-0001', stroke: 'F', printsSinceWipe: 3, cycleS: 18.4 },
	paste: {
		...common,
		type: 'paste_inspection',
		panel: 'J-1-0001',
		volumePct: [98.2],
		heightUm: [99],
		areaPct: [101],
		offsetXUm: [-4],
		offsetYUm: [2]
	},
	placement: { ...common, type: 'placement', panel: 'J-1-0001', cycleS: 44, lost: { '14': 1 } },
	feeder: { ...common, type: 'feeder_loaded', runId: 3, slot: 14, partNumber: 'R-10K', reel: 'RL1', makerLot: 'K1', pieces: 5000 },
	oven: { ...common, type: 'oven_pass', panel: 'J-1-0001', enteredAt: '2026-11-25T08:55:00Z', zoneC: [120, 150], beltCmPerMin: 70 },
	optical: { ...common, type: 'optical_inspection', panel: 'J-1-0001', circuit: 0, startedAt: common.at, result: 'pass' },
	test: {
		...common,
		type: 'in_circuit_test',
		panel: 'J-1-0001',
		circuit: 1,
		startedAt: common.at,
		result: 'fail',
		calls: [{ refDes: 'R4', code: 'value high', measured: '10.8 kΩ' }]
	}
};

describe('messages as machines send them', () => {
	test.each(Object.entries(GOOD))('%s', (_name, body) => {
		expect(message.parse(body)).toMatchObject(body);
	});

	test('attempts default to the first, lost picks to none, calls to none', () => {
		expect(message.parse(GOOD.print)).toMatchObject({ printAttempt: 1 });
		expect(message.parse({ ...GOOD.placement, lost: undefined })).toMatchObject({ lost: {} });
		expect(message.parse(GOOD.optical)).toMatchObject({ attempt: 1, calls: [] });
		expect(message.parse(GOOD.test)).toMatchObject({ calls: [{ pin: null }] });
	});
});

describe('messages that are refused, by field', () => {
	test.each([
		{ what: 'no source', body: { ...GOOD.state, source: '' }, field: 'source' },
		{ what: 'a boot id that is no UUID', body: { ...GOOD.state, bootId: '1' }, field: 'bootId' },
		{ what: 'a negative number', body: { ...GOOD.state, number: -1 }, field: 'number' },
		{ what: 'a time without a zone', body: { ...GOOD.state, at: '2026-11-25T09:00:00' }, field: 'at' },
		{ what: 'an unknown state', body: { ...GOOD.state, state: 'asleep' }, field: 'state' },
		{ what: 'an unknown type', body: { ...GOOD.state, type: 'teleport' }, field: 'type' },
		{ what: 'a print of no run', body: { ...GOOD.print, runId: undefined }, field: 'runId' },
		{ what: 'a stroke that is neither', body: { ...GOOD.print, stroke: 'X' }, field: 'stroke' },
		{ what: 'a cycle of no time', body: { ...GOOD.print, cycleS: 0 }, field: 'cycleS' },
		{ what: 'half a print', body: { ...GOOD.print, printsSinceWipe: 1.5 }, field: 'printsSinceWipe' },
		{ what: 'a volume that is text', body: { ...GOOD.paste, volumePct: ['98'] }, field: 'volumePct' },
		{ what: 'a volume that the store cannot hold', body: { ...GOOD.paste, volumePct: [1e9] }, field: 'volumePct' },
		{ what: 'a slot that is no number', body: { ...GOOD.placement, lost: { left: 1 } }, field: 'lost' },
		{ what: 'a slot beyond any bank', body: { ...GOOD.feeder, slot: 900 }, field: 'slot' },
		{ what: 'a reel without a code', body: { ...GOOD.feeder, reel: '' }, field: 'reel' },
		{ what: 'a zone hotter than any oven', body: { ...GOOD.oven, zoneC: [900] }, field: 'zoneC' },
		{ what: 'a belt that stands', body: { ...GOOD.oven, beltCmPerMin: 0 }, field: 'beltCmPerMin' },
		{ what: 'a result in other words', body: { ...GOOD.optical, result: 'ok' }, field: 'result' },
		{ what: 'a call without a code', body: { ...GOOD.test, calls: [{ refDes: 'R1', code: '' }] }, field: 'calls' }
	])('$what', ({ body, field }) => {
		const result = message.safeParse(body);
		expect(result.success).toBe(false);
		expect(result.error!.issues.map((issue) => issue.path[0])).toContain(field);
	});
});

describe('summaries that are refused', () => {
	const summary = {
		...common,
		panel: 'J-1-0001',
		type: 'paste_summary',
		classes: [{ padClass: 'chip', pads: 10, fails: 0, warnings: 0, meanVolumePct: 98, sdVolumePct: 4 }]
	};
	test.each([
		{ what: 'no class', change: { classes: [] } },
		{ what: 'an unknown class', change: { classes: [{ ...summary.classes[0], padClass: 'huge' }] } },
		{ what: 'no pads', change: { classes: [{ ...summary.classes[0], pads: 0 }] } },
		{ what: 'half a fail', change: { classes: [{ ...summary.classes[0], fails: 0.5 }] } },
		{ what: 'a pad below none', change: { worst: [{ pad: -1, code: 'x', volumePct: 4 }] } }
	])('$what', ({ change }) => {
		expect(message.safeParse(summary).success).toBe(true);
		expect(message.safeParse({ ...summary, ...change }).success).toBe(false);
	});
});
