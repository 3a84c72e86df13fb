import { panelGeometry, type BoardPart } from '@keen-relay/core/artwork';
import { headProgram, lineWork, optimiseLine, planLine, type LinePlan, type LineWork } from '@keen-relay/core/balance';
import { seededRandom } from '@keen-relay/core/numerics';
import { readPackage } from '@keen-relay/core/parts';
import { outOfOrder, type PlacerSpec } from '@keen-relay/core/placement';
import { BOARDS, placeParts } from '../demo/src/boards.ts';
import { LINES } from '../demo/src/factory-line.ts';

/** What the demo's fast line places of each of its boards. */
function demoWork(): { name: string; parts: BoardPart[]; work: LineWork }[] {
	const machines = LINES[0]!.stations.flatMap((station) =>
		'placer' in station.spec ? [{ ...(station.spec.placer as PlacerSpec), name: station.name }] : []
	);
	return BOARDS.map((board, i) => {
		const parts = placeParts(board, 4000 + i)
			.filter((part) => part.side === 'top')
			.map((part) => ({
				refDes: part.refDes,
				partNumber: part.item.partNumber,
				value: part.item.value,
				packageName: part.item.packageName,
				xMm: part.x,
				yMm: part.y,
				rotationDeg: part.rotation,
				fitted: part.item.fitted !== false,
				apertures: []
			}));
		const { rows, columns, gapMm, railMm } = board.panel;
		const layout = {
			rows,
			columns,
			pitchXMm: board.widthMm + gapMm,
			pitchYMm: board.heightMm + gapMm,
			railMm,
			fiducials: [
				{ x: 2.5, y: 2.5 },
				{ x: 20, y: 2.5 },
				{ x: 2.5, y: 20 }
			]
		};
		return { name: board.name, parts, work: lineWork(parts, panelGeometry(board, layout), machines, readPackage) };
	});
}

const taktS = (plan: LinePlan) => Math.max(...plan.machines.map((m) => m.totalS));

/** The demo's four boards on the fast line: the serpentine, the search as the page runs it, a search from there on with many more tries, and the bound.
 * @param longTries changes that the long search tries in each of eight steps of a machine
 */
export function programSearch(longTries: number): string[] {
	return demoWork().map(({ name, parts, work }) => {
		const start = planLine(parts, work.panel, work.machines);
		const began = performance.now();
		let plan = start;
		for (const step of optimiseLine(work, start)) plan = step.plan;
		const seconds = (performance.now() - began) / 1000;
		let long = plan;
		for (const step of optimiseLine(work, plan, { tries: longTries, rounds: 8 })) long = step.plan;
		const [serpentineS, foundS, longS] = [start, plan, long].map(taktS) as [number, number, number];
		const boundS = Math.max(...long.machines.map((m) => m.head!.boundS));
		const wrong = plan.machines.reduce((sum, m) => sum + outOfOrder(headProgram(work, m)!).length, 0);
		const above = 100 * (foundS / longS - 1);
		return [
			`${name}, ${work.placements.length} placements: serpentine ${serpentineS.toFixed(2)} s, found ${foundS.toFixed(2)} s in ${seconds.toFixed(1)} s`,
			`(${(100 * (1 - foundS / serpentineS)).toFixed(1)} % less), long search ${longS.toFixed(2)} s: found is ${above.toFixed(2)} % above it`,
			`(target 3 %${above <= 3 ? '' : ': MISSED'}); no program is below ${boundS.toFixed(2)} s; ${wrong} near pairs out of order`
		].join(' ');
	});
}

/** A panel of four circuits with 300 parts on two placers, planned whole: dealt, slotted, one step of the search on each placer. */
export function planWhole(): { ms: number; taktS: number; boundS: number } {
	const { work } = demoWork()[0]!;
	const random = seededRandom(3);
	const kinds = ['RESC1005X40N', 'CAPC1005X55N', 'RESC1608X50N', 'SOT95P237X112-3', 'SOIC127P600X175-8'];
	const parts = Array.from({ length: 300 }, (_, i): BoardPart => {
		const kind = Math.floor(random.uniform() ** 2 * 40);
		return {
			refDes: `X${i}`,
			partNumber: `P-${kind}`,
			value: '',
			packageName: kinds[kind % kinds.length]!,
			xMm: 3 + random.uniform() * 94,
			yMm: 3 + random.uniform() * 74,
			rotationDeg: 0,
			fitted: true,
			apertures: []
		};
	});
	const panel = panelGeometry(
		{ widthMm: 100, heightMm: 80 },
		{ rows: 2, columns: 2, pitchXMm: 102, pitchYMm: 82, railMm: 6, fiducials: [{ x: 2.5, y: 2.5 }] }
	);
	const began = performance.now();
	const start = planLine(parts, panel, work.machines);
	const own = lineWork(parts, panel, work.machines);
	let plan = start;
	for (const step of optimiseLine(own, start, { tries: 40_000, rounds: 1 })) plan = step.plan;
	return { ms: performance.now() - began, taktS: taktS(plan), boundS: Math.max(...plan.machines.map((m) => m.head!.boundS)) };
}
