import { createParser } from '@tracespace/parser';
import { readPasteLayer } from '@keen-relay/core/artwork';
import { airNodes, predictCurve, startingRecipe, GENERIC_WINDOWS, type Oven } from '@keen-relay/core/reflow';
import { checkStencil, websOf } from '@keen-relay/core/stencil';
import { pair, type Measurement } from './measure.ts';

const APERTURES = 10_000;

/** A layer of 10 000 flashes, nine in ten of them standard shapes, as a large panel has. */
function largeLayer(): string {
	const n = (mm: number) => Math.round(mm * 1e5);
	const body = Array.from({ length: APERTURES }, (_, i) => {
		const code = i % 10 === 9 ? 14 : 10 + (i % 4);
		return `D${code}*\nX${n((i % 100) * 1.5)}Y${n(Math.floor(i / 100) * 1.5)}D03*`;
	});
	return [
		'%FSLAX35Y35*%',
		'%MOMM*%',
		'%AMSOFT*21,1,$1,$2-$3-$3,0,0,0*21,1,$1-$3-$3,$2,0,0,0*1,1,$3+$3,$1/2-$3,$2/2-$3*1,1,$3+$3,$3-$1/2,$2/2-$3*1,1,$3+$3,$1/2-$3,$3-$2/2*1,1,$3+$3,$3-$1/2,$3-$2/2*%',
		'%ADD10R,0.5X0.54*%',
		'%ADD11C,0.3*%',
		'%ADD12O,0.27X1.2*%',
		'%ADD13R,0.9X0.95*%',
		'%ADD14SOFT,0.75X0.85X0.06*%',
		...body,
		'M02*'
	].join('\n');
}

export async function apertures(): Promise<Measurement> {
	const text = largeLayer();
	let webs = 0;
	const { ms, referenceMs } = await pair(
		5,
		() => {
			const { apertures: openings, issues } = readPasteLayer(text);
			if (openings.length !== APERTURES || issues.length) throw new Error(`${openings.length} openings, ${issues.length} issues`);
			checkStencil(
				openings.map((o) => ({ ...o, name: String(o.index) })),
				0.1,
				'laser'
			);
			webs = websOf(openings, 2).filter((web) => web.webMm !== null).length;
		},
		() => {
			const parser = createParser();
			parser.feed(text);
			parser.result();
		}
	);
	if (webs !== APERTURES) throw new Error(`${webs} webs`);
	// The reading holds the parser's own time: what is ours is the rest.
	const own = Math.max(0, ms - referenceMs);
	return {
		what: `area, perimeter, ratios, transfer, volume and web of ${APERTURES} apertures, with their polygons, parsing apart`,
		ms: own,
		referenceMs,
		reference: 'the Gerber library parses the same file',
		ratio: own / referenceMs,
		target: 'at most 1.3',
		met: own / referenceMs <= 1.3
	};
}

const OVEN: Oven = {
	zoneM: Array<number>(10).fill(0.35),
	entryM: 0.3,
	entryShare: 0.1,
	cooling: [{ lengthM: 0.4, airC: 80 }],
	ambientC: 25,
	borderM: 0.1,
	setMinC: 60,
	setMaxC: 300,
	stepMaxC: 55,
	beltMinCmPerMin: 20,
	beltMaxCmPerMin: 140
};

/** Profile prediction against the bare closed form: one exponential a step, nothing found, nothing kept but the curve. */
export async function prediction(): Promise<Measurement> {
	const recipe = startingRecipe(OVEN, Object.values(GENERIC_WINDOWS)[0]!);
	const tau = [{ untilM: 99, tauS: 30 }];
	const { timeS } = predictCurve(OVEN, recipe, tau);
	const steps = timeS.length;
	const pieces = airNodes(OVEN, recipe).length;
	const times = 400;
	const bare = () => {
		const curve = new Array<number>(steps);
		const perPiece = Math.ceil(steps / pieces);
		let temp = 25;
		for (let i = 0; i < steps;) {
			const start = temp;
			const a = 100 + i * 0.2;
			for (let k = 1; k <= perPiece && i < steps; k++, i++) {
				const s = 0.5 * k;
				temp = a + 0.3 * (s - 30) + (start - a + 9) * Math.exp(-s / 30);
				curve[i] = temp;
			}
		}
		return curve;
	};
	const { ms, referenceMs } = await pair(
		7,
		() => {
			for (let i = 0; i < times; i++) predictCurve(OVEN, recipe, tau);
		},
		() => {
			for (let i = 0; i < times; i++) bare();
		}
	);
	return {
		what: `a profile predicted, ${steps} points`,
		ms: ms / times,
		referenceMs: referenceMs / times,
		reference: 'bare closed-form loop of as many points',
		ratio: ms / referenceMs,
		target: '',
		met: null
	};
}
