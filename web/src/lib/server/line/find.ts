import type { Found } from '$lib/model/types.ts';
import { db } from '../db/index.ts';

/** Data identifiers that a label may carry before its code (ANSI MH10.8.2, from memory): serial, customer part, maker part, lot. */
const IDENTIFIER = /^(S|P|1P|1T)(?=[A-Z0-9])/;

/** The fields of an ISO/IEC 15434 envelope, or the code itself. */
function codesIn(scan: string): string[] {
	const text = scan.trim();
	if (!text.startsWith('[)>')) return [text];
	return text
		.replace(/^\[\)>\u001e?0[56]\u001d?/, '')
		.split(/[\u001d\u001e\u0004]/)
		.filter((field) => field !== '')
		.flatMap((field) => [field.replace(IDENTIFIER, ''), field]);
}

/** Says what a code is: a panel, a reel, a job, a part of a board, a person's badge. It never guesses. */
export async function find(scan: string): Promise<Found> {
	for (const code of codesIn(scan)) {
		const found = await findCode(code);
		if (found) return found;
	}
	return {
		ok: false,
		what: `No: ${scan.trim().slice(0, 40)} is not known`,
		why: 'No panel, reel, jar, stencil, job or badge has this code.',
		href: null,
		badge: null
	};
}

async function findCode(code: string): Promise<Found | null> {
	if (code === '') return null;
	const panel = await db
		.selectFrom('panel')
		.innerJoin('job', 'job.id', 'panel.jobId')
		.select(['panel.serial', 'job.number'])
		.where('panel.serial', '=', code)
		.executeTakeFirst();
	if (panel)
		return {
			ok: true,
			what: `Panel ${panel.serial}`,
			why: `of job ${panel.number}`,
			href: `/panels/${encodeURIComponent(panel.serial)}`,
			badge: null
		};
	const reel = await db
		.selectFrom('feederLoad')
		.innerJoin('station', 'station.id', 'feederLoad.stationId')
		.select(['feederLoad.partNumber', 'feederLoad.slot', 'station.name', 'station.lineId', 'station.id'])
		.where('feederLoad.reel', '=', code)
		.orderBy('feederLoad.loadedAt', 'desc')
		.executeTakeFirst();
	if (reel)
		return {
			ok: true,
			what: `Reel of ${reel.partNumber}`,
			why: `loaded on ${reel.name}, slot ${reel.slot}`,
			href: `/line/${reel.lineId}/place/${reel.id}?slot=${reel.slot}`,
			badge: null
		};
	const jar = await db
		.selectFrom('pasteJar')
		.innerJoin('paste', 'paste.id', 'pasteJar.pasteId')
		.select(['pasteJar.id', 'pasteJar.lot', 'paste.name'])
		.where('pasteJar.id', '=', code)
		.executeTakeFirst();
	if (jar)
		return {
			ok: true,
			what: `Jar ${jar.id}`,
			why: `${jar.name}, lot ${jar.lot}`,
			href: `/paste?jar=${encodeURIComponent(jar.id)}`,
			badge: null
		};
	const tool = await db
		.selectFrom('stencilTool')
		.innerJoin('stencil', 'stencil.id', 'stencilTool.stencilId')
		.innerJoin('boardSide', 'boardSide.id', 'stencil.boardSideId')
		.innerJoin('boardRevision', 'boardRevision.id', 'boardSide.boardRevisionId')
		.select(['stencilTool.code', 'stencilTool.place', 'boardRevision.name', 'boardRevision.revision', 'boardSide.side'])
		.where('stencilTool.code', '=', code)
		.executeTakeFirst();
	if (tool)
		return {
			ok: true,
			what: `Stencil ${tool.code}`,
			why: `${tool.name} ${tool.revision}, ${tool.side}; ${tool.place}`,
			href: `/stencils?code=${encodeURIComponent(tool.code)}`,
			badge: null
		};
	const job = await db.selectFrom('job').select(['number', 'panels']).where('number', '=', code).executeTakeFirst();
	if (job)
		return {
			ok: true,
			what: `Job ${job.number}`,
			why: `${job.panels} panels`,
			href: `/runs?job=${encodeURIComponent(job.number)}`,
			badge: null
		};
	const person = await db.selectFrom('user').select(['name', 'role']).where('username', '=', code.toLowerCase()).executeTakeFirst();
	if (person) return { ok: true, what: person.name, why: person.role, href: null, badge: code.toLowerCase() };
	return null;
}
