import { redirect } from '@sveltejs/kit';
import { db } from '$lib/server/db/index.ts';

/** A jar that was scanned anywhere opens at the paste of the line that was looked at last. */
export async function load({ cookies, url }) {
	const first = await db.selectFrom('line').select('id').where('outOfUseAt', 'is', null).orderBy('id').executeTakeFirst();
	redirect(307, `/line/${Number(cookies.get('keen_line')) || (first?.id ?? 1)}/paste${url.search}`);
}
