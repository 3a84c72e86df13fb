import { dealParts } from '@keen-relay/core/balance';
import { dockFeeder, layoutBank, spliceRoute } from '@keen-relay/core/feeders';
import { seededRandom } from '@keen-relay/core/numerics';
import { axisTimeS, closedTour, fitFiducials, offsetCauses, placedBy, type PlacedOffset } from '@keen-relay/core/placement';
import { median } from './measure.ts';
import type { Target } from './print-cell.ts';

/** Every speed that the placing line promises, on one core. */
export async function placingSpeeds(slow: number): Promise<Target[]> {
	const random = seededRandom(21);
	const time = async (what: string, targetMs: number, work: () => void, times = 3): Promise<Target> => {
		const ms = await median(times, work);
		return { what, ms, targetMs, met: ms <= targetMs * slow };
	};
	const x = { vMmS: 1000, aMmS2: 10_000 };
	const y = { vMmS: 800, aMmS2: 8000 };
	const moves = (n: number) => {
		const places = Array.from({ length: n }, () => [250 * random.uniform(), 200 * random.uniform()] as const);
		return places.map((a) => places.map((b) => Math.max(axisTimeS(a[0] - b[0], x), axisTimeS(a[1] - b[1], y))));
	};
	const [few, many] = [moves(45), moves(200)];
	const marks = [
		{ x: 0, y: 0 },
		{ x: 40, y: 30 }
	];
	const splices = (n: number) =>
		Array.from({ length: n }, (_, i) => ({
			name: `S${i}`,
			xM: 20 * random.uniform(),
			yM: 0,
			releaseS: 0,
			deadlineS: 200 + 3000 * random.uniform(),
			serviceS: 60
		}));
	const [twelve, forty] = [splices(12), splices(40)];
	const types = (n: number, machines: number) =>
		Array.from({ length: n }, (_, i) => ({
			id: `P${i}`,
			count: 1 + Math.floor(60 * random.uniform() ** 2),
			slots: Array.from({ length: machines }, () => (i % 4 ? 1 : 2)),
			secondsEach: Array.from({ length: machines }, (_, m) => 0.08 + 0.04 * m + 0.02 * random.uniform())
		}));
	const machines = (n: number) => Array.from({ length: n }, () => ({ slots: 60, fixedS: 6 }));
	const [small, large] = [types(40, 4), types(150, 6)];
	const bank = Array.from({ length: 30 }, (_, i) => ({ id: `F${i}`, picks: random.integer(120), slots: 1 + random.integer(3) }));
	const setUp = {
		slots: 200,
		needs: Array.from({ length: 120 }, (_, i) => ({
			slot: i + 1,
			part: `P${i}`,
			alternates: [],
			tapeMm: 8,
			pitchMm: 4,
			quadrant: null,
			value: null
		})),
		feeders: Array.from({ length: 120 }, (_, i) => ({ id: `F${i}`, tapeMm: 8, pitchMm: 4, reel: `R${i}`, outOfService: null })),
		reels: Array.from({ length: 120 }, (_, i) => ({
			id: `R${i}`,
			part: `P${i}`,
			tapeMm: 8,
			pieces: 4000,
			blocked: null,
			quadrant: null,
			measured: null,
			floorLifeLeftH: null
		})),
		runH: 8
	};
	const rows = Array.from({ length: 100_000 }, (_, i): PlacedOffset => {
		const part = i % 250;
		const feeder = part % 60;
		return {
			panel: `P${Math.floor(i / 2000)}`,
			circuit: Math.floor(i / 500) % 4,
			refDes: `R${part}`,
			partNumber: `N${part % 70}`,
			feeder: String(feeder),
			nozzle: `N${(i * 7) % 8}`,
			angleDeg: 90 * (part % 4),
			circuitDeg: 0,
			xMm: part % 25,
			yMm: Math.floor(part / 25),
			dxUm: 15 * random.normal() + (feeder === 14 ? 45 : 0),
			dyUm: 15 * random.normal()
		};
	});
	return [
		await time('tour of 45 places', 300, () => closedTour(few)),
		await time('tour of 200 places', 1000, () => closedTour(many)),
		await time('fiducial fit and places of 64 circuits with 500 parts', 20, () => {
			for (let circuit = 0; circuit < 64; circuit++) {
				const fit = fitFiducials(marks, [
					{ x: 0.1, y: 0.05 },
					{ x: 40.1, y: 30.07 }
				]);
				for (let i = 0; i < 500; i++) placedBy(fit, { xMm: i % 40, yMm: i % 30, rotationDeg: 90 });
			}
		}),
		await time('round of 12 splices, every order', 100, () => spliceRoute(twelve)),
		await time('round of 40 splices', 100, () => spliceRoute(forty)),
		await time('40 part types dealt to 4 placers', 500, () => dealParts(small, machines(4))),
		await time('150 part types dealt to 6 placers', 3000, () => dealParts(large, machines(6)), 1),
		await time('slots of 30 feeders', 500, () => layoutBank(bank, { slots: 80, pitchMm: 14, cameraSlot: 40 })),
		await time('a scan at a feeder', 5, () => dockFeeder(setUp, 60, 'F59'), 9),
		await time('causes of 100 000 offsets', 2000, () => {
			const [cause] = offsetCauses(rows).causes;
			if (cause?.level !== 'feeder' || cause.name !== '14') throw new Error(`named ${cause?.level} ${cause?.name}`);
		})
	];
}
