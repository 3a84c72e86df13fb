import { scanJar, stateWords, topUpG, type JarMove } from '@keen-relay/core/paste';
import { codesIn } from '@keen-relay/core/trace';
import { jarReport, weighed } from '$lib/model/jar-report.ts';
import type { Found, ScanMove } from '$lib/model/types.ts';
import { db } from '../db/index.ts';
import { askedOn } from '../stations/paste/jars.ts';
import { roomNow } from '../stations/paste/sensors.ts';
import { refusesOn, runOnLine, stencilTools } from '../stations/print/stencil-tools.ts';
import { plantNow } from '../plant/clock.ts';
import { jarsNow } from '../queries/jars.ts';
import { lineOf } from '../queries/bead.ts';

const REPLY = { ok: true, href: null, badge: null, moves: [] } satisfies Partial<Found>;

/** Says what a code is, and of a jar or stencil what may be done with it now on the line where it was scanned: yes or no, why, what next. It never guesses. */
export async function find(scan: string, lineId: number | null): Promise<Found> {
	for (const code of codesIn(scan))
		for (const look of [panel, reel, jar, stencil, job, person]) {
			const found = await look(code, lineId);
			if (found) return { ...REPLY, ...found };
		}
	return {
		...REPLY,
		ok: false,
		what: `No: ${scan.trim().slice(0, 40)} is not known`,
		why: 'No panel, reel, jar, stencil, job or badge has this code.'
	};
}

type Look = Partial<Found> & Pick<Found, 'what' | 'why'>;

async function panel(code: string): Promise<Look | null> {
	const row = await db
		.selectFrom('panel')
		.innerJoin('job', 'job.id', 'panel.jobId')
		.select(['panel.serial', 'job.number'])
		.where('panel.serial', '=', code)
		.executeTakeFirst();
	return row ? { what: `Panel ${row.serial}`, why: `of job ${row.number}`, href: `/panels/${encodeURIComponent(row.serial)}` } : null;
}

async function reel(code: string): Promise<Look | null> {
	const row = await db
		.selectFrom('feederLoad')
		.innerJoin('station', 'station.id', 'feederLoad.stationId')
		.select(['feederLoad.partNumber', 'feederLoad.slot', 'station.name', 'station.lineId', 'station.id'])
		.where('feederLoad.reel', '=', code)
		.orderBy('feederLoad.loadedAt', 'desc')
		.executeTakeFirst();
	return row
		? {
				what: `Reel of ${row.partNumber}`,
				why: `loaded on ${row.name}, slot ${row.slot}`,
				href: `/line/${row.lineId}/place/${row.id}?slot=${row.slot}`
			}
		: null;
}

/** A jar's next step, or why it must not be taken. */
async function jar(code: string, lineId: number | null): Promise<Look | null> {
	const nowMs = await plantNow();
	const [of] = await jarsNow(nowMs, [code]);
	if (!of) return null;
	const { facts, status, rules, pasteName } = of;
	const [line, air] = await Promise.all([lineId === null ? null : lineOf(lineId, nowMs), roomNow(nowMs, lineId)]);
	const about = `${pasteName}, lot ${facts.lot}, ${stateWords(status.state)}.`;
	const grams = line ? topUpG(line.portions, line.beadMm, line.acrossMm) : 0;
	const move = ({ kind, name }: JarMove): ScanMove => ({
		...jarReport(facts.id, kind, rules, lineId, grams),
		name,
		grams: weighed(kind) ? grams : null
	});
	const href = `/paste?jar=${encodeURIComponent(facts.id)}`;
	const scan = scanJar(facts, status, askedOn(line, air), nowMs, rules);
	if (scan.no !== null) return { ok: false, what: `No: ${facts.id}`, why: scan.no.ofPaste ? `${about} ${scan.no.why}` : scan.no.why, href };
	const moves = lineId === null ? [] : scan.moves.slice(0, 2).map(move);
	return { what: `${facts.id}: ${scan.next.name.toLowerCase()}`, why: about, href, moves };
}

/** Whether a stencil is the right one for what the line runs; without a run, what it is. */
async function stencil(code: string, lineId: number | null): Promise<Look | null> {
	const row = await db.selectFrom('stencilTool').select('id').where('code', '=', code).executeTakeFirst();
	const tool = row && (await stencilTools(row.id))[0];
	if (!tool) return null;
	const about = `${tool.board} ${tool.revision}, ${tool.side}; ${tool.place}`;
	const href = `/stencils?code=${encodeURIComponent(tool.code)}`;
	const run = lineId === null ? undefined : await runOnLine(lineId);
	if (!run) return { what: `Stencil ${tool.code}`, why: about, href };
	const [reason] = await refusesOn(tool, run.boardSideId, run.foilUm);
	if (reason) return { ok: false, what: `No: ${tool.code}`, why: `${reason.why} ${reason.fix}.`, href };
	if (tool.mountedOn === lineId) return { what: `${tool.code}: in the printer`, why: `${about}; it prints ${run.number}`, href };
	const mount = {
		name: `Mount for ${run.number}`,
		path: `/api/v1/stencil-tools/${tool.id}/events`,
		body: { kind: 'mount', lineId },
		grams: null
	};
	return { what: `${tool.code}: right for ${run.number}`, why: about, href, moves: [mount] };
}

async function job(code: string): Promise<Look | null> {
	const row = await db.selectFrom('job').select(['number', 'panels']).where('number', '=', code).executeTakeFirst();
	return row ? { what: `Job ${row.number}`, why: `${row.panels} panels`, href: `/runs?job=${encodeURIComponent(row.number)}` } : null;
}

async function person(code: string): Promise<Look | null> {
	const row = await db.selectFrom('user').select(['name', 'role']).where('username', '=', code.toLowerCase()).executeTakeFirst();
	return row ? { what: row.name, why: row.role, badge: code.toLowerCase() } : null;
}
