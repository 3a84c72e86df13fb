import { randomUUID } from 'node:crypto';
import { startingPrintRecipe } from '@keen-relay/core/printing';
import type { Sent } from '@keen-relay/devices/message';
import { Sensor } from '@keen-relay/devices/sensors';

const H = 3_600_000;

/** What the print cell needs of a person who is signed in. */
interface Person {
	send<T>(method: string, path: string, body?: object): Promise<T>;
}

const SENSORS = [
	{ name: 'Fridge 1', kind: 'fridge' as const, calibratedOn: '2026-02-10', lowC: 2, highC: 10, everyMin: 5, graceMin: 30 },
	{
		name: 'Line 1 air',
		kind: 'room' as const,
		lineId: 1,
		calibratedOn: '2026-03-02',
		lowC: 22,
		highC: 26,
		lowRhPct: 40,
		highRhPct: 60,
		everyMin: 5,
		graceMin: 20
	},
	{
		name: 'Hall',
		kind: 'room' as const,
		calibratedOn: '2026-03-02',
		lowC: 21,
		highC: 27,
		lowRhPct: 35,
		highRhPct: 65,
		everyMin: 5,
		graceMin: 20
	}
];

/** Pastes and sensors of the invented plant. */
export async function equip(engineer: Person): Promise<{ waterSolubleId: number }> {
	await engineer.send('POST', '/api/v1/pastes', {
		id: 1,
		startedFrom: 1,
		name: 'Fernbrook no-clean SAC305',
		partNumber: 'P-305',
		maker: 'Millbeck Metals',
		alloy: 'SAC305',
		powder: 'T4',
		fluxClass: 'noClean',
		rules: { stencilLifeH: 8, reflowActH: 1, reflowStopH: 2 }
	});
	const { id: waterSolubleId } = await engineer.send<{ id: number }>('POST', '/api/v1/pastes', {
		name: 'Fernbrook water-soluble SAC305',
		partNumber: 'P-417',
		maker: 'Millbeck Metals',
		alloy: 'SAC305',
		powder: 'T4',
		fluxClass: 'waterSoluble',
		wash: 'water of 60 °C within 8 h after reflow',
		rules: { stencilLifeH: 5 }
	});
	for (const sensor of SENSORS) await engineer.send('POST', '/api/v1/sensors', sensor);
	return { waterSolubleId };
}

/** A print recipe for a side on a line, with support pins; those that stand under a part of the other side are taken out again, as the set-up asks. */
export async function releasePrinting(
	engineer: Person,
	sideId: number,
	lineId: number,
	panel: { widthMm: number; heightMm: number },
	pins: { x: number; y: number }[]
): Promise<void> {
	const support = pins.map((p) => ({ ...p, radiusMm: 2 }));
	const recipe = startingPrintRecipe(panel.widthMm, 0.5);
	for (;;)
		try {
			await engineer.send('POST', '/api/v1/print-recipes', { sideId, lineId, recipe, support });
			return;
		} catch (error) {
			const pin = /Pin (\d+) stands under/.exec(error instanceof Error ? error.message : '')?.[1];
			if (pin === undefined) throw error;
			support.splice(Number(pin) - 1, 1);
		}
}

/** Tension that five points of a foil have, N/cm. */
const TENSION = [39, 38, 40, 38, 37];

/** Keeps a stencil for a design, with its tension, on the shelf of its number. */
export async function shelve(technician: Person, code: string, stencilId: number, foilUm: number): Promise<number> {
	const { id } = await technician.send<{ id: number }>('POST', '/api/v1/stencil-tools', {
		code,
		stencilId,
		place: `rack B${code.slice(-1)}`,
		measuredUm: foilUm + 1
	});
	const at = [
		[60, 60],
		[340, 60],
		[340, 240],
		[60, 240],
		[200, 150]
	];
	await technician.send('POST', `/api/v1/stencil-tools/${id}/tension`, {
		readings: TENSION.map((nPerCm, i) => ({ x: at[i]![0]!, y: at[i]![1]!, nPerCm }))
	});
	await technician.send('POST', `/api/v1/stencil-tools/${id}/events`, { kind: 'clean', note: 'washed, dried, held to the light' });
	return id;
}

const fact = (person: Person, jar: string, kind: string, atMs: number, more: object = {}) =>
	person.send('POST', `/api/v1/jars/${jar}/events`, { kind, at: new Date(atMs).toISOString(), fact: true, ...more });

/** A jar that was taken out in time and opened for a run. */
export async function openJar(technician: Person, id: string, startMs: number): Promise<void> {
	const day = (days: number) => new Date(startMs + days * 24 * H).toISOString();
	await technician.send('POST', '/api/v1/jars', {
		id,
		pasteId: 1,
		lot: 'L26-088',
		expiry: day(50).slice(0, 10),
		grams: 500,
		received: day(-5),
		fridgeId: 1
	});
	await fact(technician, id, 'store_cold', startMs - 119 * H);
	await fact(technician, id, 'take_out', startMs - 6 * H);
	await fact(technician, id, 'open', startMs - 0.2 * H, { stirred: true });
}

/** The bead of a run is taken off and thrown away with the rest of its jar. */
export async function endJar(technician: Person, id: string, lineId: number): Promise<void> {
	await technician.send('POST', `/api/v1/jars/${id}/events`, { kind: 'scrape_off', lineId, grams: 0, fact: true });
	await technician.send('POST', `/api/v1/jars/${id}/events`, { kind: 'discard', fact: true });
}

/** Jars that stand open at the lines this morning, in the lines' order. */
export const OPEN_JARS = ['J-0024', 'J-0025', 'J-0026'] as const;

/** Jars as they stand this morning: three open at the lines, others warm, cold, held and near their date. */
export async function fillFridge(technician: Person, nowMs: number, fridgeId: number, waterSolubleId: number): Promise<void> {
	const day = (days: number) => new Date(nowMs + days * 24 * H).toISOString();
	const jar = (id: string, lot: string, expiry: number, pasteId = 1, received = -12) =>
		technician.send('POST', '/api/v1/jars', {
			id,
			pasteId,
			lot,
			expiry: day(expiry).slice(0, 10),
			grams: 500,
			received: day(received),
			fridgeId
		});
	const at = (id: string, kind: string, hours: number, more: object = {}) =>
		technician.send('POST', `/api/v1/jars/${id}/events`, { kind, at: new Date(nowMs + hours * H).toISOString(), fact: true, ...more });
	const plan: [id: string, lot: string, expiry: number, pasteId: number, received: number][] = [
		['J-0021', 'L26-101', 21, 1, -40],
		['J-0024', 'L26-114', 64, 1, -12],
		['J-0025', 'L26-114', 64, 1, -12],
		['J-0026', 'L26-114', 64, 1, -12],
		['J-0027', 'L26-114', 64, 1, -12],
		['J-0028', 'L26-118', 88, 1, -0.4],
		['J-0029', 'L26-118', 88, 1, -0.4],
		['J-0030', 'L26-118', 88, 1, -0.4],
		['J-0031', 'L26-060', 40, waterSolubleId, -0.4]
	];
	for (const [id, lot, expiry, pasteId, received] of plan) {
		await jar(id, lot, expiry, pasteId, received);
		await at(id, 'store_cold', received * 24 + 0.1);
	}
	// Three were taken out last evening, before somebody left the fridge's door open.
	for (const id of OPEN_JARS) {
		await at(id, 'take_out', -13);
		await at(id, 'open', -0.6, { stirred: true });
	}
	await at('J-0027', 'take_out', -13);
	await at('J-0027', 'open', -12.2, { stirred: true, note: 'needed at once' });
	await at('J-0028', 'take_out', -1.6);
}

/** What the sensors wrote from the day before this morning until now: the fridge's door stood open for three quarters of an hour last evening. */
export function pastReadings(morningMs: number, nowMs: number, out: (message: Sent) => void): void {
	const doorMs = morningMs - 12 * H;
	SENSORS.forEach((info, i) =>
		new Sensor(
			info,
			500 + i,
			morningMs - 26 * H,
			randomUUID(),
			out,
			info.kind === 'fridge' ? [{ fromMs: doorMs, toMs: doorMs + 0.9 * H, toC: 19 }] : []
		).runTo(nowMs)
	);
}
