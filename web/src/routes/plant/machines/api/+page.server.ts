import { CALCULATIONS } from '$lib/api/calc/index.ts';
import { ROUTES } from '$lib/api/routes.ts';

/** The API as people read it: the same list that its machine-readable description is made from. */
export function load() {
	return {
		calculations: CALCULATIONS.map(({ name, summary, example }) => ({ name, summary, example })),
		routes: ROUTES.map(({ method, path, who, summary, example }) => ({ method, path, who, summary, example }))
	};
}
