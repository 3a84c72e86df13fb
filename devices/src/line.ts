import { seededRandom } from '@keen-relay/core/numerics';
import { Inspection } from './inspection.ts';
import { Sender, type Sent } from './message.ts';
import { Oven } from './oven.ts';
import { PasteInspection } from './paste-inspection.ts';
import { Placer } from './placer.ts';
import { Printer } from './printer.ts';
import type { Station } from './station.ts';
import type { KnownWork, SimPanel, StationInfo, Trouble, Work } from './work.ts';

export interface LineOptions {
	name: string;
	stations: readonly StationInfo[];
	work: Work;
	seed: number;
	startMs: number;
	bootId: string;
	out: (message: Sent) => void;
	troubles?: readonly Trouble[];
	/** Machines after the paste inspection wait for the server's word on each panel: what it holds is not worked on. */
	waitsForWord?: boolean;
	/** false: the placers are served by somebody who loads and splices; true: they load and splice by themselves. */
	servesItself?: boolean;
	/** false: the paste inspection reports sums instead of every pad. */
	rawPaste?: boolean;
	/** The paste inspection measures this panel (the first is 1) so many times: a study of its repeatability. */
	gauge?: { panel: number; times: number };
}

/** A whole simulated line for one run. The same seed, work and steps give the same messages. */
export class Line {
	readonly #stations: Station[] = [];
	readonly #printer: Printer | null;
	readonly #placers = new Map<string, Placer>();
	#nowMs: number;
	finished = 0;
	/** What the server holds, and the kinds of station that obey. */
	#held = new Map<string, ReadonlySet<string>>();
	/** Panels that were inspected and not yet heard of: reported, then sent, then answered for. */
	readonly #unheard = { reported: new Set<string>(), sent: new Set<string>() };

	constructor({
		name,
		stations,
		work,
		seed,
		startMs,
		bootId,
		out,
		troubles = [],
		rawPaste = true,
		gauge,
		waitsForWord = false,
		servesItself = true
	}: LineOptions) {
		this.#nowMs = startMs;
		let printer: Printer | null = null;
		stations.forEach((info, i) => {
			const random = seededRandom(seed * 97 + i);
			const sender = new Sender(`${name}/${info.name}`, bootId, out);
			const handOn = (panel: SimPanel) => {
				if (waitsForWord && info.role === 'pasteCheck') this.#unheard.reported.add(panel.serial);
				const after = this.#stations[i + 1];
				if (after) after.queue.push(panel);
				else this.finished++;
			};
			const cycleS = info.spec.cycleS ?? 15;
			const own = troubles.filter((trouble) => trouble.station === info.name);
			const machine = work.machines.find((m) => m.name === info.name) ?? { name: info.name, cycleS: 5, feeders: [] };
			switch (info.role) {
				case 'print':
					printer = new Printer(sender, random, handOn, work, cycleS, own);
					this.#stations.push(printer);
					break;
				case 'pasteCheck':
					this.#stations.push(new PasteInspection(sender, random, handOn, work, cycleS, own, rawPaste, gauge));
					break;
				case 'place': {
					const placer = new Placer(sender, random, handOn, work, machine, startMs, own, servesItself);
					this.#placers.set(info.name, placer);
					this.#stations.push(placer);
					break;
				}
				case 'oven':
					this.#stations.push(new Oven(sender, random, handOn, work, info, own));
					break;
				default:
					this.#stations.push(
						new Inspection(sender, random, handOn, work, inspectionKind(stations, i), cycleS, own, measuredBefore(stations))
					);
			}
		});
		this.#printer = printer;
		if (waitsForWord) this.#stations.forEach((station, i) => (station.gate = this.#gateOf(stations[i]!.role)));
		this.hearHolds(work.held ?? []);
		this.#seat(stations, work);
	}

	/** Puts the panels that stood between the machines back where they were reported from. Their paste is made anew: only the simulation knew it. */
	#seat(stations: readonly StationInfo[], work: Work): void {
		for (const { serial, after, stroke, printsSinceWipe } of work.onLine) {
			const next = this.#stations[stations.findIndex((info) => info.name === after) + 1];
			if (!next || !this.#printer) continue;
			next.queue.push({ serial, stroke, printsSinceWipe, deposits: this.#printer.deposit(stroke, printsSinceWipe, this.#nowMs) });
		}
	}

	/** Whether machines of a kind may take a panel. */
	#gateOf(role: string): Station['gate'] {
		if (role === 'print' || role === 'pasteCheck') return null;
		return (serial) => {
			if (this.#unheard.reported.has(serial) || this.#unheard.sent.has(serial)) return 'wait';
			return this.#held.get(serial)?.has(role) ? 'held' : 'go';
		};
	}

	/** What the server holds at this line, whichever run it builds: that is its word on every panel that was sent before. */
	hearHolds(held: readonly { panel: string; stations: string[] }[]): void {
		this.#held = new Map(held.map(({ panel, stations }) => [panel, new Set(stations)]));
		this.#unheard.sent.clear();
	}

	/** All that was reported so far has reached the server. */
	sent(): void {
		for (const serial of this.#unheard.reported) this.#unheard.sent.add(serial);
		this.#unheard.reported.clear();
	}

	/** What the server has to say about the run that the line builds. */
	hear({ panels, serials, jar, cured, mayPrint, setting, held, reprint, beadG, reels }: Omit<KnownWork, 'runId' | 'ended'>): void {
		if (held) this.hearHolds(held);
		for (const { name, feeders, cleanedMs, trims } of reels ?? []) {
			this.#placers.get(name)?.hearReels(feeders);
			this.#placers.get(name)?.hearCare(cleanedMs ?? {});
			this.#placers.get(name)?.hearTrims(trims ?? []);
		}
		if (!this.#printer) return;
		if (beadG !== undefined) this.#printer.beadIs(beadG);
		for (const serial of this.#printer.bringWashed(reprint ?? [])) this.#takeOff(serial);
		if (mayPrint !== undefined) this.#printer.mayPrint = mayPrint;
		if (jar !== undefined) this.#printer.jar = jar;
		if (setting !== undefined) this.#printer.setting = setting;
		if (cured) this.#printer.cured = new Set(cured);
		this.#printer.panels = panels;
		this.#printer.bring(serials ?? []);
	}

	/** A panel that was washed stands beside no machine any more. */
	#takeOff(serial: string): void {
		for (const { queue, aside } of this.#stations)
			for (const list of [queue, aside]) {
				const at = list.findIndex((panel) => panel.serial === serial);
				if (at >= 0) list.splice(at, 1);
			}
	}

	/** Plant time that the simulation has reached, ms. */
	get nowMs(): number {
		return this.#nowMs;
	}

	/** Advances to a plant time in steps of one second. */
	runTo(untilMs: number, printing = true): void {
		while (this.#nowMs + 1000 <= untilMs) {
			this.#nowMs += 1000;
			// Downstream first, so that a panel moves one machine a step.
			for (let i = this.#stations.length - 1; i >= 0; i--) {
				const station = this.#stations[i]!;
				if (i === 0 && !printing && station.empty) continue;
				station.step(1, this.#nowMs, this.#stations[i + 1]?.hasRoom ?? true);
			}
		}
	}

	get empty(): boolean {
		return this.#stations.every((station) => station.empty);
	}
}

/** An optical inspection before the oven sees parts on wet paste; after it, joints. */
function inspectionKind(stations: readonly StationInfo[], at: number): 'beforeOven' | 'optical' | 'inCircuit' {
	if (stations[at]!.role === 'inCircuit') return 'inCircuit';
	return stations.slice(at).some((info) => info.role === 'oven') ? 'beforeOven' : 'optical';
}

/** Whether parts are looked at before the oven. */
const measuredBefore = (stations: readonly StationInfo[]): boolean => {
	const oven = stations.findIndex((info) => info.role === 'oven');
	return stations.slice(0, Math.max(0, oven)).some((info) => info.role === 'optical');
};
