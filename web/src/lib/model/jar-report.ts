import type { JarEventKind } from '@keen-relay/core/paste';

const MORE: Partial<Record<JarEventKind, object>> = { mix: { by: 'hand' }, open: { stirred: true } };

/** Steps that move paste, and so ask how much. */
export const weighed = (kind: JarEventKind) => kind === 'load_stencil' || kind === 'scrape_off';

/** What reports a step of a jar's life on a line. */
export function jarReport(jar: string, kind: JarEventKind, lineId: number | null, grams: number) {
	return {
		path: `/api/v1/jars/${encodeURIComponent(jar)}/events`,
		body: { kind, ...(lineId === null ? {} : { lineId }), ...MORE[kind], ...(weighed(kind) ? { grams } : {}) }
	};
}
