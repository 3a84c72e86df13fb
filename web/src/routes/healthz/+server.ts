import { json } from '@sveltejs/kit';
import { isAway } from '$lib/server/db/away.ts';
import { health } from '$lib/server/plant/health.ts';

export async function GET() {
	try {
		return json(await health());
	} catch (error) {
		if (!isAway(error)) console.error('healthz:', error);
		return json({ database: { answers: false } }, { status: 503, headers: { 'retry-after': '5' } });
	}
}
