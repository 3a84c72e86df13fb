import { packageSheet, readPackage, withFacts, type ConfirmedPattern, type EnteredFacts, type PackageReader } from '@keen-relay/core/parts';
import { db, type Db, type Trx } from '../db/index.ts';

export async function enteredFacts(trx: Db | Trx = db): Promise<Map<string, EnteredFacts>> {
	const rows = await trx.selectFrom('packageFact').selectAll().orderBy('id').execute();
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
