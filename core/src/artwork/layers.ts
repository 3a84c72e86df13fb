import type { Issue } from '../judgement/index.ts';
import type { Ring } from '../numerics/index.ts';
import { plotGerber } from './gerber-plot.ts';

/** What a layer is for. */
export type LayerFunction = 'copper' | 'mask' | 'paste' | 'legend' | 'profile' | 'other';

export interface DrawnLayer {
	kind: LayerFunction;
	/** Outlines to draw, mm, dark objects only. */
	rings: Ring[];
	issues: Issue[];
}

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
export function readLayer(text: string, name: string): DrawnLayer {
	const plot = plotGerber(text);
	return {
		kind: layerFunction(text, name),
		rings: plot.shapes.filter((shape) => shape.polarity === 'dark').map((shape) => shape.outline),
		issues: plot.issues
	};
}
