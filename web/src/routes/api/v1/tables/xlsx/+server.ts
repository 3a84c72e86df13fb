import { bodies } from '$lib/api/bodies.ts';
import { bounded } from '$lib/server/heavy/pool.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'person',
	does: 'Writes a table as it is shown into a spreadsheet (XLSX).',
	body: bodies.tableFile,
	example: { name: 'boards', columns: ['Board', 'Openings'], rows: [['Orchard frost sensor', 212]] },
	run: async ({ body }) =>
		new Response(new Uint8Array(await bounded('table', 'sheet', body)), {
			headers: {
				'content-type': 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
				'content-disposition': `attachment; filename="${body.name.replace(/[^\w .-]/g, '_')}.xlsx"`
			}
		})
});
