import { db, type Db, type Trx } from '../db/index.ts';

export interface AlternateNow {
	partNumber: string;
	alternate: string;
	/** Null: for every customer. */
	customer: string | null;
	note: string;
	by: string;
	at: Date;
}

/** Every pair that is approved now. */
export async function alternatesNow(trx: Db | Trx = db): Promise<AlternateNow[]> {
	const rows = await trx
		.selectFrom('alternate as a')
		.innerJoin('user', 'user.id', 'a.personId')
		.distinctOn(['a.partNumber', 'a.alternate', 'a.customer'])
		.select(['a.partNumber', 'a.alternate', 'a.customer', 'a.approved', 'a.note', 'a.at', 'user.name as by'])
		.orderBy('a.partNumber')
		.orderBy('a.alternate')
		.orderBy('a.customer')
		.orderBy('a.id', 'desc')
		.execute();
	return rows.flatMap(({ approved, ...row }) => (approved ? [row] : []));
}

/** What may stand for each part on a customer's boards; what is approved for somebody else's is named, and refused at the feeder. */
export type Alternates = ReadonlyMap<string, { part: string; approved: boolean }[]>;

export async function alternatesFor(customer: string, trx: Db | Trx = db): Promise<Alternates> {
	const found = new Map<string, { part: string; approved: boolean }[]>();
	for (const { partNumber, alternate, customer: of } of await alternatesNow(trx)) {
		const own = found.get(partNumber) ?? [];
		const approved = of === null || of === customer;
		const known = own.find(({ part }) => part === alternate);
		if (known) known.approved ||= approved;
		else own.push({ part: alternate, approved });
		found.set(partNumber, own);
	}
	return found;
}
