import {
	checkFact,
	packageSheet,
	readPackage,
	withFacts,
	type ConfirmedPattern,
	type EnteredFacts,
	type PackageFactRow,
	type PackageField,
	type PackageReader
} from '@keen-relay/core/parts';
import { boxOf } from '@keen-relay/core/numerics';
import { announce, db } from '../db/index.ts';
import { plantNow } from '../line/clock.ts';
import { logAction, type Actor } from '../people/log.ts';

async function enteredFacts(): Promise<Map<string, EnteredFacts>> {
	const rows = await db.selectFrom('packageFact').selectAll().orderBy('id').execute();
	const facts = new Map<string, EnteredFacts>();
	// The latest row of a field counts; one without a value and source "withdrawn" gives the field back to its name.
	for (const { packageName, field, value, source } of rows) {
		const own = facts.get(packageName) ?? {};
		if (source === WITHDRAWN) delete own[field];
		else own[field] = { value, source };
		facts.set(packageName, own);
	}
	return facts;
}

export const WITHDRAWN = 'withdrawn';

/** Land patterns whose pin 1 somebody has confirmed, by package name. */
export async function confirmedPatterns(): Promise<Map<string, ConfirmedPattern>> {
	const patterns = new Map<string, ConfirmedPattern>();
	for (const [name, facts] of await enteredFacts()) {
		const pinOneDeg = facts.pinOneDeg?.value ?? null;
		const leads = packageSheet(name, facts).find((row) => row.field === 'leads')?.value ?? null;
		if (pinOneDeg !== null && leads !== null) patterns.set(name, { leads, pinOneDeg, grid: readPackage(name).kind === 'ballGrid' });
	}
	return patterns;
}

/** Reads packages with what the plant has entered of them. */
export async function packageReader(): Promise<PackageReader> {
	const facts = await enteredFacts();
	return (name) => withFacts(readPackage(name), facts.get(name) ?? {});
}

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
export async function setFact(actor: Actor, packageName: string, field: PackageField, value: number | null, source: string) {
	checkFact(field, value, source);
	const setAt = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		const before = (await enteredFacts()).get(packageName)?.[field] ?? null;
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
