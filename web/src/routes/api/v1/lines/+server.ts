import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { db } from '$lib/server/db/index.ts';
import { createLine } from '$lib/server/line/stations.ts';
import { authorize } from '$lib/server/people/access.ts';

export async function GET() {
	return answer(() => db.selectFrom('line').selectAll().orderBy('id').execute());
}

export async function POST(event) {
	return answer(async () => createLine(await authorize(event, 'line.create'), await readJson(event, bodies.line)), 201);
}
