import { CALCULATIONS } from '$lib/api/calc/index.ts';
import { KINDS } from '$lib/stations/index.ts';
import { MESSAGES, ownerOf } from '$lib/server/stations/index.ts';
import { describedRoutes } from '../../../api/described.ts';

/** The API as people read it, from what its machine-readable description is made from. */
export async function load() {
	return {
		calculations: CALCULATIONS.map(({ name, summary, example }) => ({ name, summary, example })),
		routes: (await describedRoutes())
			.filter(({ who }) => who !== 'calculation')
			.map(({ method, path, who, does, example }) => ({ method, path, who, does, example })),
		messages: MESSAGES.map(({ type, words }) => {
			const owner = ownerOf(type)?.module.role;
			return { type, words, from: owner ? KINDS.find((kind) => kind.role === owner)!.name : 'every machine' };
		})
	};
}
