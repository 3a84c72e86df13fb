import { error } from '@sveltejs/kit';
import { calculationByName } from '$lib/api/calc/index.ts';
import type { z } from 'zod';
import { readJson } from '$lib/server/answer.ts';
import { bounded } from '$lib/server/heavy/pool.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'calculation',
	does: 'One calculation of the core: plain JSON in and out.',
	run: async ({ event, part }) => {
		const calculation = calculationByName.get(part('name'));
		if (!calculation) error(404, `There is no calculation "${part('name')}". GET /api/v1/calc lists them.`);
		return bounded('body', 'calculate', calculation.name, await readJson(event, calculation.input as z.ZodType<unknown>));
	}
});
