import type { DescribedRoute } from '$lib/api/openapi.ts';
import type { Route } from '$lib/server/route.ts';

const FILES = import.meta.glob<Partial<Record<string, Route>>>('./v1/**/+server.ts');
const METHODS = ['GET', 'POST', 'PUT', 'DELETE'] as const;

/** Every route of the public API as its file has it: the folder is the path, the export the method. Found, not listed. */
export async function describedRoutes(): Promise<DescribedRoute[]> {
	const files = await Promise.all(Object.entries(FILES).map(async ([file, load]) => ({ file, handlers: await load() })));
	return files.flatMap(({ file, handlers }) => {
		const path = `/api/${file.slice('./'.length, -'/+server.ts'.length)}`.replace(/\[(\w+)\]/g, '{$1}');
		return METHODS.flatMap((method) => {
			const description = handlers[method]?.description;
			return description ? [{ method, path, ...description }] : [];
		});
	});
}
