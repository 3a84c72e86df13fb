import { checkFact, PACKAGE_FIELDS, packageSheet, type PackageFactRow, type PackageField } from '@keen-relay/core/parts';
import { boxOf } from '@keen-relay/core/geometry';
import { announce, db } from '../db/index.ts';
import { plantNow } from '../plant/clock.ts';
import { logAction, type Actor } from '../plant/log.ts';
import { enteredFacts } from '../queries/packages.ts';
import { lockKey, refuseOverwritten } from '../queries/started-from.ts';

export interface PackageListRow {
	name: string;
	parts: number;
	facts: PackageFactRow[];
}

/** Every package of the boards, with its parts and all that is known of it. */
export async function packageList(): Promise<PackageListRow[]> {
	const [facts, sides] = await Promise.all([enteredFacts(), db.selectFrom('boardSide').select(['parts', 'apertures']).execute()]);
	const seen = new Map<string, { parts: number; spanMm: number | null }>();
	for (const side of sides)
		for (const part of side.parts) {
			if (!part.packageName) continue;
			const entry = seen.get(part.packageName) ?? { parts: 0, spanMm: null };
			entry.parts++;
			entry.spanMm ??= spanOf(part.apertures.flatMap((i) => side.apertures[i]?.outline ?? []));
			seen.set(part.packageName, entry);
		}
	return [...seen]
		.map(([name, { parts, spanMm }]) => ({ name, parts, facts: packageSheet(name, facts.get(name) ?? {}, spanMm) }))
		.sort((a, b) => b.parts - a.parts || a.name.localeCompare(b.name));
}

function spanOf(points: readonly { x: number; y: number }[]): number | null {
	if (points.length === 0) return null;
	const box = boxOf(points);
	return Math.round(Math.max(box.maxX - box.minX, box.maxY - box.minY) * 1000) / 1000;
}

/** Enters a value with its source: a new row, what was there before stays. */
export async function setFact(
	actor: Actor,
	packageName: string,
	field: PackageField,
	value: number | null,
	source: string,
	startedFrom: number | null
) {
	checkFact(field, value, source);
	const setAt = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		await lockKey(trx, `package ${packageName} ${field}`);
		const before = (await enteredFacts(trx)).get(packageName)?.[field] ?? null;
		refuseOverwritten(startedFrom, before?.value ?? null, `${packageName}, ${PACKAGE_FIELDS[field].words.toLowerCase()}`);
		await trx.insertInto('packageFact').values({ packageName, field, value, source, setBy: actor.id, setAt }).execute();
		const actionId = await logAction(trx, actor, 'package.set', `${packageName}, ${field}: ${value ?? 'unknown'}`, {
			kind: 'package',
			packageName,
			field,
			before
		});
		await announce(trx, 'boards');
		return { actionId };
	});
}
