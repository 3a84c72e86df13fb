import { seededRandom } from '../../numerics/index.ts';
import { transferEfficiency } from '../../stencil/index.ts';
import type { SignatureRun } from './run.ts';

const FOIL_UM = 100;

export interface Shape {
	/** Of parts. */
	rows?: number;
	panels?: number;
	wipeEvery?: number;
	/** Volume of pad p on panel m as a multiple of what the transfer curve gives. */
	volume?: (m: number, p: number, pad: SignatureRun['pads'][number], panel: SignatureRun['panels'][number]) => number;
	/** Height over foil as a multiple. */
	height?: (p: number, pad: SignatureRun['pads'][number]) => number;
	area?: number;
	offset?: (m: number, pad: SignatureRun['pads'][number], panel: SignatureRun['panels'][number]) => { x: number; y: number };
	pauseAt?: number[];
	oneStroke?: boolean;
	peaks?: number;
	bridges?: (m: number) => number;
	noise?: number;
}

/** Panels of rows of 12 parts with two pads each, written down by hand: no printer's physics is in it. */
export function writtenRun({
	rows = 10,
	panels = 30,
	wipeEvery = 5,
	volume = () => 1,
	height = () => 1,
	area = 1,
	offset = () => ({ x: 0, y: 0 }),
	pauseAt = [],
	oneStroke = false,
	peaks,
	bridges,
	noise = 0.03
}: Shape = {}): SignatureRun {
	const random = seededRandom(23);
	const pads = Array.from({ length: 24 * rows }, (_, i) => {
		const part = i >> 1;
		const large = part % 6 === 0;
		return {
			name: `R${part} pin ${(i & 1) + 1}`,
			refDes: `0/R${part}`,
			padClass: large ? 'large' : part % 2 ? 'smallChip' : 'chip',
			xMm: (part % 12) * 10 + (i & 1),
			yMm: Math.floor(part / 12) * 9,
			minSideMm: large ? 1.4 : part % 2 ? 0.3 : 0.6,
			areaRatio: large ? 2.4 : part % 2 ? 0.75 : 1.2
		};
	});
	let sinceWipe = -1;
	const list = Array.from({ length: panels }, (_, m) => {
		sinceWipe = m % wipeEvery === 0 || pauseAt.includes(m) ? 0 : sinceWipe + 1;
		return {
			serial: `J-1-${m + 1}`,
			tMin: m * 1.2,
			stroke: oneStroke || m % 2 === 0 ? 'F' : 'R',
			printsSinceWipe: sinceWipe,
			printsSinceTopup: m % 15,
			minutesSincePrevious: pauseAt.includes(m) ? 45 : 1.2
		};
	});
	const blank = () => new Float32Array(pads.length * panels);
	const out = { volumePct: blank(), heightUm: blank(), areaPct: blank(), offsetXUm: blank(), offsetYUm: blank() };
	list.forEach((panel, m) =>
		pads.forEach((pad, p) => {
			const i = m * pads.length + p;
			const te = transferEfficiency(pad.areaRatio);
			const wobble = 1 + noise * random.normal();
			const share = volume(m, p, pad, panel) * wobble;
			out.volumePct[i] = 100 * te * share;
			out.areaPct[i] = 100 * Math.pow(te, 0.4) * area;
			// Volume is area times height: what the volume has, the height has unless the area took it.
			out.heightUm[i] = FOIL_UM * Math.pow(te, 0.6) * height(p, pad) * (area === 1 ? share : 1);
			const o = offset(m, pad, panel);
			out.offsetXUm[i] = o.x + 6 * random.normal();
			out.offsetYUm[i] = o.y + 6 * random.normal();
		})
	);
	// Where height was changed by itself the volume follows, so that the readings agree with themselves.
	for (let i = 0; i < out.volumePct.length; i++) out.volumePct[i] = (out.areaPct[i]! * out.heightUm[i]!) / FOIL_UM;
	return {
		pads,
		panels: list,
		...out,
		...(peaks === undefined ? {} : { peakHeightUm: out.heightUm.map((h, i) => (i % 100 < peaks ? 1.8 * h : 1.1 * h)) as Float32Array }),
		...(bridges ? { bridges: list.map((_, m) => bridges(m)) } : {}),
		foilUm: FOIL_UM,
		strokeAxis: 'y'
	};
}
