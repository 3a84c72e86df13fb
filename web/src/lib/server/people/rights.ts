import {
	ACTIONS,
	changeRights,
	DEFAULT_RIGHTS,
	may,
	strictRule,
	type Action,
	type ActionRule,
	type Rights,
	type Role
} from '@keen-relay/core/people';
import { sql } from 'kysely';
import { Conflict } from '../answer.ts';
import { announce, db, type Db, type Trx } from '../db/index.ts';
import { plantNow } from '../plant/clock.ts';
import { logAction, type Actor } from '../plant/log.ts';
import { onNews } from '../plant/stream.ts';
import { Remembered } from '../remembered.ts';

/** Another process may have changed the table: it is read again this often. */
const rights = new Remembered<Rights>(3000, () => readRights(db));

// A change that another process made is heard of as news.
onNews((topic) => {
	if (topic === 'people' || topic === 'back') rights.forget();
});

/** The table of actions as a lead has edited it. */
export const rightsNow = (): Promise<Rights> => rights.value();

/** To be called once a change of the table is on record. */
export const rightsChanged = (): void => rights.forget();

async function readRights(trx: Db | Trx): Promise<Rights> {
	const rights: Rights = { ...DEFAULT_RIGHTS };
	for (const { action, roles, approval } of await trx.selectFrom('actionRule').selectAll().execute())
		if (action in rights) rights[action] = strictRule(action, { roles, approval });
	return rights;
}

const sameRule = (a: ActionRule, b: ActionRule) =>
	a.approval === b.approval && a.roles.length === b.roles.length && a.roles.every((role) => b.roles.includes(role));

/** What a role may do: the buttons of a page ask this. */
export async function actionsOf(role: Role | null): Promise<Action[]> {
	if (role === null) return [];
	const rights = await rightsNow();
	return ACTIONS.filter((action) => may(role, action, rights));
}

export async function setRule(
	actor: Actor,
	action: Action,
	rule: ActionRule,
	startedFrom: ActionRule | null
): Promise<{ actionId: number }> {
	const done = await db.transaction().execute(async (trx) => {
		await sql`lock table action_rule in share row exclusive mode`.execute(trx);
		const before = await readRights(trx);
		changeRights(before, action, rule);
		const now = before[action];
		if (startedFrom && !sameRule(startedFrom, now))
			throw new Conflict(
				null,
				`Somebody else changed who may do this meanwhile: ${now.roles.join(', ')}; approval ${now.approval}. Theirs stands; decide again.`
			);
		await writeRule(trx, actor.id, action, rule);
		const words = `${action}: ${rule.roles.join(', ')}; approval ${rule.approval}`;
		const actionId = await logAction(trx, actor, 'rights.set', words, { kind: 'rights', action, before: before[action] });
		await announce(trx, 'people');
		return { actionId };
	});
	rightsChanged();
	return done;
}

export async function writeRule(trx: Trx, personId: string, action: Action, { roles, approval }: ActionRule): Promise<void> {
	const values = { roles: [...roles], approval, setBy: personId, setAt: new Date(await plantNow()) };
	await trx
		.insertInto('actionRule')
		.values({ action, ...values })
		.onConflict((conflict) => conflict.column('action').doUpdateSet(values))
		.execute();
}
