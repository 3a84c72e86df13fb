import { RULES, type RuleName, type RuleValue } from '$lib/rules/index.ts';
import { Conflict } from '../answer.ts';
import { announce, db } from '../db/index.ts';
import { Remembered } from '../remembered.ts';
import { plantNow } from './clock.ts';
import { logAction, type Actor } from './log.ts';
import { onNews } from './stream.ts';

interface RuleRow {
	name: string;
	revision: number;
	value: unknown;
	setAt: Date;
	by: string;
}

/** Another process may have set one: they are read again this often. */
const rows = new Remembered<Map<string, RuleRow>>(3000, readRules);
onNews((topic) => {
	if (topic === 'people' || topic === 'back') rows.forget();
});

async function readRules(): Promise<Map<string, RuleRow>> {
	const list = await db
		.selectFrom('plantRule')
		.innerJoin('user', 'user.id', 'plantRule.setBy')
		.distinctOn('plantRule.name')
		.select(['plantRule.name', 'revision', 'value', 'setAt', 'user.name as by'])
		.orderBy('plantRule.name')
		.orderBy('revision', 'desc')
		.execute();
	return new Map(list.map((row) => [row.name, row]));
}

/** A rule as it holds now: the plant's own, or what it starts with. */
export async function ruleNow<N extends RuleName>(name: N): Promise<RuleValue<N>> {
	const row = (await rows.value()).get(name);
	const { schema, start } = RULES[name];
	// What an older program kept is filled up with the start values of what came since.
	return (schema.safeParse({ ...start, ...((row?.value ?? {}) as object) }).data ?? schema.parse(start)) as RuleValue<N>;
}

/** Who set a rule last, and its revision; null where it is as it started. */
export async function ruleSet(name: RuleName): Promise<{ revision: number; by: string; at: Date } | null> {
	const row = (await rows.value()).get(name);
	return row ? { revision: row.revision, by: row.by, at: row.setAt } : null;
}

/** Sets a rule; every value that it had stays written. */
export async function setRuleValue(
	actor: Actor,
	name: RuleName,
	value: unknown,
	startedFrom: number | null
): Promise<{ revision: number }> {
	const kept = RULES[name].schema.parse(value);
	const done = await db.transaction().execute(async (trx) => {
		const last = await trx
			.selectFrom('plantRule')
			.select(({ fn }) => fn.max('revision').as('revision'))
			.where('name', '=', name)
			.executeTakeFirst();
		const now = last?.revision ?? null;
		if (now !== startedFrom) throw new Conflict(now, 'Somebody else set this meanwhile. Theirs stands; look at it and decide again.');
		const revision = (now ?? 0) + 1;
		await trx
			.insertInto('plantRule')
			.values({ name, revision, value: JSON.stringify(kept), setBy: actor.id, setAt: new Date(await plantNow()) })
			.execute();
		await logAction(trx, actor, 'rules.set', `${RULES[name].title}: revision ${revision}`);
		await announce(trx, 'people');
		return { revision };
	});
	rows.forget();
	return done;
}
