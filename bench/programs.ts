import { panelGeometry, type BoardPart } from '@keen-relay/core/artwork';
import { lineWork, optimiseLine, planLine, type LinePlan, type LineWork } from '@keen-relay/core/balance';
import { readPackage } from '@keen-relay/core/parts';
import { outOfOrder, type PlacerSpec } from '@keen-relay/core/placement';
import { headProgram } from '@keen-relay/core/balance';
import { BOARDS, placeParts } from '../demo/src/boards.ts';
import { LINES } from '../demo/src/factory-line.ts';

/** What a stage's line would place of each of the demo's boards, as its files are read. */
export function demoWork(): { name: string; parts: BoardPart[]; work: LineWork }[] {
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

/** The demo's four boards: the serpentine, the search as the page runs it, a long search, and the bound.
 * @param longTries changes that the long search tries in each step of a machine
 */
export function programSpeeds(longTries: number) {
	return demoWork().map(({ name, parts, work }) => {
		const start = planLine(parts, work.panel, work.machines);
		const began = performance.now();
		let plan = start;
		for (const step of optimiseLine(work, start)) plan = step.plan;
		const ms = performance.now() - began;
		let long = plan;
		for (const step of optimiseLine(work, plan, { tries: longTries, rounds: 8 })) long = step.plan;
		const boundS = Math.max(...long.machines.map((m) => m.head!.boundS));
		const wrong = plan.machines.reduce((sum, m) => sum + outOfOrder(headProgram(work, m)!).length, 0);
		return { name, placements: work.placements.length, serpentineS: taktS(start), foundS: taktS(plan), longS: taktS(long), boundS, ms, wrong };
	});
}

for (const { name, placements, serpentineS, foundS, longS, boundS, ms, wrong } of programSpeeds(Number(process.env.TRIES ?? 1_000_000)))
	console.log(
		`${name.padEnd(28)} ${String(placements).padStart(5)} placements: serpentine ${serpentineS.toFixed(2)} s, found ${foundS.toFixed(2)} s in ${(ms / 1000).toFixed(1)} s (${((100 * (serpentineS - foundS)) / serpentineS).toFixed(1)} % less), long search ${longS.toFixed(2)} s (found is ${((100 * (foundS - longS)) / longS).toFixed(2)} % above), bound ${boundS.toFixed(2)} s; ${wrong} pairs out of order`
	);
