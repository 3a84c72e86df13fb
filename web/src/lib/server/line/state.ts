import { judgePace, nextOf, stationStands, type Act } from '@keen-relay/core/line';
import { ROLES, rolesThatMay, type Rights } from '@keen-relay/core/people';
import { worstLevel } from '@keen-relay/core/judgement';
import { lineDues, shiftAt, type Due } from '@keen-relay/core/schedule';
import type { LineState, NextUp, Standing, Tile } from '$lib/model/types.ts';
import { KINDS, kindOf, stagesOf, stationHref, type StationRole } from '$lib/stations/index.ts';
import { db } from '../db/index.ts';
import { rightsNow } from '../people/rights.ts';
import { plantNow } from '../plant/clock.ts';
import { plantInfo } from '../plant/settings.ts';
import { latestCycles } from '../queries/results.ts';
import { currentRun } from '../queries/runs.ts';
import { firstBoardOf } from './first-board.ts';
import { boardSide } from '../queries/sides.ts';
import { stationsAsOf } from '../queries/stations.ts';
import { stopsOf, type StopRow } from '../queries/stops.ts';
import { moduleOf } from '../stations/index.ts';
import type { CurrentRun, LineContext, StationRow } from '../stations/summary.ts';

/** The line as it stands, with all of its run. */
export interface LineNow extends LineState {
	run: CurrentRun | null;
}

/** Tiles that the strip has room for. */
const MOST_TILES = 8;

/** The line as it stands: every station's one verdict, number and needs, its pace, and what is due. */
export async function workOutLine(lineId: number): Promise<LineNow | null> {
	const line = await db.selectFrom('line').selectAll().where('id', '=', lineId).executeTakeFirst();
	if (!line) return null;
	const run = await currentRun(lineId);
	const [machines, nowMs, rights, shift] = await Promise.all([stationsAsOf(lineId, run), plantNow(), rightsNow(), shiftState(lineId)]);
	const stations = withRiders(machines);
	const [paced, counts, unexplained] = await Promise.all([paceOf(machines, run), panelsAt(lineId), unexplainedStops(lineId)]);
	const toGo = run ? Math.max(0, run.panels - run.printed) : 0;
	const context: LineContext = { lineId, nowMs, run, ...paced, toGo };
	const stands = await Promise.all(stations.map((station) => standingOf(station, context, rights)));
	// Where the printer waits for it, the printer says so.
	const first = run && run.endedAt === null && !run.heldForBoard ? (await firstBoardOf(run, lineId, nowMs))?.verdict : null;
	const own = lineDues(nowMs, {
		firstBoard: first && (first.level === 'act' || first.level === 'watch') ? first.statement : null,
		taktS: paced.pace.taktS ?? 60,
		panelsToGo: toGo,
		done: run && !run.settingUp && run.finished > 0 && run.finished >= run.panels ? run.number : null,
		shiftEndMs: shift.endMs,
		handOverSigned: shift.signed
	}).map((due) => toNextUp(due, due.where, rights));
	return {
		id: line.id,
		name: line.name,
		purpose: line.purpose,
		tiles: shareTiles(stands.map((s) => tileOf(s, machines, counts))),
		stations: stands.map((s) => s.standing),
		run,
		pace: paced.pace,
		next: [...stands.flatMap((s) => s.next), ...own].sort((a, b) => a.atMs - b.atMs),
		unexplained
	};
}

/** What is no machine of its own stands before the one that it rides with. */
function withRiders(machines: readonly StationRow[]): StationRow[] {
	return machines.flatMap((station) => {
		const riders = KINDS.filter((kind) => kind.ridesWith === station.role);
		return [...riders.map(({ role, name }) => ({ ...station, id: 0, role, name, spec: null })), station];
	});
}

async function paceOf(machines: readonly StationRow[], run: CurrentRun | null): Promise<Pick<LineContext, 'pace' | 'cycles'>> {
	const side = run && (await boardSide(run.boardSideId));
	if (!run || !side) return { pace: judgePace([]), cycles: new Map() };
	const measured = await latestCycles(run.id, machines.find((m) => m.role === 'print')?.name ?? null);
	const planned = new Map(
		stagesOf(machines, side, run.plan, run.recipe.beltCmPerMin).map(({ name, secondsPerPanel }) => [name, secondsPerPanel])
	);
	const stages = machines.map(({ name }) => ({ name, plannedS: planned.get(name) ?? null, cyclesS: measured.get(name) ?? [] }));
	return { pace: judgePace(stages, run.plan.byHand.length), cycles: new Map(stages.map((stage) => [stage.name, stage])) };
}

interface Stands {
	row: StationRow;
	standing: Standing;
	next: NextUp[];
}

/** One verdict of everything that is in use at a station. */
async function standingOf(row: StationRow, context: LineContext, rights: Rights): Promise<Stands> {
	const { parts, dues, figure, words } = await moduleOf(row.role).summary(row, context);
	const href = stationHref(context.lineId, row.role, row.id);
	const machine = kindOf(row.role).machine ? { name: row.name, stopped: row.state === 'stopped', reason: row.stateReason } : null;
	const stands = stationStands(machine, parts, dues, context.nowMs);
	const { verdict, act } = stands;
	const to = (where: string) => (where.startsWith('/') && !where.startsWith('//') && !isTab(row.role, where) ? where : `${href}${where}`);
	const asked = act && { say: act.say, href: to(act.where), who: whoMay(act.right, rights) };
	const standing: Standing = {
		stationId: row.id,
		role: row.role,
		name: row.name,
		href,
		state: row.state,
		verdict,
		figure,
		words,
		act: asked
	};
	const next = nextOf(row.name, stands, dues, context.nowMs).map((due) => toNextUp(due, to(due.where), rights));
	return { row, standing, next };
}

const isTab = (role: StationRole, where: string) => kindOf(role).tabs.some(({ path }) => path !== '' && where.startsWith(path));

function whoMay(right: Act['right'], rights: Rights): string {
	const roles = right === null ? ROLES : rolesThatMay(right, rights);
	return roles.length === ROLES.length ? 'anybody' : roles.join(', ');
}

const toNextUp = (
	{ atMs, station, action, reason, right }: Omit<Due, 'right'> & Pick<Act, 'right'>,
	href: string,
	rights: Rights
): NextUp => ({
	atMs,
	station,
	action,
	reason,
	href,
	who: whoMay(right, rights)
});

function tileOf({ row, standing, next }: Stands, machines: readonly StationRow[], counts: ReadonlyMap<number, number>): Tile {
	const before = machines[machines.findIndex((m) => m.id === row.id) - 1];
	return {
		stationId: standing.stationId,
		role: standing.role,
		name: standing.name,
		href: standing.href,
		state: standing.state,
		level: standing.verdict.level,
		figure: standing.figure,
		words: standing.words,
		// What the machine before has reported is on its way to this one, or in it.
		panels: (before && row.id !== 0 && counts.get(before.id)) || 0,
		dueAtMs: next.length ? Math.min(...next.map((n) => n.atMs)) : null,
		members: []
	};
}

/** Where a line has more tiles than the strip has room for, stations of one kind share one: it shows the worst of them. */
export function shareTiles(tiles: readonly Tile[], most = MOST_TILES): Tile[] {
	const shared = [...tiles];
	while (shared.length > most) {
		const counts = new Map<StationRole, number>();
		for (const tile of shared) if (kindOf(tile.role).many) counts.set(tile.role, (counts.get(tile.role) ?? 0) + 1);
		const [role, n] = [...counts].sort((a, b) => b[1] - a[1])[0] ?? [null, 0];
		if (role === null || n < 2) break;
		const own = shared.filter((tile) => tile.role === role);
		const level = worstLevel(own.map((tile) => tile.level));
		const worst = own.find((tile) => tile.level === level)!;
		const dues = own.flatMap((tile) => tile.dueAtMs ?? []);
		shared.splice(shared.indexOf(own[0]!), 1, {
			...worst,
			name: `${kindOf(role).name} (${n})`,
			panels: own.reduce((sum, tile) => sum + tile.panels, 0),
			dueAtMs: dues.length ? Math.min(...dues) : null,
			members: own.map(({ name, href, level: its }) => ({ name, href, level: its }))
		});
		for (const tile of own) if (shared.includes(tile)) shared.splice(shared.indexOf(tile), 1);
	}
	return shared;
}

async function panelsAt(lineId: number): Promise<Map<number, number>> {
	const rows = await db
		.selectFrom('panelPass')
		.innerJoin('station', 'station.id', 'panelPass.stationId')
		.select(({ fn }) => ['panelPass.stationId', fn.countAll<number>().as('panels')])
		.where('station.lineId', '=', lineId)
		.groupBy('panelPass.stationId')
		.execute();
	return new Map(rows.map((row) => [row.stationId!, row.panels]));
}

/** Stops of this shift that nobody has explained. */
async function unexplainedStops(lineId: number): Promise<StopRow[]> {
	const [nowMs, plant] = await Promise.all([plantNow(), plantInfo()]);
	const shift = shiftAt(nowMs, plant.shifts, plant.timeZone);
	if (!shift) return [];
	const stops = await stopsOf(lineId, new Date(shift.startMs), new Date(nowMs));
	return stops.filter((stop) => stop.reason === null).reverse();
}

/** When the shift ends and whether its hand-over bears both signatures. */
async function shiftState(lineId: number): Promise<{ endMs: number | null; signed: boolean }> {
	const [nowMs, plant] = await Promise.all([plantNow(), plantInfo()]);
	const shift = shiftAt(nowMs, plant.shifts, plant.timeZone);
	if (!shift) return { endMs: null, signed: false };
	const signed = await db
		.selectFrom('handOver')
		.select('id')
		.where('lineId', '=', lineId)
		.where('shiftDate', '=', shift.date)
		.where('shiftName', '=', shift.name)
		.where('incomingId', 'is not', null)
		.executeTakeFirst();
	return { endMs: shift.endMs, signed: signed !== undefined };
}
