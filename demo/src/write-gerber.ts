import { rotate } from '@keen-relay/core/geometry';
import { readPackage } from '@keen-relay/core/parts';
import type { DemoBoard, PlacedPart } from './boards.ts';
import { footprint, type Pad } from './footprints.ts';

interface Flash extends Pad {
	refDes: string;
	pin: number;
}

/** Every opening of the board, mm, turned into place; sizes swap at 90°. */
function flashes(parts: readonly PlacedPart[]): Flash[] {
	return parts.flatMap((part) =>
		footprint(part.item.packageName).map((pad, i) => {
			const p = rotate({ x: pad.x, y: pad.y }, part.rotation);
			const [w, h] = part.rotation % 180 === 0 ? [pad.w, pad.h] : [pad.h, pad.w];
			// Design data of the bottom are drawn through the board: what is seen from below stands mirrored.
			const x = part.side === 'bottom' ? part.x - p.x : part.x + p.x;
			return { ...pad, w, h, x, y: part.y + p.y, refDes: part.refDes, pin: pinOf(part.item.packageName, i) };
		})
	);
}

/** Pads of a part in their order; the windows over a thermal pad are one pin, the last. */
function pinOf(packageName: string, pad: number): number {
	const pins = /^QFN/.test(packageName) ? Number(/-(\d+)$/.exec(packageName)?.[1]) : Infinity;
	return Math.min(pad + 1, pins);
}

/** An IPC-D-356A netlist of the pads, in 0.001 mm; nets are invented, one for each pin. */
export function writeNetlist(board: DemoBoard, parts: readonly PlacedPart[]): string {
	const pad = (text: string, width: number) => text.slice(0, width).padEnd(width);
	const um = (mm: number) => `${mm < 0 ? '-' : '+'}${String(Math.abs(Math.round(mm * 1000))).padStart(6, '0')}`;
	const seen = new Set<string>();
	const records = flashes(parts).flatMap((flash) => {
		const key = `${flash.refDes}-${flash.pin}`;
		if (seen.has(key)) return [];
		seen.add(key);
		const part = parts.find((p) => p.refDes === flash.refDes)!;
		const thermal = /^QFN/.test(part.item.packageName) && flash.shape === 'rect';
		const [x, y, w, h] = thermal ? [part.x, part.y, 4.4, 4.4] : [flash.x, flash.y, flash.w, flash.h];
		const size = (mm: number) => String(Math.round(mm * 1000)).padStart(4, '0');
		return `327${pad(`N${flash.refDes}_${flash.pin}`, 14)}   ${pad(flash.refDes, 6)}-${pad(String(flash.pin), 4)}       A${part.side === 'top' ? '01' : '02'}X${um(x)}Y${um(y)}X${size(w)}Y${size(h)}R000 S2`;
	});
	return ['C  invented nets of an invented board', 'P  JOB   ' + board.name, 'P  UNITS CUST 1', ...records, '999', ''].join('\n');
}

/** A legend layer: the outline of each body. */
export function writeLegend(board: DemoBoard, parts: readonly PlacedPart[], side: 'top' | 'bottom'): string {
	const n = (v: number) => String(Math.round(v * 1e6));
	const body = parts
		.filter((part) => part.side === side)
		.flatMap((part) => {
			const record = readPackage(part.item.packageName);
			const [l, w] = [(record.lengthMm ?? 1) / 2, (record.widthMm ?? 1) / 2];
			const [hx, hy] = part.rotation % 180 === 0 ? [l, w] : [w, l];
			const corners = [
				[-hx, -hy],
				[hx, -hy],
				[hx, hy],
				[-hx, hy],
				[-hx, -hy]
			];
			return corners.map(([dx, dy], i) => `X${n(part.x + dx!)}Y${n(part.y + dy!)}D0${i === 0 ? 2 : 1}*`);
		});
	const face = side === 'top' ? 'Top' : 'Bot';
	return [
		`G04 ${board.name}, legend*`,
		`%TF.FileFunction,Legend,${face}*%`,
		'%FSLAX46Y46*%',
		'%MOMM*%',
		'%ADD10C,0.1200*%',
		'D10*',
		'G01*',
		...body,
		'M02*',
		''
	].join('\n');
}

/** Writes the paste layer in the board's own style, so that the demo's two files use different parts of the format. */
export function writePaste(board: DemoBoard, parts: readonly PlacedPart[], side: 'top' | 'bottom' = 'top'): string {
	const own = parts.filter((part) => part.side === side);
	if (board.style === 'inch, regions') return inInches(board, own);
	return board.style === 'mm, X2 attributes' ? withAttributes(board, own) : inMillimetres(board, own, side);
}

/** Every pad flashed with the X2 attributes that say whose pin it is. */
function withAttributes(board: DemoBoard, parts: readonly PlacedPart[]): string {
	const n = (v: number) => String(Math.round(v * 1e6));
	const apertures = new Map<string, number>();
	const body = flashes(parts).flatMap((pad) => {
		const definition =
			pad.shape === 'circle' ? `C,${pad.w.toFixed(4)}` : `${pad.shape === 'obround' ? 'O' : 'R'},${pad.w.toFixed(4)}X${pad.h.toFixed(4)}`;
		if (!apertures.has(definition)) apertures.set(definition, 10 + apertures.size);
		return [`D${apertures.get(definition)}*`, `%TO.P,${pad.refDes},${pad.pin}*%`, `X${n(pad.x)}Y${n(pad.y)}D03*`, '%TD*%'];
	});
	return [
		`G04 ${board.name}, revision ${board.revision}, paste top, an invented board*`,
		'%TF.FileFunction,Paste,Top*%',
		'%FSLAX46Y46*%',
		'%MOMM*%',
		...[...apertures].map(([definition, d]) => `%ADD${d}${definition}*%`),
		'%LPD*%',
		'G01*',
		...body,
		'M02*',
		''
	].join('\n');
}

function inMillimetres(board: DemoBoard, parts: readonly PlacedPart[], side: 'top' | 'bottom'): string {
	const n = (v: number) => String(Math.round(v * 1e6));
	const apertures = new Map<string, number>();
	const code = (definition: string) => {
		const known = apertures.get(definition);
		if (known) return known;
		apertures.set(definition, 10 + apertures.size);
		return 9 + apertures.size;
	};
	const define = (pad: Pad) =>
		pad.shape === 'circle'
			? `C,${pad.w.toFixed(4)}`
			: pad.shape === 'round rect'
				? `SOFTRECT,${pad.w.toFixed(4)}X${pad.h.toFixed(4)}X0.0600`
				: `${pad.shape === 'rect' ? 'R' : 'O'},${pad.w.toFixed(4)}X${pad.h.toFixed(4)}`;
	const body: string[] = [];
	// Balls and windows repeat on a grid: written once, stepped by the format itself.
	const grids = parts.filter((part) => /^BGA/.test(part.item.packageName));
	const all = flashes(parts.filter((part) => !grids.includes(part)));
	const isWindow = (pad: Flash) => pad.shape === 'rect' && /^QFN/.test(parts.find((part) => part.refDes === pad.refDes)!.item.packageName);
	for (const pad of all.filter((p) => !isWindow(p))) body.push(`D${code(define(pad))}*`, `X${n(pad.x)}Y${n(pad.y)}D03*`);
	const stepped: Flash[][] = [
		...grids.map((part) => flashes([part])),
		...parts.filter((part) => /^QFN/.test(part.item.packageName)).map((part) => flashes([part]).filter(isWindow))
	];
	for (const grid of stepped) {
		const first = grid.reduce((a, b) => (b.x < a.x - 1e-9 || (Math.abs(b.x - a.x) < 1e-9 && b.y < a.y) ? b : a));
		const columns = Math.round(Math.sqrt(grid.length));
		const pitch = (Math.max(...grid.map((p) => p.x)) - first.x) / (columns - 1);
		body.push(
			`%SRX${columns}Y${columns}I${pitch.toFixed(4)}J${pitch.toFixed(4)}*%`,
			`D${code(define(first))}*`,
			`X${n(first.x)}Y${n(first.y)}D03*`,
			'%SR*%'
		);
	}
	return [
		`G04 ${board.name}, revision ${board.revision}, paste ${side}, an invented board*`,
		`%TF.FileFunction,Paste,${side === 'top' ? 'Top' : 'Bot'}*%`,
		'%FSLAX46Y46*%',
		'%MOMM*%',
		'%AMSOFTRECT*',
		'0 width, height, corner radius*',
		'21,1,$1,$2-$3-$3,0,0,0*',
		'21,1,$1-$3-$3,$2,0,0,0*',
		'1,1,$3+$3,$1/2-$3,$2/2-$3*',
		'1,1,$3+$3,$3-$1/2,$2/2-$3*',
		'1,1,$3+$3,$1/2-$3,$3-$2/2*',
		'1,1,$3+$3,$3-$1/2,$3-$2/2*',
		'%',
		...[...apertures].map(([definition, d]) => `%ADD${d}${definition}*%`),
		'%LPD*%',
		'G01*',
		...body,
		'M02*',
		''
	].join('\n');
}

function inInches(board: DemoBoard, parts: readonly PlacedPart[]): string {
	const n = (mm: number) => String(Math.round((mm / 25.4) * 1e5));
	const apertures = new Map<string, number>();
	const code = (definition: string) => {
		if (!apertures.has(definition)) apertures.set(definition, 20 + apertures.size);
		return apertures.get(definition)!;
	};
	const inch = (mm: number) => (mm / 25.4).toFixed(5);
	const body: string[] = [];
	let current = 0;
	let lastX = '';
	for (const pad of flashes(parts)) {
		// The large two-terminal parts are drawn as home plates, to keep beads from under their bodies.
		if (/^INDM|^CAPE/.test(parts.find((part) => part.refDes === pad.refDes)!.item.packageName)) {
			body.push(
				...homePlate(
					pad,
					parts.find((part) => part.refDes === pad.refDes)!,
					n
				)
			);
			current = 0;
			lastX = '';
			continue;
		}
		const d = code(`${pad.shape === 'obround' ? 'O' : 'R'},${inch(pad.w)}X${inch(pad.h)}`);
		if (d !== current) body.push(`G54D${d}*`);
		current = d;
		// Coordinates are modal: an x that does not change is left out.
		const x = n(pad.x);
		body.push(`${x === lastX ? '' : `X${x}`}Y${n(pad.y)}D03*`);
		lastX = x;
	}
	return [
		`G04 ${board.name}, revision ${board.revision}, paste top, an invented board*`,
		'%FSLAX25Y25*%',
		'%MOIN*%',
		'%LPD*%',
		...[...apertures].map(([definition, d]) => `%ADD${d}${definition}*%`),
		'G01*',
		...body,
		'M02*',
		''
	].join('\n');
}

function homePlate(pad: Flash, part: PlacedPart, n: (mm: number) => string): string[] {
	// The point looks to the middle of the part.
	const inward = Math.sign(part.rotation % 180 === 0 ? part.x - pad.x : part.y - pad.y);
	const along = part.rotation % 180 === 0;
	const [half, wide] = along ? [pad.w / 2, pad.h / 2] : [pad.h / 2, pad.w / 2];
	const points = [
		[-half, -wide],
		[half * 0.4, -wide],
		[half, 0],
		[half * 0.4, wide],
		[-half, wide]
	].map(([a, b]) => (along ? { x: pad.x + a! * inward, y: pad.y + b! } : { x: pad.x + b!, y: pad.y + a! * inward }));
	const at = (p: { x: number; y: number }) => `X${n(p.x)}Y${n(p.y)}`;
	return ['G36*', `${at(points[0]!)}D02*`, ...points.slice(1).map((p) => `${at(p)}D01*`), `${at(points[0]!)}D01*`, 'G37*'];
}

/** The board's outline as a closed stroke. */
export function writeOutline(board: DemoBoard): string {
	const n = (v: number) => String(Math.round(v * 1e6));
	const corners = [
		[0, 0],
		[board.widthMm, 0],
		[board.widthMm, board.heightMm],
		[0, board.heightMm],
		[0, 0]
	];
	return [
		`G04 ${board.name}, outline*`,
		'%TF.FileFunction,Profile,NP*%',
		'%FSLAX46Y46*%',
		'%MOMM*%',
		'%ADD10C,0.1000*%',
		'D10*',
		'G01*',
		...corners.map(([x, y], i) => `X${n(x!)}Y${n(y!)}D0${i === 0 ? 2 : 1}*`),
		'M02*',
		''
	].join('\n');
}
