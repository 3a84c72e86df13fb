import type { ChildNode, Format, Graphic, ToolDefinition, ToolMacro } from '@tracespace/parser';
import { type Issue, quoteValue } from '../judgement/index.ts';
import { boxOf, convexHull, isConvex, isSimple, type Point, type Ring, rotate, subtract, sweptPath, unite } from '../geometry/index.ts';
import type { Area } from '../geometry/index.ts';
import { drawMacro } from './gerber-macro.ts';
import { attributeText, readSyntax } from './gerber-syntax.ts';
import {
	arcPoints,
	capsuleRing,
	circleRing,
	measure,
	measureRing,
	type Measures,
	obroundRing,
	type Outline,
	rectangleRing,
	regularPolygonRing
} from './standard-shapes.ts';

/** One object of the image, in file coordinates turned to mm. */
export interface PlottedShape extends Area {
	shape: Outline['shape'] | 'polygon';
	measures: Measures;
	polarity: 'dark' | 'clear';
	/** From X2 attributes, where the file carries them. */
	pin: { refDes: string; pin: string | null } | null;
	/** Net from X2 attributes, where the file carries it. */
	net?: string | null;
	/** What the pad is for ("FiducialPad", "TestPad"), from X2 attributes of its aperture. */
	padFunction?: string | null;
	/** Line of the command that drew it, the first is 1. */
	line: number;
}

/** Units that a layer may be drawn in. */
export type LayerUnit = 'mm' | 'inch';

export interface GerberPlot {
	shapes: PlottedShape[];
	/** Centre lines of strokes, for board outlines. */
	paths: Point[][];
	unit: LayerUnit;
	issues: Issue[];
}

/** What a flash leaves: measured once, shared by all flashes of the tool. */
type Image = Pick<PlottedShape, 'outline' | 'holes' | 'shape' | 'measures'>;

interface Tool {
	images: Image[];
	/** Of a round tool without a hole: what it draws has a formula. */
	roundMm: number | null;
	/** Whether it is convex and in one piece: such a tool can draw lines. Any but a round one is odd, and is said. */
	pen: 'round' | 'odd' | null;
	line: number;
	/** From its X2 attribute. */
	padFunction: string | null;
}

interface Transform {
	mirrorX: boolean;
	mirrorY: boolean;
	rotationDeg: number;
	scale: number;
}

/** What older files say of the whole image; applied in this order: mirror, scale, offset, rotation, axes. */
interface ImageParameters {
	mirrorX: boolean;
	mirrorY: boolean;
	scaleX: number;
	scaleY: number;
	offsetX: number;
	offsetY: number;
	rotationDeg: number;
	swapped: boolean;
	/** Line of its `%IPNEG*%`. */
	negativeLine: number | null;
}

const PLAIN_IMAGE: ImageParameters = {
	...{ mirrorX: false, mirrorY: false, scaleX: 1, scaleY: 1, offsetX: 0, offsetY: 0, rotationDeg: 0, swapped: false },
	negativeLine: null
};

const PLAIN: Transform = { mirrorX: false, mirrorY: false, rotationDeg: 0, scale: 1 };

/** Repeats of repeats and blocks of blocks multiply: twelve lines can stand for a thousand million objects. */
const MOST_SHAPES = 200_000;
/** Corners of a regular polygon (value from memory: the specification's own limit). */
const MOST_SIDES = 12;
/** No aperture is larger than a stencil. */
const LARGEST_MM = 1000;
/** Nobody scales a layer by more. */
const MOST_SCALE = 1000;
/** Farther out no board lies: the format or the unit is wrong. */
const FARTHEST_MM = 10_000;

class TooManyShapes extends Error {
	constructor(readonly line: number) {
		super('too many objects');
	}
}

/** Reads an RS-274X layer into shapes. Stateless: nothing leaks from one file to the next.
 * Flashes of every standard shape, macros, strokes, arcs, regions, step-and-repeat, block apertures, polarity, mirror,
 * rotation and scale are drawn; anything else is an issue with its line, never a drawing.
 * @param text the file
 * @param asked the unit, as a person said it: goes where the file says none, or both
 * @returns shapes in file order, mm, and what was wrong with the file
 * @see the Gerber layer format specification (value from memory)
 */
export function plotGerber(text: string, asked: LayerUnit | null = null): GerberPlot {
	const { nodes, issues } = readSyntax(text);
	const said = saidUnits(nodes);
	const unit = said.size === 1 ? [...said.keys()][0]! : asked;
	if (unit === null && nodes.some((node) => node.type === 'graphic')) {
		issues.push(needsUnit(said));
		return { shapes: [], paths: [], unit: 'mm', issues };
	}
	const plotter = new Plotter(issues, unit === 'inch' ? 25.4 : 1);
	try {
		for (const node of nodes) {
			if (node.type === 'done') break;
			plotter.take(node);
		}
		plotter.finish();
	} catch (caught) {
		if (!(caught instanceof TooManyShapes)) throw caught;
		const message = `Line ${caught.line}: the layer draws more than ${MOST_SHAPES} objects, by repeats or blocks of blocks. No stencil has as many openings.`;
		issues.push({ severity: 'error', code: 'too_many_objects', line: caught.line, field: 'file', value: String(MOST_SHAPES), message });
		return { shapes: [], paths: [], unit: plotter.mm === 1 ? 'mm' : 'inch', issues };
	}
	return { shapes: plotter.shapes, paths: plotter.paths, unit: plotter.mm === 1 ? 'mm' : 'inch', issues };
}

/** Units that a file says, each with the line that says it first. */
function saidUnits(nodes: readonly ChildNode[]): Map<LayerUnit, number> {
	const said = new Map<LayerUnit, number>();
	for (const node of nodes) {
		const old = node.type === 'unimplemented' ? /^%?OLD7([01])\b/.exec(node.value)?.[1] : undefined;
		const unit = node.type === 'units' ? (node.units === 'in' ? 'inch' : 'mm') : old === '0' ? 'inch' : old === '1' ? 'mm' : null;
		if (unit && !said.has(unit)) said.set(unit, node.position?.start.line ?? 0);
	}
	return said;
}

function needsUnit(said: ReadonlyMap<LayerUnit, number>): Issue {
	const message = said.size
		? `The file says mm in line ${said.get('mm')} and inch in line ${said.get('inch')}. Which of them is it? Choose.`
		: 'The file does not say whether its numbers are mm or inch (%MO...%). Choose.';
	const value = [...said.keys()].join(', ');
	return { severity: 'error', code: 'needs_unit', line: Math.max(1, ...said.values()), field: 'units', value, message };
}

class Plotter {
	shapes: PlottedShape[] = [];
	readonly paths: Point[][] = [];
	private incremental = false;
	private image: ImageParameters = PLAIN_IMAGE;
	/** Flashes that draw nothing, by tool. */
	private readonly empty = new Map<string, { line: number; flashes: number }>();
	private readonly oddPens = new Set<string>();
	/** Dark lines since anything was cleared, as they were drawn. */
	private readonly lines = new Set<string>();
	/** Of the latest object that lies where no board is. */
	private strayLine = -1;
	private format: Format | null = null;
	private trailingOmitted = false;
	private readonly tools = new Map<string, Tool>();
	private readonly macros = new Map<string, ToolMacro>();
	private readonly blocks = new Map<string, PlottedShape[]>();
	private toolCode: string | null = null;
	private position: Partial<Point> = {};
	private mode: 'line' | 'cwArc' | 'ccwArc' = 'line';
	private multiQuadrant = true;
	private lastGraphic: 'segment' | 'move' | 'shape' = 'move';
	private polarity: 'dark' | 'clear' = 'dark';
	private transform: Transform = PLAIN;
	private drawn = 0;
	private region: { contour: Point[]; line: number } | null = null;
	private repeat: { x: number; y: number; i: number; j: number; line: number; from: PlottedShape[] } | null = null;
	private readonly openBlocks: { code: string; outer: PlottedShape[] }[] = [];
	private net: string | null = null;
	private refDes: string | null = null;
	private padFunction: string | null = null;
	private pin: { refDes: string; pin: string | null } | null = null;

	/** @param mm size of the file's unit */
	constructor(
		private readonly issues: Issue[],
		readonly mm: number
	) {}

	take(node: ChildNode): void {
		const line = node.position?.start.line ?? 0;
		switch (node.type) {
			case 'coordinateFormat':
				if (node.format) this.format = node.format;
				this.trailingOmitted = node.zeroSuppression === 'trailing';
				this.incremental = node.mode === 'incremental';
				break;
			case 'toolMacro':
				this.macros.set(node.name, node);
				break;
			case 'toolDefinition':
				this.define(node, line);
				break;
			case 'toolChange':
				this.toolCode = node.code;
				if (!this.tools.has(node.code) && !this.blocks.has(node.code))
					this.report(line, 'undefined_aperture', 'aperture', `D${node.code}`, 'this aperture was never defined');
				break;
			case 'interpolateMode':
				if (node.mode === 'line' || node.mode === 'cwArc' || node.mode === 'ccwArc') this.mode = node.mode;
				else this.report(line, 'unsupported', 'mode', String(node.mode), 'this interpolation is not drawn');
				break;
			case 'quadrantMode':
				this.multiQuadrant = node.quadrant === 'multi';
				break;
			case 'regionMode':
				this.closeContour();
				this.region = node.region ? { contour: [], line } : null;
				break;
			case 'loadPolarity':
				this.polarity = node.polarity === 'clear' ? 'clear' : 'dark';
				break;
			case 'stepRepeat':
				this.closeRepeat();
				this.openRepeat(node.stepRepeat as Partial<Record<'x' | 'y' | 'i' | 'j', number>>, line);
				break;
			case 'graphic':
				this.draw(node, line);
				break;
			case 'unimplemented':
				this.extended(node.value, line);
				break;
		}
	}

	finish(): void {
		this.closeRepeat();
		if (this.region) this.report(this.region.line, 'open_region', 'region', 'G36', 'this region is never closed with G37');
		if (this.openBlocks.length)
			this.report(0, 'open_block', 'block aperture', `D${this.openBlocks[0]!.code}`, 'this block is never closed');
		for (const [code, { line, flashes }] of this.empty) {
			const what = `this aperture has no size: its ${flashes === 1 ? 'flash draws' : `${flashes} flashes draw`} nothing`;
			this.report(line, 'zero_size', 'aperture', `D${code}`, what, 'warning');
		}
		if (this.image.negativeLine !== null) this.turnRound(this.image.negativeLine);
		if (this.image !== PLAIN_IMAGE) this.applyImage();
	}

	/** A negative image: where it draws a sheet, what it leaves of the sheet is meant; where it only draws openings, they are what it draws. */
	private turnRound(line: number): void {
		const { minX, minY, maxX, maxY } = boxOf(this.shapes.flatMap((shape) => shape.outline));
		const [xSizeMm, ySizeMm] = [maxX - minX, maxY - minY];
		const sheet = this.shapes.some(({ polarity, measures }) => polarity === 'dark' && measures.areaMm2 > 0.5 * xSizeMm * ySizeMm);
		const what = sheet ? 'what it leaves of its sheet is taken as the openings' : 'what it draws is taken as the openings';
		this.report(line, 'negative_image', 'command', 'IPNEG', `the file says that it is a negative; ${what}. Look at the drawing`, 'warning');
		if (!sheet) return;
		const outline = rectangleRing({ x: (minX + maxX) / 2, y: (minY + maxY) / 2 }, xSizeMm, ySizeMm);
		const whole: PlottedShape = {
			...{ outline, holes: [], shape: 'polygon', measures: measureRing(outline), polarity: 'dark', pin: null, line }
		};
		this.shapes = [whole, ...this.shapes.map((shape) => ({ ...shape, polarity: flip(shape.polarity, true) }))];
	}

	private applyImage(): void {
		const { mirrorX, mirrorY, scaleX, scaleY, offsetX, offsetY, rotationDeg, swapped } = this.image;
		const move = (p: Point): Point => {
			const scaled = { x: (mirrorX ? -p.x : p.x) * scaleX + offsetX, y: (mirrorY ? -p.y : p.y) * scaleY + offsetY };
			const turned = rotationDeg ? rotate(scaled, rotationDeg) : scaled;
			return swapped ? { x: turned.y, y: turned.x } : turned;
		};
		for (const [i, shape] of this.shapes.entries()) {
			const [outline, holes] = [shape.outline.map(move), shape.holes.map((hole) => hole.map(move))];
			const same = scaleX === scaleY;
			this.shapes[i] = {
				...{ ...shape, outline, holes, shape: same ? shape.shape : 'polygon' },
				measures: same ? scaled(shape.measures, scaleX) : measureRing(outline, holes)
			};
		}
		for (const path of this.paths) path.splice(0, path.length, ...path.map(move));
	}

	private report(line: number, code: string, field: string, value: string, what: string, severity: Issue['severity'] = 'error'): void {
		this.issues.push({
			severity,
			code,
			line,
			field,
			value: quoteValue(value),
			message: `Line ${line}, ${field} "${quoteValue(value)}": ${what}.`
		});
	}

	/** Commands that the parser leaves as text: attributes, blocks, transforms, and what nobody knows. */
	private extended(raw: string, line: number): void {
		const text = raw.replace(/[%*\s]/g, '');
		const code = text.slice(0, 2);
		const rest = text.slice(2);
		switch (code) {
			case 'TF':
				return;
			case 'TA':
				if (rest.startsWith('.AperFunction,')) this.padFunction = attributeText(rest.split(',')[1] ?? '') || null;
				return;
			case 'TO': {
				const [name, ...values] = rest.split(',').map(attributeText);
				if (name === '.N') this.net = values[0] || null;
				if (name === '.C') this.refDes = values[0] ?? null;
				if (name === '.P') this.pin = { refDes: values[0] ?? '', pin: values[1] ?? null };
				return;
			}
			case 'TD':
				if (rest === '' || rest === '.N') this.net = null;
				if (rest === '' || rest === '.C') this.refDes = null;
				if (rest === '' || rest === '.P') this.pin = null;
				if (rest === '' || rest === '.AperFunction') this.padFunction = null;
				return;
			case 'AB':
				this.block(rest.replace(/^D/, ''), line);
				return;
			case 'LM':
				this.transform = { ...this.transform, mirrorX: rest.includes('X'), mirrorY: rest.includes('Y') };
				return;
			case 'LR':
				if (!Number.isFinite(Number(rest || NaN))) break;
				this.transform = { ...this.transform, rotationDeg: Number(rest) };
				return;
			case 'LS':
				if (!(Number(rest) > 0 && Number(rest) <= MOST_SCALE)) break;
				this.transform = { ...this.transform, scale: Number(rest) };
				return;
			case 'IP':
				if (rest === 'NEG') this.image = { ...this.image, negativeLine: line };
				if (rest === 'POS' || rest === 'NEG') return;
				break;
			case 'AS':
			case 'IR':
			case 'MI':
			case 'SF':
			case 'OF':
				if (this.imageParameter(code, rest)) return;
				break;
			case 'IC':
				// The text's own code: what could be read until here is plain text.
				return;
			case 'IN':
			case 'LN':
				return;
		}
		if (text === 'OLD90' || text === 'OLD91') this.incremental = text === 'OLD91';
		if (/^(M01|OLD[79][01]$)/.test(text)) return;
		this.report(line, 'unsupported', 'command', raw.trim(), 'this command is not drawn, so the stencil would be wrong');
	}

	/** Takes a parameter of the whole image. @returns whether it could be read */
	private imageParameter(code: 'AS' | 'IR' | 'MI' | 'SF' | 'OF', text: string): boolean {
		const [a, b] = ['A', 'B'].map((axis) => new RegExp(`${axis}([+-]?\\d*\\.?\\d+)`).exec(text)?.[1]);
		const whole = new RegExp('^(A[+-]?[\\d.]+)?(B[+-]?[\\d.]+)?$').test(text);
		const set = (more: Partial<ImageParameters>) => {
			this.image = { ...this.image, ...more };
			return true;
		};
		if (code === 'AS') return text === 'AXBY' || (text === 'AYBX' && set({ swapped: true }));
		if (code === 'IR') return /^(0|90|180|270)$/.test(text) && (text === '0' || set({ rotationDeg: Number(text) }));
		if (!whole) return false;
		const neutral = code === 'SF' ? 1 : 0;
		const [x, y] = [Number(a ?? neutral), Number(b ?? neutral)];
		if (x === neutral && y === neutral) return true;
		if (code === 'OF') return set({ offsetX: x * this.mm, offsetY: y * this.mm });
		if (code === 'SF') return x > 0 && y > 0 && Math.max(x, y) <= MOST_SCALE && set({ scaleX: x, scaleY: y });
		return [x, y].every((v) => v === 0 || v === 1) && set({ mirrorX: x === 1, mirrorY: y === 1 });
	}

	private define(node: ToolDefinition, line: number): void {
		const shape = node.shape;
		const centre = { x: 0, y: 0 };
		let areas: Area[];
		let outline: Outline | null = null;
		const sizes = 'diameter' in shape ? [shape.diameter] : 'xSize' in shape ? [shape.xSize, shape.ySize] : [];
		if (!sizes.every((size) => size >= 0 && size * this.mm <= LARGEST_MM)) {
			const what = `sizes are 0 or more and at most ${LARGEST_MM / 1000} m, this one has ${sizes.join(' x ')}`;
			this.report(line, 'bad_size', 'aperture', `D${node.code}`, what);
			return;
		}
		switch (shape.type) {
			case 'circle': {
				const diameterMm = shape.diameter * this.mm;
				outline = { shape: 'circle', diameterMm };
				areas = [plain(circleRing(centre, diameterMm))];
				break;
			}
			case 'rectangle':
			case 'obround': {
				const [xSizeMm, ySizeMm] = [shape.xSize * this.mm, shape.ySize * this.mm];
				outline = { shape: shape.type, xSizeMm, ySizeMm };
				areas = [plain((shape.type === 'rectangle' ? rectangleRing : obroundRing)(centre, xSizeMm, ySizeMm))];
				break;
			}
			case 'polygon': {
				if (!(shape.vertices >= 3 && shape.vertices <= MOST_SIDES)) {
					this.report(line, 'bad_polygon', 'polygon', String(shape.vertices), `a polygon has 3 to ${MOST_SIDES} corners`);
					return;
				}
				areas = [plain(regularPolygonRing(centre, shape.diameter * this.mm, shape.vertices, shape.rotation ?? 0))];
				break;
			}
			default: {
				const macro = this.macros.get(shape.name);
				if (!macro) {
					this.report(line, 'undefined_macro', 'macro', shape.name, 'this macro was never defined');
					return;
				}
				const image = drawMacro(macro.children, shape.variableValues, this.mm);
				for (const primitive of image.unsupported)
					this.report(line, 'unsupported', 'macro primitive', primitive, 'this primitive is not drawn');
				areas = image.areas.filter(({ outline }) => outline.every((p) => Math.abs(p.x) <= FARTHEST_MM && Math.abs(p.y) <= FARTHEST_MM));
				if (areas.length < image.areas.length)
					this.report(
						line,
						'bad_size',
						'aperture',
						`D${node.code}`,
						`this macro draws farther out than ${FARTHEST_MM / 1000} m, or with no number`
					);
				outline = image.exact;
			}
		}
		if (node.hole) {
			const hole =
				node.hole.type === 'circle'
					? circleRing(centre, node.hole.diameter * this.mm)
					: rectangleRing(centre, node.hole.xSize * this.mm, node.hole.ySize * this.mm);
			areas = areas.map((a) => ({ ...a, holes: [...a.holes, hole] }));
			outline = null;
		}
		const exact = areas.length === 1 ? outline : null;
		const images = areas.map((area) => ({
			...area,
			shape: exact?.shape ?? ('polygon' as const),
			measures: exact ? measure(exact) : measureRing(area.outline, area.holes)
		}));
		const round = shape.type === 'circle' || exact?.shape === 'circle';
		const convex = areas.length === 1 && isConvex(areas[0]!.outline);
		this.lines.clear();
		this.tools.set(node.code, {
			...{ images, line, padFunction: this.padFunction, pen: round ? 'round' : convex ? 'odd' : null },
			roundMm: exact?.shape === 'circle' ? exact.diameterMm : null
		});
	}

	private coordinate(text: string | undefined, before: number | undefined, line: number): number | undefined {
		if (text === undefined) return before;
		const from = this.incremental ? (before ?? 0) : 0;
		if (text.includes('.')) return this.within(from + Number(text) * this.mm, text, line);
		if (!this.format) {
			this.report(line, 'missing_format', 'coordinate', text, 'the file gives no coordinate format (%FS...%)');
			this.format = [3, 4];
		}
		const [whole, decimals] = this.format;
		const sign = text.startsWith('-') ? -1 : 1;
		const digits = text.replace(/^[+-]/, '');
		const padded = this.trailingOmitted ? digits.padEnd(whole + decimals, '0') : digits;
		return this.within(from + (sign * Number(padded) * this.mm) / 10 ** decimals, text, line);
	}

	private within(valueMm: number, text: string, line: number): number {
		if (Math.abs(valueMm) <= FARTHEST_MM) return valueMm;
		this.report(line, 'far_coordinate', 'coordinate', text, `a place more than ${FARTHEST_MM / 1000} m away is on no board`);
		return 0;
	}

	private draw(node: Graphic, line: number): void {
		const graphic = (node.graphic ?? this.lastGraphic) as 'segment' | 'move' | 'shape';
		this.lastGraphic = graphic;
		const from = this.position;
		const c = node.coordinates as Partial<Record<'x' | 'y' | 'i' | 'j', string>>;
		const to = { x: this.coordinate(c.x, from.x, line), y: this.coordinate(c.y, from.y, line) };
		if (to.x === undefined || to.y === undefined) {
			this.report(line, 'coordinate_never_set', to.x === undefined ? 'X' : 'Y', '', 'a position is used before it was ever set');
			return;
		}
		const target: Point = { x: to.x, y: to.y };
		this.position = target;
		if (graphic === 'move') {
			this.closeContour();
			return;
		}
		if (graphic === 'shape') {
			this.flash(target, line);
			return;
		}
		if (from.x === undefined || from.y === undefined) {
			this.report(line, 'coordinate_never_set', 'X', '', 'a line starts before any position was set');
			return;
		}
		const start: Point = { x: from.x, y: from.y };
		const offset = { x: this.coordinate(c.i, 0, line) ?? 0, y: this.coordinate(c.j, 0, line) ?? 0 };
		const points = this.mode === 'line' ? [start, target] : this.arc(start, target, offset, line);
		if (this.region) {
			const contour = this.region.contour;
			contour.push(...(contour.length ? points.slice(1) : points));
		} else this.stroke(points, line);
	}

	private arc(from: Point, to: Point, offset: Point, line: number): Point[] {
		const clockwise = this.mode === 'cwArc';
		const candidates = this.multiQuadrant
			? [offset]
			: [1, -1].flatMap((sx) => [1, -1].map((sy) => ({ x: sx * Math.abs(offset.x), y: sy * Math.abs(offset.y) })));
		let best: { centre: Point; miss: number; start: number; sweep: number; radius: number } | null = null;
		for (const o of candidates) {
			const centre = { x: from.x + o.x, y: from.y + o.y };
			const radius = Math.hypot(o.x, o.y);
			const miss = Math.abs(Math.hypot(to.x - centre.x, to.y - centre.y) - radius);
			const start = (Math.atan2(from.y - centre.y, from.x - centre.x) * 180) / Math.PI;
			const end = (Math.atan2(to.y - centre.y, to.x - centre.x) * 180) / Math.PI;
			let sweep = (((end - start) % 360) + 360) % 360;
			if (clockwise) sweep -= 360;
			// Equal ends are a full turn in multi-quadrant mode and nothing in single-quadrant mode.
			if (Math.hypot(to.x - from.x, to.y - from.y) < 1e-9) sweep = this.multiQuadrant ? (clockwise ? -360 : 360) : 0;
			else if (clockwise && sweep === -360) sweep = 0;
			if (!this.multiQuadrant && Math.abs(sweep) > 90.1) continue;
			if (!best || miss < best.miss) best = { centre, miss, start, sweep, radius };
		}
		if (!best || best.radius === 0 || best.miss > 0.01 + 0.02 * best.radius) {
			this.report(line, 'bad_arc', 'I/J', `${offset.x}, ${offset.y}`, 'this arc does not meet its end point');
			return [from, to];
		}
		const points = arcPoints(best.centre, best.radius, best.start, best.sweep);
		return [from, ...points.slice(1, -1), to];
	}

	private flash(at: Point, line: number): void {
		const code = this.toolCode;
		const block = code === null ? undefined : this.blocks.get(code);
		if (block) {
			for (const shape of block) this.add(this.place(shape, at));
			return;
		}
		const tool = code === null ? undefined : this.tools.get(code);
		if (!tool) {
			this.report(line, 'undefined_aperture', 'aperture', code === null ? 'none' : `D${code}`, 'nothing to flash with');
			return;
		}
		if (tool.images.every(({ measures }) => !(measures.areaMm2 > 1e-9))) {
			const before = this.empty.get(code!);
			this.empty.set(code!, { line: before?.line ?? line, flashes: (before?.flashes ?? 0) + 1 });
			return;
		}
		const now = { polarity: this.polarity, pin: this.pinNow(), net: this.net, padFunction: tool.padFunction, line };
		for (const image of tool.images) this.add(this.place({ ...image, ...now }, at));
	}

	/** Mirrors, turns, scales and moves a shape drawn about the origin. */
	private place(shape: PlottedShape, at: Point): PlottedShape {
		const { mirrorX, mirrorY, rotationDeg, scale } = this.transform;
		const straight = this.transform === PLAIN;
		const move = (ring: Ring) =>
			ring.map((p) => {
				if (straight) return { x: p.x + at.x, y: p.y + at.y };
				const q = rotate({ x: (mirrorX ? -p.x : p.x) * scale, y: (mirrorY ? -p.y : p.y) * scale }, rotationDeg);
				return { x: q.x + at.x, y: q.y + at.y };
			});
		return {
			...shape,
			outline: move(shape.outline),
			holes: shape.holes.map(move),
			polarity: this.polarity === 'clear' ? flip(shape.polarity, this.blocks.has(this.toolCode ?? '')) : shape.polarity,
			measures: scale === 1 ? shape.measures : scaled(shape.measures, scale)
		};
	}

	private stroke(points: Point[], line: number): void {
		this.paths.push(points);
		const code = this.toolCode;
		const tool = code === null ? undefined : this.tools.get(code);
		if (!tool?.pen) {
			this.report(
				line,
				'bad_stroke',
				'aperture',
				code === null ? 'none' : `D${code}`,
				'only an aperture of one convex piece can draw lines'
			);
			return;
		}
		if (tool.pen === 'odd' && !this.oddPens.has(code!)) {
			this.oddPens.add(code!);
			this.report(
				line,
				'odd_pen',
				'aperture',
				`D${code}`,
				'lines are drawn with a pen that is not round; what it sweeps is open',
				'warning'
			);
		}
		if (this.isDrawnAlready(code!, points)) return;
		const pen = tool.roundMm === null ? this.place({ ...tool.images[0]!, polarity: 'dark', pin: null, line }, { x: 0, y: 0 }) : null;
		// A line without width is a centre line: of a board's outline, of a drawing's frame.
		if (!((pen ? pen.measures.areaMm2 : tool.roundMm!) > 1e-9)) return;
		if (!pen && points.length > 2) {
			for (const area of sweptPath(points, tool.roundMm! * this.transform.scale)) this.addArea(area, line);
			return;
		}
		for (let i = 1; i < points.length; i++) {
			const [a, b] = [points[i - 1]!, points[i]!];
			this.addArea(pen ? swept(pen, a, b) : plain(capsuleRing(a, b, tool.roundMm! * this.transform.scale)), line);
		}
	}

	/** Whether the very same dark line was drawn since anything was cleared: drawn again it brings nothing new, however often. */
	private isDrawnAlready(code: string, points: readonly Point[]): boolean {
		if (this.polarity !== 'dark') return false;
		const key = JSON.stringify([code, this.transform, this.pinNow(), this.net, points.map((p) => [p.x, p.y])]);
		if (this.lines.has(key)) return true;
		this.lines.add(key);
		return false;
	}

	private addArea({ outline, holes }: Area, line: number): void {
		this.add({
			outline,
			holes,
			shape: 'polygon',
			measures: measureRing(outline, holes),
			polarity: this.polarity,
			pin: this.pinNow(),
			net: this.net,
			line
		});
	}

	private add(shape: PlottedShape): void {
		if (shape.polarity === 'clear') this.lines.clear();
		const { x, y } = shape.outline[0] ?? { x: 0, y: 0 };
		if (!(Math.abs(x) <= 2 * FARTHEST_MM && Math.abs(y) <= 2 * FARTHEST_MM)) {
			if (this.strayLine !== shape.line) this.within(Infinity, `${x.toFixed(0)}, ${y.toFixed(0)} mm`, (this.strayLine = shape.line));
			return;
		}
		if (++this.drawn > MOST_SHAPES) throw new TooManyShapes(shape.line);
		this.shapes.push(shape);
	}

	private pinNow() {
		return this.pin ?? (this.refDes ? { refDes: this.refDes, pin: null } : null);
	}

	private closeContour(): void {
		const region = this.region;
		if (!region || region.contour.length === 0) return;
		const ring = withoutRepeats(region.contour);
		if (ring.length < 3)
			this.report(region.line, 'empty_region', 'region', `${ring.length} points`, 'a region needs at least three points');
		else {
			this.paths.push([...ring, ring[0]!]);
			// A contour that touches itself is cut open to a hole, or traced more than once: what it fills is drawn, once.
			for (const area of isSimple(ring) ? [plain(ring)] : unite([plain(ring)])) this.addArea(area, region.line);
		}
		region.contour = [];
	}

	private openRepeat(sr: Partial<Record<'x' | 'y' | 'i' | 'j', number>>, line: number): void {
		const { x = 1, y = 1, i = 0, j = 0 } = sr;
		if (x === 1 && y === 1) return;
		if (!(x >= 1 && y >= 1 && Number.isFinite(i) && Number.isFinite(j))) {
			this.report(line, 'bad_repeat', 'step and repeat', `X${x}Y${y}I${i}J${j}`, 'the counts must be 1 or more, the pitches numbers');
			return;
		}
		// Over its own place a copy draws nothing new.
		this.lines.clear();
		this.repeat = { x: i === 0 ? 1 : x, y: j === 0 ? 1 : y, i: i * this.mm, j: j * this.mm, line, from: this.shapes };
		this.shapes = [];
	}

	private closeRepeat(): void {
		const repeat = this.repeat;
		if (!repeat) return;
		this.repeat = null;
		this.lines.clear();
		const once = this.shapes;
		if (this.drawn + once.length * repeat.x * repeat.y > MOST_SHAPES) throw new TooManyShapes(repeat.line);
		this.shapes = repeat.from;
		if (once.length === 0) return;
		for (let column = 0; column < repeat.x; column++)
			for (let row = 0; row < repeat.y; row++) for (const shape of once) this.add(shifted(shape, column * repeat.i, row * repeat.j));
	}

	private block(code: string, line: number): void {
		this.lines.clear();
		if (code) {
			this.openBlocks.push({ code, outer: this.shapes });
			this.shapes = [];
			return;
		}
		const open = this.openBlocks.pop();
		if (!open) {
			this.report(line, 'open_block', 'block aperture', 'AB', 'a block is closed that was never opened');
			return;
		}
		this.blocks.set(open.code, this.shapes);
		this.shapes = open.outer;
	}
}

/** A block flashed in clear polarity turns every object of it round. */
function flip(polarity: 'dark' | 'clear', isBlock: boolean): 'dark' | 'clear' {
	if (!isBlock) return 'clear';
	return polarity === 'dark' ? 'clear' : 'dark';
}

function plain(outline: Ring): Area {
	return { outline, holes: [] };
}

function shifted(shape: PlottedShape, dx: number, dy: number): PlottedShape {
	const move = (ring: Ring) => ring.map((p) => ({ x: p.x + dx, y: p.y + dy }));
	return { ...shape, outline: move(shape.outline), holes: shape.holes.map(move) };
}

function withoutRepeats(points: readonly Point[]): Point[] {
	const ring: Point[] = [];
	for (const p of points) {
		const last = ring.at(-1);
		if (!last || Math.hypot(p.x - last.x, p.y - last.y) > 1e-9) ring.push(p);
	}
	const [first, last] = [ring[0], ring.at(-1)];
	if (first && last && ring.length > 1 && Math.hypot(first.x - last.x, first.y - last.y) < 1e-9) ring.pop();
	return ring;
}

function scaled(m: Measures, scale: number): Measures {
	return {
		areaMm2: m.areaMm2 * scale * scale,
		perimeterMm: m.perimeterMm * scale,
		widthMm: m.widthMm === null ? null : m.widthMm * scale,
		lengthMm: m.lengthMm * scale
	};
}

/** What a convex pen sweeps along a line. Its hole is left open only where it is over the same place from one end to the other. */
function swept({ outline, holes }: Area, a: Point, b: Point): Area {
	const at = (ring: Ring, end: Point) => ring.map((p) => ({ x: p.x + end.x, y: p.y + end.y }));
	const kept = holes.flatMap((hole) => {
		const [first, last] = [[plain(at(hole, a))], [plain(at(hole, b))]];
		return subtract(first, subtract(first, last)).map((area) => area.outline);
	});
	return { outline: convexHull([...at(outline, a), ...at(outline, b)]), holes: kept };
}
