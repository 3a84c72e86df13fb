import { db } from '$lib/server/db/index.ts';
import { stationPage } from '$lib/server/line/station-page.ts';
import { stencilTools } from '$lib/server/stations/print/stencil-tools.ts';

export async function load({ params, url, depends }) {
	depends('live:boards', 'live:line');
	const { run, station, lineId } = await stationPage(params.line, 'print', url);
	const [tools, designs, mounted] = await Promise.all([
		stencilTools(),
		db
			.selectFrom('stencil')
			.innerJoin('boardSide', 'boardSide.id', 'stencil.boardSideId')
			.innerJoin('boardRevision', 'boardRevision.id', 'boardSide.boardRevisionId')
			.select([
				'stencil.id',
				'stencil.revision as design',
				'stencil.foilUm',
				'boardRevision.name',
				'boardRevision.revision',
				'boardSide.side'
			])
			.where('stencil.status', '=', 'released')
			.orderBy('boardRevision.name')
			.execute(),
		run ? db.selectFrom('run').select('stencilToolId').where('id', '=', run.id).executeTakeFirst() : null
	]);
	return {
		station,
		lineId,
		tools,
		designs,
		asked: url.searchParams.get('code'),
		run: run && { number: run.number, side: run.side, boardSideId: run.boardSideId, toolId: mounted?.stencilToolId ?? null }
	};
}
