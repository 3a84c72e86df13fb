import { expect, test } from 'vitest';
import { kindOf, machineData, tooSmallFor } from './index.ts';

const optical = (longestMm: number, widestMm: number) => ({ role: 'optical', name: 'Optical', spec: { cycleS: 18, longestMm, widestMm } });

test('a panel that is longer or wider than a machine takes is named with what it takes; one that just fits is not', () => {
	const stations = [optical(300, 200), { role: 'bench', name: 'Bench', spec: { cycleS: 60 } }];
	expect(tooSmallFor(stations, { widthMm: 300, heightMm: 200 })).toEqual([]);
	expect(tooSmallFor(stations, { widthMm: 300.1, heightMm: 200 })).toEqual([{ name: 'Optical', longestMm: 300, widestMm: 200 }]);
	expect(tooSmallFor(stations, { widthMm: 300, heightMm: 200.1 })).toHaveLength(1);
	// It does not go in sideways.
	expect(tooSmallFor(stations, { widthMm: 200, heightMm: 300 })).toHaveLength(1);
});

test('machines that were entered before their size was asked for take panels of a usual size', () => {
	expect(machineData({ role: 'inCircuit', spec: { cycleS: 21 } }, 'inCircuit')).toEqual({ cycleS: 21, longestMm: 510, widestMm: 460 });
	expect(tooSmallFor([{ role: 'pasteCheck', name: 'Paste check', spec: { cycleS: 17 } }], { widthMm: 511, heightMm: 100 })).toHaveLength(1);
});

test('every machine that can begin from a usual size has data that can be read', () => {
	for (const role of ['pasteCheck', 'optical', 'inCircuit', 'place', 'oven'] as const) {
		const { machine } = kindOf(role);
		for (const size of Object.values(machine!.sizes ?? {})) expect(machine!.schema.safeParse(size).success, role).toBe(true);
	}
});
