import { z } from 'zod';
import { modifiedLayer } from '$lib/server/stations/print/opening-rules.ts';
import { download, route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'Openings of a side under the plant’s rules, for the stencil maker: RS-274X, or a table.',
	query: z.object({ as: z.enum(['gerber', 'csv']).default('gerber') }),
	answers: 'application/octet-stream',
	run: async ({ id, query }) => {
		const { csv, gerber, name } = await modifiedLayer(id);
		return query.as === 'csv' ? download(csv, `${name}.csv`) : download(gerber, `${name}.gbr`, 'application/octet-stream');
	}
});
