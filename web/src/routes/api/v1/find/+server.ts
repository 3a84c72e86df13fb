import { z } from 'zod';
import { find } from '$lib/server/line/find.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'What a scanned or typed code is, and what may be done with a jar or stencil now.',
	query: z.object({
		code: z.string().default('').describe('the code'),
		line: z.coerce.number().int().positive().optional().describe('where it was scanned')
	}),
	run: ({ query }) => find(query.code, query.line ?? null)
});
