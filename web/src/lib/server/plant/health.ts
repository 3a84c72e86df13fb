import { statfs } from 'node:fs/promises';
import { sql } from 'kysely';
import { db } from '../db/index.ts';
import { plantNow } from './clock.ts';

/** A source that was silent for longer is no longer waited for, ms. */
const SILENT_MS = 30 * 86_400_000;

const ageS = (at: Date, nowMs: number) => Math.max(0, Math.round((nowMs - at.getTime()) / 1000));

/** What whoever watches a plant's server asks of it: database, room on the disk, how long each source has been silent by the plant's clock, and how old the last backup is.
 * @throws where the database is away
 */
export async function health() {
	const nowMs = await plantNow();
	const [size, sources, backup, disk] = await Promise.all([
		sql<{ bytes: number }>`select pg_database_size(current_database()) as bytes`.execute(db),
		db
			.selectFrom('messageSource')
			.select(['source', 'lastAt'])
			.where('lastAt', '>', new Date(nowMs - SILENT_MS))
			.orderBy('source')
			.execute(),
		db.selectFrom('backup').select(['at', 'file', 'bytes']).orderBy('at', 'desc').executeTakeFirst(),
		statfs(process.cwd())
	]);
	return {
		database: { answers: true, bytes: size.rows[0]!.bytes },
		disk: { freeBytes: disk.bavail * disk.bsize, freeShare: disk.bavail / Math.max(1, disk.blocks) },
		sources: sources.map(({ source, lastAt }) => ({ source, lastMessageAgeS: ageS(lastAt, nowMs) })),
		backup: backup ? { file: backup.file, bytes: backup.bytes, ageS: ageS(backup.at, Date.now()) } : null
	};
}
