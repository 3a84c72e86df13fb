import { answer, idOf } from '$lib/server/answer.ts';
import { modifiedLayer } from '$lib/server/stations/print/opening-rules.ts';

/** The openings of a side under the plant's rules, for the stencil maker: RS-274X, or a table with ?as=csv. */
export async function GET({ params, url }) {
	const csv = url.searchParams.get('as') === 'csv';
	let text = '';
	let name = '';
	const refused = await answer(async () => {
		const layer = await modifiedLayer(idOf(params.id));
		[text, name] = [csv ? layer.csv : layer.gerber, layer.name];
	});
	if (!refused.ok) return refused;
	return new Response(text, {
		headers: {
			'content-type': csv ? 'text/csv; charset=utf-8' : 'application/octet-stream',
			'content-disposition': `attachment; filename="${name.replace(/[^\w .-]/g, '_')}.${csv ? 'csv' : 'gbr'}"`
		}
	});
}
