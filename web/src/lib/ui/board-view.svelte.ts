import { circuitCorners, onPanel, type CircuitPlace } from '@keen-relay/core/artwork';
import { boxOf, type Point, type Ring } from '@keen-relay/core/geometry';

export interface DrawnPad {
	outline: Ring;
	centre: Point;
}

export interface DrawnPart {
	refDes: string;
	xMm: number;
	yMm: number;
	rotationDeg: number;
	lengthMm: number | null;
	widthMm: number | null;
	fitted: boolean;
}

interface Scene {
	widthMm: number;
	heightMm: number;
	origins: readonly CircuitPlace[];
	/** Other layers, drawn faintly beneath each circuit. */
	under: readonly Ring[];
	circuit: { widthMm: number; heightMm: number } | undefined;
	pads: readonly DrawnPad[];
	parts: readonly DrawnPart[];
	fiducials: readonly Point[];
	colourOf: (pad: number) => string | null;
	selected: number | null;
	ring: Point | null;
}

const HERE: CircuitPlace = { x: 0, y: 0, rotationDeg: 0 };
const MARGIN_PX = 26;
const LABEL_FROM_PX_PER_MM = 14;
/** A click this near to a pad's centre, in px, takes it even where it misses the pad. */
const PICK_PX = 14;

const SMALL_PX = 4;
const boxes = new WeakMap<Ring, { ring: Ring; sizeMm: number }>();

/** The box around an outline, worked out once. */
function boxAround(outline: Ring): { ring: Ring; sizeMm: number } {
	let known = boxes.get(outline);
	if (!known) {
		const { minX, minY, maxX, maxY } = boxOf(outline);
		const ring = [
			{ x: minX, y: minY },
			{ x: maxX, y: minY },
			{ x: maxX, y: maxY },
			{ x: minX, y: maxY }
		];
		known = { ring, sizeMm: Math.max(maxX - minX, maxY - minY) };
		boxes.set(outline, known);
	}
	return known;
}

/** Draws a board or panel to scale on a canvas, y upwards, with wheel zoom and drag. Thousands of pads redraw in a few ms. */
export class BoardView {
	/** Zoom and shift as the user set them; 1 and 0 show the whole board. */
	#scale = $state(1);
	#shift = $state({ x: 0, y: 0 });
	#fit = { pxPerMm: 1, left: 0, bottom: 0 };
	#grabbed: { x: number; y: number; far: boolean } | null = null;

	get moved(): boolean {
		return this.#scale !== 1 || this.#shift.x !== 0 || this.#shift.y !== 0;
	}

	reset(): void {
		this.#scale = 1;
		this.#shift = { x: 0, y: 0 };
	}

	zoom(event: WheelEvent): void {
		event.preventDefault();
		const factor = Math.exp(-event.deltaY / 400);
		const next = Math.min(40, Math.max(1, this.#scale * factor));
		const k = next / this.#scale;
		// The point under the pointer stays where it is.
		this.#shift = {
			x: event.offsetX - (event.offsetX - this.#shift.x) * k,
			y: event.offsetY - (event.offsetY - this.#shift.y) * k
		};
		this.#scale = next;
		if (next === 1) this.reset();
	}

	grab(event: PointerEvent): void {
		(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
		this.#grabbed = { x: event.offsetX, y: event.offsetY, far: false };
	}

	drag(event: PointerEvent): void {
		const from = this.#grabbed;
		if (!from || this.#scale === 1) return;
		const dx = event.offsetX - from.x;
		const dy = event.offsetY - from.y;
		if (!from.far && Math.hypot(dx, dy) < 4) return;
		this.#grabbed = { x: event.offsetX, y: event.offsetY, far: true };
		this.#shift = { x: this.#shift.x + dx, y: this.#shift.y + dy };
	}

	/** Ends a drag; a plain click returns the pad under it. */
	release(event: PointerEvent, scene: Pick<Scene, 'origins' | 'pads'>): number | null {
		const dragged = this.#grabbed?.far;
		this.#grabbed = null;
		if (dragged) return null;
		let best: number | null = null;
		let nearest = PICK_PX;
		scene.origins.forEach((origin, c) =>
			scene.pads.forEach((pad, i) => {
				const p = this.#toScreen(onPanel(pad.centre, origin));
				const d = Math.hypot(p.x - event.offsetX, p.y - event.offsetY);
				if (d < nearest) [best, nearest] = [c * scene.pads.length + i, d];
			})
		);
		return best;
	}

	#toScreen(p: Point): Point {
		const { pxPerMm, left, bottom } = this.#fit;
		return {
			x: (left + p.x * pxPerMm) * this.#scale + this.#shift.x,
			y: (bottom - p.y * pxPerMm) * this.#scale + this.#shift.y
		};
	}

	draw(canvas: HTMLCanvasElement, size: { width: number; height: number }, scene: Scene): void {
		const ratio = window.devicePixelRatio || 1;
		canvas.width = Math.round(size.width * ratio);
		canvas.height = Math.round(size.height * ratio);
		canvas.style.width = `${size.width}px`;
		canvas.style.height = `${size.height}px`;
		const context = canvas.getContext('2d');
		if (!context) return;
		const pxPerMm = Math.min((size.width - 2 * MARGIN_PX) / scene.widthMm, (size.height - 2 * MARGIN_PX) / scene.heightMm);
		this.#fit = {
			pxPerMm,
			left: (size.width - scene.widthMm * pxPerMm) / 2,
			bottom: (size.height + scene.heightMm * pxPerMm) / 2
		};
		const style = getComputedStyle(canvas);
		const token = (name: string) => style.getPropertyValue(`--${name}`).trim();
		context.setTransform(ratio, 0, 0, ratio, 0, 0);
		const scale = pxPerMm * this.#scale;

		const rectangle = (x: number, y: number, w: number, h: number) => {
			const a = this.#toScreen({ x, y: y + h });
			context.rect(a.x, a.y, w * scale, h * scale);
		};
		context.lineWidth = 1.2;
		context.fillStyle = token('sheet');
		context.strokeStyle = token('soft');
		context.beginPath();
		rectangle(0, 0, scene.widthMm, scene.heightMm);
		context.fill();
		context.stroke();
		if (scene.circuit) {
			context.strokeStyle = token('line');
			context.beginPath();
			for (const origin of scene.origins) this.#trace(context, circuitCorners(scene.circuit, origin), HERE);
			context.stroke();
		}
		if (scene.under.length) {
			context.fillStyle = token('hair');
			context.beginPath();
			for (const origin of scene.origins) for (const ring of scene.under) this.#trace(context, ring, origin);
			context.fill();
		}
		this.#drawParts(context, scene, scale, token);
		this.#drawPads(context, scene, token);
		this.#drawMarks(context, scene, token);
		this.#drawScale(context, size, scale, token);
	}

	#trace(context: CanvasRenderingContext2D, ring: Ring, origin: CircuitPlace): void {
		// Onto the panel and to the screen in one step, without a point in between: there are a hundred thousand corners.
		const { pxPerMm, left, bottom } = this.#fit;
		const k = pxPerMm * this.#scale;
		const turn = (origin.rotationDeg * Math.PI) / 180;
		const [cos, sin] = [Math.cos(turn) * k, Math.sin(turn) * k];
		const x0 = (left + origin.x * pxPerMm) * this.#scale + this.#shift.x;
		const y0 = (bottom - origin.y * pxPerMm) * this.#scale + this.#shift.y;
		// Back to the first corner by a line: the browser's closePath looks through all that the path holds, and a path holds thousands of pads.
		for (let i = 0; i <= ring.length; i++) {
			const p = ring[i === ring.length ? 0 : i]!;
			const x = x0 + p.x * cos - p.y * sin;
			const y = y0 - p.x * sin - p.y * cos;
			if (i === 0) context.moveTo(x, y);
			else context.lineTo(x, y);
		}
	}

	#drawParts(context: CanvasRenderingContext2D, scene: Scene, scale: number, token: (name: string) => string): void {
		context.strokeStyle = token('none');
		context.fillStyle = token('soft');
		context.font = "11px 'Atkinson Hyperlegible Mono'";
		context.textAlign = 'center';
		context.textBaseline = 'middle';
		for (const origin of scene.origins)
			for (const part of scene.parts) {
				const at = this.#toScreen(onPanel({ x: part.xMm, y: part.yMm }, origin));
				const l = (part.lengthMm ?? 1) * scale;
				const w = (part.widthMm ?? 1) * scale;
				context.save();
				context.translate(at.x, at.y);
				context.rotate((-(part.rotationDeg + origin.rotationDeg) * Math.PI) / 180);
				context.setLineDash(part.fitted ? [] : [3, 3]);
				context.strokeRect(-l / 2, -w / 2, l, w);
				context.restore();
				if (Math.max(l, w) > 44 || scale > LABEL_FROM_PX_PER_MM * 2) context.fillText(part.refDes, at.x, at.y);
			}
		context.setLineDash([]);
	}

	#drawPads(context: CanvasRenderingContext2D, scene: Scene, token: (name: string) => string): void {
		// Read once: each of them may be a signal of the page, and there are thousands of pads.
		const { pads, origins, colourOf } = scene;
		// What is a few px large looks the same as the box around it.
		const smallMm = SMALL_PX / (this.#fit.pxPerMm * this.#scale);
		const small = (outline: Ring) => {
			const box = boxAround(outline);
			return box.sizeMm < smallMm ? box.ring : outline;
		};
		const byColour = new Map<string, number[]>();
		for (let i = 0; i < pads.length * origins.length; i++) {
			const colour = colourOf(i) ?? 'line';
			const list = byColour.get(colour);
			if (list) list.push(i);
			else byColour.set(colour, [i]);
		}
		for (const [colour, list] of byColour) {
			context.fillStyle = token(colour);
			context.beginPath();
			for (const i of list) this.#trace(context, small(pads[i % pads.length]!.outline), origins[Math.floor(i / pads.length)]!);
			context.fill();
		}
	}

	#drawMarks(context: CanvasRenderingContext2D, scene: Scene, token: (name: string) => string): void {
		context.strokeStyle = token('ink');
		for (const f of scene.fiducials) {
			const p = this.#toScreen(f);
			context.beginPath();
			context.arc(p.x, p.y, 5, 0, 7);
			context.moveTo(p.x - 8, p.y);
			context.lineTo(p.x + 8, p.y);
			context.moveTo(p.x, p.y - 8);
			context.lineTo(p.x, p.y + 8);
			context.stroke();
		}
		context.strokeStyle = token('copper');
		context.lineWidth = 2.4;
		const ringAt = (p: Point) => {
			const q = this.#toScreen(p);
			context.beginPath();
			context.arc(q.x, q.y, 13, 0, 7);
			context.stroke();
		};
		if (scene.selected !== null && scene.pads.length) {
			const pad = scene.pads[scene.selected % scene.pads.length];
			const origin = scene.origins[Math.floor(scene.selected / scene.pads.length)];
			if (pad && origin) ringAt(onPanel(pad.centre, origin));
		}
		if (scene.ring) ringAt(scene.ring);
	}

	/** A bar of a round length: the picture is to scale, and says so. */
	#drawScale(context: CanvasRenderingContext2D, size: { height: number }, scale: number, token: (name: string) => string): void {
		const lengthMm = [0.5, 1, 2, 5, 10, 20, 50, 100].find((mm) => mm * scale >= 60) ?? 100;
		const y = size.height - 8;
		context.strokeStyle = token('soft');
		context.fillStyle = token('soft');
		context.lineWidth = 1.2;
		context.beginPath();
		context.moveTo(8, y - 4);
		context.lineTo(8, y);
		context.lineTo(8 + lengthMm * scale, y);
		context.lineTo(8 + lengthMm * scale, y - 4);
		context.stroke();
		context.textAlign = 'left';
		context.textBaseline = 'bottom';
		context.font = "12px 'Atkinson Hyperlegible Mono'";
		context.fillText(`${lengthMm} mm`, 14 + lengthMm * scale, y + 5);
	}
}
