import { json } from '@sveltejs/kit';
import { openApi } from '$lib/api/openapi.ts';

export function GET() {
	return json(openApi());
}
