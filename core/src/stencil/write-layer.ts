import type { Point, Ring } from '../geometry/index.ts';
import { csvCell } from '../tables/index.ts';

interface WrittenOpening {
	outline: Ring;
	centre: Point;
	shape: string;
	widthMm: number;
	lengthMm: number;
	refDes: string | null;
	pin: string | null;
}

/** Digits after the point: 10 nm, the grid that shapes are united on. */
const DECIMALS = 5;

/** A paste layer in RS-274X with X2 attributes. Circles, upright rectangles and upright oblongs are flashed, everything else is a region, so that it reads back to the same openings.
 * @param openings mm; @param what the file's purpose and part, for its attributes
 */
export function writePasteLayer(openings: readonly WrittenOpening[], what: { side: 'top' | 'bottom'; name: string }): string {
	const lines = [
		`G04 ${what.name.replace(/[*%]/g, ' ')}*`,
		`%TF.FileFunction,Paste,${what.side === 'top' ? 'Top' : 'Bot'}*%`,
		'%TF.FilePolarity,Positive*%',
		'%FSLAX35Y35*%',
		'%MOMM*%',
		'%LPD*%'
	];
	const tools = new Map<string, number>();
	const body: string[] = [];
	let current = 0;
	let named = '';
	for (const o of openings) {
		const name = o.refDes && o.pin ? `%TO.P,${escaped(o.refDes)},${escaped(o.pin)}*%` : o.refDes ? `%TO.C,${escaped(o.refDes)}*%` : '';
		if (name !== named) {
			if (named) body.push('%TD*%');
			if (name) body.push(name);
			named = name;
		}
		const tool = toolOf(o);
		if (tool) {
			let code = tools.get(tool.definition);
			if (code === undefined) {
				code = 10 + tools.size;
				tools.set(tool.definition, code);
			}
			if (code !== current) {
				body.push(`D${code}*`);
				current = code;
			}
			body.push(`X${grid(tool.at.x)}Y${grid(tool.at.y)}D03*`);
			continue;
		}
		body.push('G36*');
		o.outline.forEach((p, i) => body.push(`${i === 1 ? 'G01*\n' : ''}X${grid(p.x)}Y${grid(p.y)}D0${i === 0 ? 2 : 1}*`));
		const first = o.outline[0]!;
		body.push(`X${grid(first.x)}Y${grid(first.y)}D01*`, 'G37*');
	}
	for (const [definition, code] of tools) lines.push(`%ADD${code}${definition}*%`);
	return [...lines, 'G01*', ...body, ...(named ? ['%TD*%'] : []), 'M02*', ''].join('\n');
}

function toolOf(o: WrittenOpening): { definition: string; at: Point } | null {
	if (o.shape === 'circle') return { definition: `C,${o.widthMm.toFixed(6)}`, at: o.centre };
	const letter = o.shape === 'rectangle' && o.outline.length === 4 ? 'R' : o.shape === 'obround' ? 'O' : null;
	if (!letter) return null;
	const xs = o.outline.map((p) => p.x);
	const ys = o.outline.map((p) => p.y);
	const [minX, maxX, minY, maxY] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
	const [x, y] = [maxX - minX, maxY - minY];
	// A turned one is as large as its box says only when it stands upright.
	const upright = Math.abs(Math.max(x, y) - o.lengthMm) < 1e-6 && Math.abs(Math.min(x, y) - o.widthMm) < 1e-6;
	return upright ? { definition: `${letter},${x.toFixed(6)}X${y.toFixed(6)}`, at: { x: (minX + maxX) / 2, y: (minY + maxY) / 2 } } : null;
}

const grid = (mm: number) => Math.round(mm * 10 ** DECIMALS);
const escaped = (text: string) => text.replace(/[^\w.+-]/g, (c) => `\\u${c.charCodeAt(0).toString(16).padStart(4, '0')}`);

/** The openings as a table for the stencil maker; units in the heads. */
export function openingsCsv(
	openings: readonly (WrittenOpening & { areaMm2: number; perimeterMm: number; padClass: string })[],
	foilUm: number
): string {
	const head = 'opening,refdes,pin,package_class,shape,x_mm,y_mm,length_mm,width_mm,area_mm2,perimeter_mm,foil_um,area_ratio';
	return [
		head,
		...openings.map((o, i) =>
			[
				i + 1,
				o.refDes ?? '',
				o.pin ?? '',
				o.padClass,
				o.shape,
				o.centre.x.toFixed(4),
				o.centre.y.toFixed(4),
				o.lengthMm.toFixed(4),
				o.widthMm.toFixed(4),
				o.areaMm2.toFixed(5),
				o.perimeterMm.toFixed(4),
				foilUm,
				((o.areaMm2 / o.perimeterMm / foilUm) * 1000).toFixed(3)
			]
				.map(csvCell)
				.join(',')
		),
		''
	].join('\n');
}
