import { weakPin } from '@keen-relay/core/people';
import { env } from '$env/dynamic/private';
import { db } from '../db/index.ts';
import { createPerson } from './auth.ts';

/** A plant where nobody is known gets a first lead, who can enter everybody else. */
export async function ensureFirstLead(): Promise<void> {
	const pin = env.FIRST_PIN;
	if (!pin || (await db.selectFrom('user').select('id').limit(1).executeTakeFirst())) return;
	const badge = env.FIRST_BADGE ?? 'lead';
	const weak = weakPin(pin, badge, 'lead');
	if (weak) throw new Error(`FIRST_PIN: ${weak}`);
	await createPerson({ name: env.FIRST_NAME ?? 'First lead', badge, pin, role: 'lead' });
	console.log(`first lead created: badge ${badge}`);
}
