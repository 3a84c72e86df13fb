import type { BoardPart, PanelGeometry } from '@keen-relay/core/artwork';
import { lineWork, type LineWork } from '@keen-relay/core/balance';
import { readPackage, withFacts, type EnteredFacts } from '@keen-relay/core/parts';
import type { PlacerSpec } from '@keen-relay/core/placement';

/** What a line has to place, as it crosses from the server to a page and into a worker. */
export interface GivenWork {
	parts: readonly BoardPart[];
	panel: PanelGeometry;
	machines: readonly PlacerSpec[];
	/** What the plant entered of the packages that are on it. */
	facts: Readonly<Record<string, EnteredFacts>>;
}

export const workFrom = ({ parts, panel, machines, facts }: GivenWork): LineWork =>
	lineWork(parts, panel, machines, (name) => withFacts(readPackage(name), facts[name] ?? {}));
