import type { JarEventKind, PasteRules } from '@keen-relay/core/paste';

/** Steps that move paste, and so ask how much. */
export const weighed = (kind: JarEventKind) => kind === 'load_stencil' || kind === 'scrape_off';

/** What reports a step of a jar's life on a line; stirred as its paste is. */
export function jarReport(jar: string, kind: JarEventKind, { stir }: Pick<PasteRules, 'stir'>, lineId: number | null, grams: number) {
	const more = kind === 'mix' ? { by: stir === 'mixer' ? stir : 'hand' } : kind === 'open' ? { stirred: stir !== 'none' } : {};
	return {
		path: `/api/v1/jars/${encodeURIComponent(jar)}/events`,
		body: { kind, ...(lineId === null ? {} : { lineId }), ...more, ...(weighed(kind) ? { grams } : {}) }
	};
}
