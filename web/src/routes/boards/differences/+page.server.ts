import { idOf } from '$lib/server/answer.ts';
import { judgeDifferences } from '@keen-relay/core/boards';
import { noData } from '@keen-relay/core/judgement';
import { differencesNow } from '$lib/server/boards/differences.ts';
import { boardList, boardSide } from '$lib/server/queries/sides.ts';

/** What the files of a side say differently: ?side=, else the newest that cannot run for it, else the newest. */
export async function load({ url, depends }) {
	depends('live:boards');
	const boards = await boardList();
	const wanted = url.searchParams.get('side');
	const sideId = wanted ? idOf(wanted) : (boards.find((b) => b.errors)?.sideId ?? boards[0]?.sideId ?? null);
	const side = sideId === null ? undefined : await boardSide(sideId);
	const differences = side ? await differencesNow(side.id) : [];
	return {
		sides: boards.map(({ sideId, name, revision, side, errors }) => ({
			sideId,
			label: `${name} ${revision}, ${side}${errors ? `: ${errors} open` : ''}`
		})),
		side: side
			? {
					id: side.id,
					boardRevisionId: side.boardRevisionId,
					widthMm: side.widthMm,
					heightMm: side.heightMm,
					name: side.name,
					revision: side.revision,
					side: side.side
				}
			: null,
		differences,
		verdict: side ? judgeDifferences(differences) : noData('There is no board yet.', ['Read the files of a board'])
	};
}
