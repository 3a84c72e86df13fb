import { redirect } from '@sveltejs/kit';
import { db } from '$lib/server/db/index.ts';

/** A stencil that was scanned anywhere opens in the library of the line that was looked at last. */
export async function load({ cookies, url }) {
	const first = await db.selectFrom('line').select('id').where('outOfUseAt', 'is', null).orderBy('id').executeTakeFirst();
	redirect(307, `/line/${Number(cookies.get('keen_line')) || (first?.id ?? 1)}/print/stencil/library${url.search}`);
}
