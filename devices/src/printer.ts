import { onPanel } from '@keen-relay/core/artwork';
import type { Random } from '@keen-relay/core/numerics';
import type { Sender } from './message.ts';
import { CAUSE_OF_FAULT } from './fault-causes.ts';
import { PRINT_FAULTS, PrintPhysics, type Deposits, type PhysicsPad, type PrintFault, type Stroke } from './print-physics.ts';
import { Station } from './station.ts';
import type { PrinterSetting, SimPanel, Trouble, Work } from './work.ts';

const WIPE_EVERY = 10;
const WIPE_S = 9;
/** A standing printer that is left for longer than this is wiped before it goes on, min. */
const WIPE_AFTER_PAUSE_MIN = 20;
/** Bead at a top-up, and when one is due, g. */
const BEAD = { fullG: 200, leastG: 110 };

/** A simulated printer: front and rear strokes in turn, a wipe every ten prints, a bead that is topped up from a jar, an alignment before each print. */
export class Printer extends Station {
	#made: number;
	#nextSerial: number;
	/** Panels that come for their second side; the printer opens new ones where there are none. */
	readonly #serials: string[] | null;
	readonly #seen = new Set<string>();
	panels: number;
	/** Panels that may be printed until a person has released the first ones; null: all of them. */
	mayPrint: number | null;
	/** The jar that the next top-up comes from. */
	jar: string | null;
	/** null: as it comes. */
	setting: PrinterSetting | null;
	/** Codes of the causes that were acted on. */
	cured: Set<string>;
	/** Washed panels that wait to be printed again. */
	#again: { panel: string; printAttempt: number }[] = [];
	readonly #printedAgain = new Set<string>();
	#sinceWipe = 0;
	#sinceTopup = 0;
	#beadG = 0;
	#lastMs: number | null = null;
	readonly #physics: PrintPhysics;
	readonly #gPerPanel: number;

	constructor(
		sender: Sender,
		random: Random,
		handOn: (panel: SimPanel) => void,
		private readonly work: Work,
		private readonly baseS: number,
		troubles: readonly Trouble[]
	) {
		super(sender, random, handOn, troubles);
		this.#made = work.printed;
		this.#nextSerial = work.nextSerial ?? work.printed + 1;
		this.panels = work.panels;
		this.mayPrint = work.mayPrint ?? null;
		this.jar = work.jar ?? null;
		this.setting = work.setting ?? null;
		this.cured = new Set(work.cured);
		this.#beadG = work.beadG ?? 0;
		this.#serials = work.serials && [];
		this.bring(work.serials ?? []);
		this.bringWashed(work.reprint ?? []);
		const delivered = work.pads.reduce((sum, pad) => sum + pad.areaMm2, 0) * work.circuits * work.foilUm * 0.93;
		this.#gPerPanel = (delivered / 1e6) * 4.26 + 0.02;
		this.#physics = new PrintPhysics(padsOnPanel(work), work.foilUm, random);
	}

	/** Panels that have come off the first side since. */
	bring(serials: readonly string[]): void {
		for (const serial of serials) {
			if (!this.#serials || this.#seen.has(serial)) continue;
			this.#seen.add(serial);
			this.#serials.push(serial);
		}
	}

	/** Panels that were washed and dried since: each is printed again once. @returns those that come now */
	bringWashed(panels: readonly { panel: string; printAttempt: number }[]): string[] {
		const fresh = panels.filter((p) => !this.#printedAgain.has(`${p.panel} ${p.printAttempt}`));
		for (const p of fresh) this.#printedAgain.add(`${p.panel} ${p.printAttempt}`);
		this.#again.push(...fresh);
		return fresh.map((p) => p.panel);
	}

	/** What lies on the stencil, where somebody put it there before the first print, g. */
	beadIs(grams: number): void {
		if (this.#lastMs === null && grams > this.#beadG) this.#beadG = grams;
	}

	override get empty(): boolean {
		return super.empty && this.#again.length === 0;
	}

	protected override next(): SimPanel | undefined {
		if (this.mayPrint !== 0) {
			const washed = this.#again.shift();
			if (washed) return { serial: washed.panel, deposits: null, stroke: 'F', printsSinceWipe: 0, printAttempt: washed.printAttempt };
		}
		if (this.mayPrint !== null && this.#made >= this.mayPrint) return undefined;
		const serial = this.#serials ? this.#serials.shift() : this.#made < this.panels ? this.#newSerial() : undefined;
		if (serial === undefined) return undefined;
		this.#made++;
		return {
			serial,
			deposits: null,
			stroke: this.#made % 2 ? 'F' : 'R',
			printsSinceWipe: 0
		};
	}

	#newSerial(): string {
		return `${this.work.job}-${String(this.#nextSerial++).padStart(4, '0')}`;
	}

	protected override breaks(nowMs: number, dtS: number) {
		// A wipe that meets its paper's end, or a squeegee that has to be topped up: short and now and then.
		return this.random.chance(dtS / 9000)
			? { seconds: 45 + 60 * this.random.uniform(), reason: 'wipe paper or paste' }
			: super.breaks(nowMs, dtS);
	}

	protected override cycleS(): number {
		return this.baseS + 0.4 * this.random.normal() + (this.#sinceWipe >= WIPE_EVERY ? WIPE_S : 0);
	}

	protected override report(panel: SimPanel, nowMs: number, cycleS: number): void {
		const minutesSincePrevious = this.#lastMs === null ? 0 : (nowMs - this.#lastMs) / 60_000;
		this.#lastMs = nowMs;
		if (this.#sinceWipe >= WIPE_EVERY || minutesSincePrevious > WIPE_AFTER_PAUSE_MIN) this.#sinceWipe = 0;
		if (this.#beadG - this.#gPerPanel < BEAD.leastG) this.#topUp(nowMs);
		panel.printsSinceWipe = this.#sinceWipe++;
		const printsSinceTopup = this.#sinceTopup++;
		this.#beadG -= this.#gPerPanel;
		const stroke: Stroke = {
			stroke: panel.stroke,
			printsSinceWipe: panel.printsSinceWipe,
			beadUsed: Math.max(0, (BEAD.fullG - this.#beadG) / (BEAD.fullG - BEAD.leastG)),
			minutesSincePrevious,
			ageShare: Math.min(1, this.#made / 60),
			print: this.#made,
			...(this.setting ? { setting: this.setting } : {})
		};
		panel.deposits = this.#physics.print(stroke, this.#faults(nowMs));
		this.sender.send(nowMs, 'print', {
			runId: this.work.runId,
			panel: panel.serial,
			...(panel.printAttempt ? { printAttempt: panel.printAttempt } : {}),
			stroke: panel.stroke,
			printsSinceWipe: panel.printsSinceWipe,
			printsSinceTopup,
			minutesSincePrevious: Math.round(minutesSincePrevious * 100) / 100,
			cycleS: Math.round(cycleS * 100) / 100,
			...this.#marks(nowMs)
		});
	}

	/** Paste from the jar that stands at the printer; where none was given the bead is topped up all the same, without a trace. */
	#topUp(nowMs: number): void {
		const grams = Math.round(BEAD.fullG - this.#beadG);
		this.#beadG = BEAD.fullG;
		this.#sinceTopup = 0;
		if (this.jar) this.sender.send(nowMs, 'paste_loaded', { runId: this.work.runId, jar: this.jar, grams });
	}

	/** What the camera reads: the stencil's marks, and the board's, moved, turned, stretched and read with a few µm of noise. */
	#marks(nowMs: number): object {
		const marks = this.work.panel.fiducials;
		if (!marks || marks.length < 2) return {};
		const { random } = this;
		const stretchPpm = 25 + 12 * random.normal() + 190 * this.trouble('alignStretch', nowMs);
		const turn = (0.004 * random.normal() * Math.PI) / 180;
		const [dx, dy] = [0.12 + 0.03 * random.normal(), -0.05 + 0.03 * random.normal()];
		const k = 1 + stretchPpm * 1e-6;
		const round = (v: number) => Math.round(v * 1e4) / 1e4;
		return {
			stencilMarks: marks.map((m) => ({ x: round(m.x), y: round(m.y) })),
			boardMarks: marks.map((m) => ({
				x: round(k * (m.x - turn * m.y) + dx + 0.003 * random.normal()),
				y: round(k * (m.y + turn * m.x) + dy + 0.003 * random.normal())
			}))
		};
	}

	#faults(nowMs: number): PrintFault[] {
		const faults = PRINT_FAULTS.flatMap((kind) => {
			const strength = this.cured.has(CAUSE_OF_FAULT[kind]) ? 0 : this.trouble(kind, nowMs);
			return strength > 0 ? [{ kind, strength }] : [];
		});
		const dry = this.trouble('dryPaste', nowMs);
		// Dry paste lets go of less everywhere and clogs the small openings.
		return dry > 0 ? [...faults, { kind: 'levelLow', strength: 0.6 * dry }, { kind: 'clogWipe', strength: 2.4 * dry }] : faults;
	}

	/** A print without a machine before it: for panels that stood on the belts when the line started. */
	deposit(stroke: 'F' | 'R', printsSinceWipe: number, nowMs: number): Deposits {
		const like: Stroke = { stroke, printsSinceWipe, beadUsed: 0, minutesSincePrevious: 1, ageShare: 0, print: 0 };
		return this.#physics.print(this.setting ? { ...like, setting: this.setting } : like, this.#faults(nowMs));
	}
}

/** Every opening of the panel: the circuit's, at each of its places. */
function padsOnPanel({ pads, panel }: Work): PhysicsPad[] {
	return panel.origins.flatMap((place) =>
		pads.map((pad) => {
			const at = onPanel({ x: pad.xMm, y: pad.yMm }, place);
			return {
				xMm: at.x,
				yMm: at.y,
				areaMm2: pad.areaMm2,
				perimeterMm: pad.perimeterMm,
				minSideMm: pad.widthMm ?? Math.sqrt(pad.areaMm2)
			};
		})
	);
}
