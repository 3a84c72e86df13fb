import type { Issue } from '../judgement/index.ts';
import { boxOf, pointInRing, type Point, type Ring } from '../geometry/index.ts';
import { type LayerUnit, plotGerber } from './gerber-plot.ts';

/** What a layer is for. */
export type LayerFunction = 'copper' | 'mask' | 'paste' | 'legend' | 'profile' | 'other';

export interface DrawnLayer {
	kind: LayerFunction;
	/** Outlines to draw, mm, dark objects only. */
	rings: Ring[];
	/** Pads of a copper layer whose attribute says that no paste belongs on them. */
	noPaste: NoPastePad[];
	issues: Issue[];
}

export interface NoPastePad {
	at: Point;
	/** "FiducialPad", "TestPad" ... */
	padFunction: string;
	line: number;
}

/** X2 functions of pads that are not soldered from paste. */
const NO_PASTE = new Set(['FiducialPad', 'TestPad', 'ViaPad', 'WasherPad', 'AntiPad']);

const BY_NAME: readonly (readonly [RegExp, LayerFunction])[] = [
	[/paste|cream|\.gt?p$|\.gbp$/i, 'paste'],
	[/mask|resist|\.gts$|\.gbs$/i, 'mask'],
	[/legend|silk|overlay|\.gto$|\.gbo$/i, 'legend'],
	[/outline|profile|edge|border|\.gko$|\.gm1$/i, 'profile'],
	[/copper|signal|plane|\.gtl$|\.gbl$|\.g\d+$/i, 'copper']
];

/** What a layer says it is in its X2 attribute, else what its name suggests. */
export function layerFunction(text: string, name: string): LayerFunction {
	const said = /%TF\.FileFunction,([A-Za-z]+)/.exec(text)?.[1];
	switch (said) {
		case 'Copper':
			return 'copper';
		case 'Soldermask':
			return 'mask';
		case 'Paste':
			return 'paste';
		case 'Legend':
			return 'legend';
		case 'Profile':
			return 'profile';
		case undefined:
			return BY_NAME.find(([pattern]) => pattern.test(name))?.[1] ?? 'other';
		default:
			return 'other';
	}
}

/** Reads any other layer for drawing beneath the paste. Errors are issues with their line, never a drawing of something else. */
export function readLayer(text: string, name: string, asked: LayerUnit | null = null): DrawnLayer {
	const plot = plotGerber(text, asked);
	const kind = layerFunction(text, name);
	return {
		kind,
		rings: plot.shapes.filter((shape) => shape.polarity === 'dark').map((shape) => shape.outline),
		noPaste:
			kind === 'copper'
				? plot.shapes.flatMap(({ padFunction, outline, line }) => {
						if (!padFunction || !NO_PASTE.has(padFunction)) return [];
						const { minX, minY, maxX, maxY } = boxOf(outline);
						return [{ at: { x: (minX + maxX) / 2, y: (minY + maxY) / 2 }, padFunction, line }];
					})
				: [],
		issues: plot.issues
	};
}

/** The side of a copper layer, where its X2 attribute says it. */
export function layerSide(text: string): 'top' | 'bottom' | null {
	const said = /%TF\.FileFunction,Copper,L\d+,(Top|Bot)/.exec(text)?.[1];
	return said === 'Top' ? 'top' : said === 'Bot' ? 'bottom' : null;
}

/** Openings that lie over pads which get no paste.
 * @returns pairs of indices
 */
export function openingsOnNoPaste(
	openings: readonly { outline: Ring }[],
	pads: readonly { at: Point }[]
): { opening: number; pad: number }[] {
	const boxes = pads.length ? openings.map((o) => boxOf(o.outline)) : [];
	return pads.flatMap(({ at }, pad) => {
		const opening = boxes.findIndex(
			(b, i) => at.x >= b.minX && at.x <= b.maxX && at.y >= b.minY && at.y <= b.maxY && pointInRing(at, openings[i]!.outline)
		);
		return opening < 0 ? [] : [{ opening, pad }];
	});
}
