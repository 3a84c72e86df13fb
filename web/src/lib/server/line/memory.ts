import { db } from '../db/index.ts';
import { onNews } from '../plant/stream.ts';
import { workOutLine, type LineNow } from './state.ts';

/** What is on record changed in one of these ways: lines are worked out anew. */
const MATTERS = new Set(['line', 'paste', 'results', 'boards', 'runs', 'shift', 'people', 'back']);
/** A line's dues move with the clock: its state is never older than this, real ms. */
const OLDEST_MS = 3000;
/** Changes that follow each other at once are worked out together, ms. */
const TOGETHER_MS = 150;
/** Lines that nobody has asked for lately are not kept up to date. */
const WATCHED_MS = 60_000;

interface Kept {
	state: Promise<LineNow | null>;
	/** Changes that it takes in. */
	version: number;
	madeAt: number;
	askedAt: number;
}

const kept = new Map<number, Kept>();
let version = 0;
let timer: NodeJS.Timeout | null = null;

function make(lineId: number, askedAt: number): Kept {
	const entry: Kept = { state: workOutLine(lineId), version, madeAt: Date.now(), askedAt };
	// One that could not be worked out is tried again by whoever asks next.
	entry.state.catch(() => kept.get(lineId) === entry && kept.delete(lineId));
	kept.set(lineId, entry);
	return entry;
}

/** How a line stands, worked out once a change and handed to all its pages; null where there is no such line. */
export function lineNow(lineId: number): Promise<LineNow | null> {
	const now = Date.now();
	const known = kept.get(lineId);
	if (known && known.version === version && now - known.madeAt < OLDEST_MS) {
		known.askedAt = now;
		return known.state;
	}
	return make(lineId, now).state;
}

/** Every line in use, as it stands. */
export async function linesNow(): Promise<LineNow[]> {
	const lines = await db.selectFrom('line').select('id').where('outOfUseAt', 'is', null).orderBy('id').execute();
	const states = await Promise.all(lines.map(({ id }) => lineNow(id)));
	return states.filter((state) => state !== null);
}

onNews((topic) => {
	if (!MATTERS.has(topic)) return;
	version++;
	timer ??= setTimeout(() => {
		timer = null;
		const now = Date.now();
		for (const [lineId, { askedAt, version: of }] of kept)
			if (now - askedAt > WATCHED_MS) kept.delete(lineId);
			else if (of !== version) make(lineId, askedAt);
	}, TOGETHER_MS);
	timer.unref();
});
