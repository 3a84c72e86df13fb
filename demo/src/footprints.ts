import { readPackage } from '@keen-relay/core/parts';

/** One paste opening of a footprint, mm, before the part is turned. */
export interface Pad {
	x: number;
	y: number;
	shape: 'round rect' | 'rect' | 'obround' | 'circle';
	w: number;
	h: number;
}

const pair = (reach: number, w: number, h: number, shape: Pad['shape'] = 'round rect'): Pad[] => [
	{ x: -reach, y: 0, shape, w, h },
	{ x: reach, y: 0, shape, w, h }
];

const CHIP_PADS: Record<string, [number, number, number]> = {
	'0201': [0.28, 0.3, 0.32],
	'0402': [0.48, 0.5, 0.54],
	'0603': [0.78, 0.75, 0.85],
	'0805': [0.95, 0.95, 1.25],
	'1206': [1.5, 1.05, 1.65],
	'1210': [1.5, 1.05, 2.5]
};

/** Rows of pads along x at ±reach in y. */
function rows(n: number, pitch: number, reach: number, w: number, h: number, shape: Pad['shape']): Pad[] {
	const perRow = Math.ceil(n / 2);
	return Array.from({ length: n }, (_, i) => ({
		x: ((i % perRow) - (perRow - 1) / 2) * pitch,
		y: i < perRow ? -reach : reach,
		shape,
		w,
		h
	}));
}

function fourSides(n: number, pitch: number, reach: number, long: number, wide: number): Pad[] {
	const side = n / 4;
	return Array.from({ length: n }, (_, i) => {
		const along = ((i % side) - (side - 1) / 2) * pitch;
		const s = Math.floor(i / side);
		const vertical = s % 2 === 0;
		return {
			x: vertical ? (s === 0 ? -reach : reach) : along,
			y: vertical ? along : s === 1 ? -reach : reach,
			shape: 'obround' as const,
			w: vertical ? long : wide,
			h: vertical ? wide : long
		};
	});
}

/** Windows over a thermal pad: n x n with webs between them. */
function windows(size: number, n: number, web: number): Pad[] {
	const w = (size - (n - 1) * web) / n;
	return Array.from({ length: n * n }, (_, i) => ({
		x: ((i % n) - (n - 1) / 2) * (w + web),
		y: (Math.floor(i / n) - (n - 1) / 2) * (w + web),
		shape: 'rect' as const,
		w,
		h: w
	}));
}

/** Paste openings by package name, invented for the demo in the usual proportions. */
export function footprint(name: string): Pad[] {
	const body = readPackage(name);
	const pins = Number(/-(\d+)$/.exec(name)?.[1] ?? 0);
	const [l, w] = [body.lengthMm ?? 2, body.widthMm ?? 2];
	if (body.chip && CHIP_PADS[body.chip]) return pair(...CHIP_PADS[body.chip]!);
	if (body.kind === 'ballGrid') {
		const n = Math.floor((l - 0.2) / body.pitchMm!);
		return Array.from({ length: n * n }, (_, i) => ({
			x: ((i % n) - (n - 1) / 2) * body.pitchMm!,
			y: (Math.floor(i / n) - (n - 1) / 2) * body.pitchMm!,
			shape: 'circle' as const,
			w: 0.62 * body.pitchMm!,
			h: 0.62 * body.pitchMm!
		}));
	}
	if (/^QFN/.test(name)) return [...fourSides(pins - 1, body.pitchMm!, l / 2 - 0.1, 0.75, 0.23), ...windows(0.62 * l, l > 6 ? 3 : 2, 0.4)];
	if (/^QFP/.test(name)) return fourSides(pins, body.pitchMm!, l / 2 - 0.65, 1.3, 0.27);
	if (/^SOIC/.test(name)) return rows(pins, body.pitchMm!, 2.65, 0.55, 1.4, 'rect');
	if (/^SOT/.test(name)) {
		const at =
			pins === 3
				? [
						[-0.95, -1.05],
						[0.95, -1.05],
						[0, 1.05]
					]
				: [
						[-0.95, -1.05],
						[0, -1.05],
						[0.95, -1.05],
						[-0.95, 1.05],
						[0.95, 1.05]
					];
		return at.map(([x, y]) => ({ x: x!, y: y!, shape: 'rect', w: 0.6, h: 0.8 }));
	}
	if (body.kind === 'connector')
		return [
			...Array.from({ length: Math.floor(l / 2) }, (_, i): Pad => ({
				x: (i - (Math.floor(l / 2) - 1) / 2) * 2,
				y: w / 2 - 0.9,
				shape: 'rect',
				w: 0.9,
				h: 1.8
			})),
			...pair(l / 2 - 0.8, 1.4, 2.2, 'rect').map((pad) => ({ ...pad, y: -w / 2 + 1.3 }))
		];
	return pair(l / 2 - 0.16 * l, 0.34 * l, 0.86 * w, 'rect');
}
