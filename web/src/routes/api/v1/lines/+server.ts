import { requireAction } from '$lib/server/people/access.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { db } from '$lib/server/db/index.ts';
import { createLine, newLine } from '$lib/server/line/stations.ts';

export async function GET() {
	return answer(() => db.selectFrom('line').selectAll().orderBy('id').execute());
}

export async function POST(event) {
	return answer(async () => createLine(requireAction(event.locals, 'line.create').id, await readJson(event, newLine)), 201);
}
