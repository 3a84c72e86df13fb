import { scanJar, stateWords, topUpG, type JarMove } from '@keen-relay/core/paste';
import { codesIn } from '@keen-relay/core/trace';
import { jarReport, weighed } from '$lib/model/jar-report.ts';
import type { Found, ScanMove } from '$lib/model/types.ts';
import { db } from '../db/index.ts';
import { sameCode } from '../db/same-code.ts';
import { askedOn } from '../stations/paste/jars.ts';
import { roomNow } from '../stations/paste/sensors.ts';
import { refusesOn, runOnLine, stencilTools } from '../stations/print/stencil-tools.ts';
import { plantNow } from '../plant/clock.ts';
import { jarsNow } from '../queries/jars.ts';
import { lineOf } from '../queries/bead.ts';
import { currentRun } from '../queries/runs.ts';
import { needsOf } from '../queries/slots.ts';
import { reelsNow } from '../queries/reels.ts';

const REPLY = { ok: true, href: null, badge: null, moves: [], waits: null } satisfies Partial<Found>;

/** Says what a code is, and of a jar or stencil what may be done with it now on the line where it was scanned: yes or no, why, what next. It never guesses. */
export async function find(scan: string, lineId: number | null): Promise<Found> {
	for (const code of codesIn(scan))
		for (const look of [panel, reel, feeder, jar, stencil, blade, slot, part, job, person]) {
			const found = await look(code, lineId);
			if (found) return { ...REPLY, ...found };
		}
	return {
		...REPLY,
		ok: false,
		what: `No: ${scan.trim().slice(0, 40)} is not known`,
		why: 'No panel, reel, feeder, jar, stencil, blade, slot, part, job or badge has this code.'
	};
}

type Look = Partial<Found> & Pick<Found, 'what' | 'why'>;

async function panel(code: string): Promise<Look | null> {
	const row = await db
		.selectFrom('panel')
		.innerJoin('job', 'job.id', 'panel.jobId')
		.select(['panel.serial', 'job.number'])
		// Labels are printed in capitals; a scanner may be set otherwise.
		.where('panel.serial', 'in', [code, code.toUpperCase()])
		.executeTakeFirst();
	return row ? { what: `Panel ${row.serial}`, why: `of job ${row.number}`, href: `/panels/${encodeURIComponent(row.serial)}` } : null;
}

async function reel(code: string): Promise<Look | null> {
	const [received] = await reelsNow(await plantNow(), [code]);
	if (received) {
		const { feeder, status } = received;
		const stands = feeder ? `in feeder ${feeder.code}${feeder.slot === null ? '' : `, slot ${feeder.slot}`}` : status.place;
		return {
			what: `Reel of ${received.partNumber}`,
			why: `${received.pieces} pieces, ${status.gone ? 'used up' : stands}${status.blocked === null ? '' : `; blocked: ${status.blocked}`}`,
			href: `/parts/reels?reel=${encodeURIComponent(received.code)}`
		};
	}
	const row = await db
		.selectFrom('feederLoad')
		.innerJoin('station', 'station.id', 'feederLoad.stationId')
		.select(['feederLoad.partNumber', 'feederLoad.slot', 'station.name', 'station.lineId', 'station.id'])
		.where('feederLoad.reel', 'in', [code, code.toUpperCase()])
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

/** A feeder, with what is in it: its reel or its slot may follow. */
async function feeder(code: string, lineId: number | null): Promise<Look | null> {
	const row = await db
		.selectFrom('feeder')
		.leftJoin('reel', 'reel.code', 'feeder.reel')
		.leftJoin('station', 'station.id', 'feeder.stationId')
		.select(['feeder.code', 'feeder.reel', 'feeder.slot', 'feeder.outOfService', 'reel.partNumber', 'station.name as station'])
		.where(sameCode('feeder.code', code))
		.executeTakeFirst();
	if (!row) return null;
	const href = '/parts/feeders';
	if (row.outOfService !== null)
		return { ok: false, what: `No: feeder ${row.code}`, why: `It is out of service: ${row.outOfService}.`, href };
	const waits = row.reel === null ? 'reel' : 'slot or reel';
	const held = row.reel === null ? 'No reel is in it.' : `${row.partNumber}, reel ${row.reel}.`;
	return {
		what: `Feeder ${row.code}`,
		why: `${held}${row.station ? ` It stands in ${row.station}, slot ${row.slot}.` : ''}${lineId === null ? '' : ` Scan the ${waits}.`}`,
		href,
		waits: lineId === null ? null : { for: waits, context: { slot: null, feeder: row.code } }
	};
}

/** A jar's next step, or why it must not be taken. */
async function jar(code: string, lineId: number | null): Promise<Look | null> {
	const nowMs = await plantNow();
	const [of] = await jarsNow(nowMs, [code, code.toUpperCase()]);
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
	const row = await db.selectFrom('stencilTool').select('id').where(sameCode('code', code)).executeTakeFirst();
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

/** The blade with that number, where it was fitted last. */
async function blade(code: string): Promise<Look | null> {
	const row = await db
		.selectFrom('bladeFitting')
		.innerJoin('line', 'line.id', 'bladeFitting.lineId')
		.select(['bladeFitting.id', 'bladeFitting.code', 'bladeFitting.stroke', 'bladeFitting.nicked', 'bladeFitting.lineId', 'line.name'])
		.where(sameCode('bladeFitting.code', code))
		.orderBy('bladeFitting.id', 'desc')
		.executeTakeFirst();
	if (!row) return null;
	const now = await db
		.selectFrom('bladeFitting')
		.select('code')
		.where('lineId', '=', row.lineId)
		.where('stroke', '=', row.stroke)
		.orderBy('id', 'desc')
		.executeTakeFirstOrThrow();
	const holder = `${row.stroke === 'F' ? 'front' : 'rear'} holder of ${row.name}`;
	return {
		what: `Blade ${row.code}${row.nicked ? ': it has a nick' : ''}`,
		why: now.code === row.code ? `in the ${holder}` : `taken out of the ${holder}; ${now.code} is in it now`,
		href: `/line/${row.lineId}/print`
	};
}

/** A slot as labels name it: "Line 1/Place 1/24", or without its line where it was scanned on one. */
async function slot(code: string, lineId: number | null): Promise<Look | null> {
	const [, line, machine, number] = /^(?:([^/]+)\/)?([^/]+)\/(\d{1,4})$/.exec(code) ?? [];
	if (!machine || (!line && lineId === null)) return null;
	const station = await db
		.selectFrom('station')
		.innerJoin('line', 'line.id', 'station.lineId')
		.select(['station.id', 'station.name', 'station.lineId', 'line.name as line'])
		.where('station.role', '=', 'place')
		.where('station.outOfUseAt', 'is', null)
		.where(sameCode('station.name', machine))
		.where(({ fn, eb }) => (line ? eb(fn<string>('lower', ['line.name']), '=', line.toLowerCase()) : eb('line.id', '=', lineId!)))
		.executeTakeFirst();
	if (!station) return null;
	const load = await db
		.selectFrom('feederLoad')
		.select(['partNumber', 'reel'])
		.where('stationId', '=', station.id)
		.where('slot', '=', Number(number))
		.orderBy('loadedAt', 'desc')
		.executeTakeFirst();
	const here = station.lineId === lineId;
	const [run, docked] = await Promise.all([
		here ? currentRun(lineId) : null,
		db.selectFrom('feeder').select('code').where('stationId', '=', station.id).where('slot', '=', Number(number)).executeTakeFirst()
	]);
	const need = run && needsOf(run.plan, station.name, new Map()).find((n) => n.slot === Number(number));
	const waits = docked ? 'feeder or reel' : 'feeder';
	const last = load ? `last loaded with ${load.partNumber}, reel ${load.reel}` : `nothing was reported loaded on ${station.line}`;
	return {
		what: `${station.name}, slot ${number}`,
		why: need ? `wants ${need.part}${docked ? `; ${docked.code} stands in it` : ''}. Scan the ${waits}.` : last,
		waits: need ? { for: waits, context: { slot: { stationId: station.id, slot: Number(number) }, feeder: null } } : null,
		href: `/line/${station.lineId}/place/${station.id}?slot=${number}`
	};
}

/** A part number: where the line's run takes it from. */
async function part(code: string, lineId: number | null): Promise<Look | null> {
	const run = lineId === null ? null : await currentRun(lineId);
	const slots = (run?.plan.machines ?? []).flatMap(({ machine, loadList }) =>
		loadList
			.filter(({ partNumber }) => partNumber.toLowerCase() === code.toLowerCase())
			.map(({ slot, partNumber }) => ({ machine, slot, partNumber }))
	);
	if (run && slots.length) {
		const station = await db
			.selectFrom('station')
			.select('id')
			.where('lineId', '=', lineId!)
			.where('name', '=', slots[0]!.machine)
			.where('outOfUseAt', 'is', null)
			.executeTakeFirst();
		return {
			what: `Part ${slots[0]!.partNumber}`,
			why: `for ${run.number}: ${slots.map((s) => `${s.machine}, slot ${s.slot}`).join('; ')}`,
			href: station ? `/line/${lineId}/place/${station.id}?slot=${slots[0]!.slot}` : null
		};
	}
	const load = await db
		.selectFrom('feederLoad')
		.innerJoin('station', 'station.id', 'feederLoad.stationId')
		.innerJoin('line', 'line.id', 'station.lineId')
		.select(['feederLoad.partNumber', 'feederLoad.slot', 'station.name', 'line.name as line', 'station.id', 'station.lineId'])
		.where('feederLoad.partNumber', 'in', [code, code.toUpperCase()])
		.orderBy('feederLoad.loadedAt', 'desc')
		.executeTakeFirst();
	if (!load) return null;
	return {
		what: `Part ${load.partNumber}`,
		why: `${run ? `not in ${run.number}; ` : ''}last loaded on ${load.line}, ${load.name}, slot ${load.slot}`,
		href: `/line/${load.lineId}/place/${load.id}?slot=${load.slot}`
	};
}

async function job(code: string): Promise<Look | null> {
	const row = await db.selectFrom('job').select(['number', 'panels']).where('number', 'in', [code, code.toUpperCase()]).executeTakeFirst();
	return row ? { what: `Job ${row.number}`, why: `${row.panels} panels`, href: `/runs?job=${encodeURIComponent(row.number)}` } : null;
}

async function person(code: string): Promise<Look | null> {
	const row = await db
		.selectFrom('user')
		.select(['name', 'role'])
		.where('username', '=', code.toLowerCase())
		.where('leftAt', 'is', null)
		.executeTakeFirst();
	return row ? { what: row.name, why: row.role, badge: code.toLowerCase() } : null;
}
