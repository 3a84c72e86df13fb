import type { Issue } from '../judgement/index.ts';
import { csvCell, findHeader, plainTitle } from '../tables/index.ts';
import {
	nozzleFor,
	outOfOrder,
	type HeadCycle,
	type HeadProgram,
	type Nozzle,
	type Placement,
	type PlacerSpec
} from '../placement/index.ts';
import { machinePlan, serpentinePlan, slotsOn, whyNot, type LinePlan, type LineWork } from './line-plan.ts';

/** One placement of a program as a file tells it; cycles, spindles, slots and circuits count from 1. */
export interface ProgramRow {
	machine: string;
	cycle: number;
	spindle: number;
	tip: string;
	slot: number;
	part: string;
	designator: string;
	circuit: number;
}

const TITLES = ['machine', 'cycle', 'spindle', 'tip', 'slot', 'part', 'designator', 'circuit'] as const satisfies (keyof ProgramRow)[];

/** A program as rows, in the order in which they are placed. */
export function programRows(plan: LinePlan): ProgramRow[] {
	return plan.machines.flatMap(({ machine, head, loadList }) => {
		const loadOf = new Map(loadList.flatMap((load) => load.refDes.map((refDes) => [refDes, load] as const)));
		return (head?.cycles ?? []).flatMap(({ held, order }, c) =>
			order.map((spindle) => {
				const [designator, circuit] = held[spindle]!;
				const { slot, partNumber } = loadOf.get(designator)!;
				return {
					machine,
					cycle: c + 1,
					spindle: spindle + 1,
					tip: head!.nozzles[spindle]!,
					slot,
					part: partNumber,
					designator,
					circuit: circuit + 1
				};
			})
		);
	});
}

/** As comma-separated values, a row a placement in the order of placing. */
export const programCsv = (plan: LinePlan): string =>
	[TITLES.join(','), ...programRows(plan).map((row) => TITLES.map((title) => csvCell(row[title])).join(','))].join('\r\n') + '\r\n';

/** As JSON: what it is, and the same rows. */
export const programJson = (plan: LinePlan, of: { board: string; side: string; line: string }): string =>
	`${JSON.stringify({ kind: 'placement program', version: 1, ...of, placements: programRows(plan) }, null, '\t')}\n`;

const WORDS: Record<keyof ProgramRow, readonly string[]> = {
	machine: ['machine', 'placer', 'station'],
	cycle: ['cycle', 'turn', 'gang'],
	spindle: ['spindle', 'head', 'nozzleno', 'nozzlenumber'],
	tip: ['tip', 'nozzle', 'nozzletype'],
	slot: ['slot', 'feederslot', 'position', 'track'],
	part: ['part', 'partnumber', 'component', 'article'],
	designator: ['designator', 'refdes', 'ref', 'reference'],
	circuit: ['circuit', 'board', 'image', 'block']
};
const NEEDED = ['cycle', 'spindle', 'slot', 'designator'] as const;
const MOST_ROWS = 50_000;

interface Line {
	line: number;
	cells: Partial<Record<keyof ProgramRow, string>>;
}

/** Reads a program from CSV or JSON, ours or made elsewhere, and judges it as if it were our own: every placement once, on a spindle and from a slot that are there,
 * by a machine that can. Where it cannot be run, every reason is named and there is no plan.
 * @param text the file
 */
export function readProgram(text: string, work: LineWork): { plan: LinePlan | null; issues: Issue[] } {
	const issues: Issue[] = [];
	const say = (severity: Issue['severity'], code: string, line: number | null, field: string, value: unknown, message: string) =>
		void issues.push({ severity, code, field, value: String(value ?? ''), message, ...(line === null ? {} : { line }) });
	const lines = rowsOf(text, (message) => say('error', 'unreadable', null, 'file', '', message));
	if (!lines) return { plan: null, issues };
	const machines = new Map(work.machines.map((m) => [m.name.toLowerCase(), m]));
	const placements = new Map(work.placements.map((p) => [`${p.refDes.toLowerCase()}.${p.circuit}`, p]));
	const circuits = work.panel.origins.length;
	const known = new Set(work.placements.map((p) => p.refDes.toLowerCase()));
	const byHand = new Set(work.byHand.flatMap((hand) => hand.refDes.map((refDes) => refDes.toLowerCase())));
	const placed = new Map<Placement, number>();
	const perMachine = new Map<string, Head>();
	for (const { line, cells } of lines) {
		const error = (code: string, field: string, value: unknown, message: string) => say('error', code, line, field, value, message);
		const whole = (field: 'cycle' | 'spindle' | 'slot' | 'circuit', most: number): number | null => {
			const value = cells[field]?.trim() ?? '';
			const number = /^\d+$/.test(value) ? Number(value) : NaN;
			if (number >= 1 && number <= most) return number;
			error('out_of_range', field, value, `${field} “${value}” is not a whole number from 1 to ${most}.`);
			return null;
		};
		const name = cells.machine?.trim() || (work.machines.length === 1 ? work.machines[0]!.name : '');
		const machine = machines.get(name.toLowerCase());
		if (!machine) {
			error('unknown_machine', 'machine', name, `“${name}” is no placer of this line: ${work.machines.map((m) => m.name).join(', ')}.`);
			continue;
		}
		const cycle = whole('cycle', 10_000);
		const spindle = whole('spindle', machine.spindles);
		const slot = whole('slot', machine.slots);
		const circuit = cells.circuit === undefined && circuits === 1 ? 1 : whole('circuit', circuits);
		if (cycle === null || spindle === null || slot === null || circuit === null) continue;
		const refDes = cells.designator?.trim() ?? '';
		const placement = placements.get(`${refDes.toLowerCase()}.${circuit - 1}`);
		if (!placement) {
			const why = known.has(refDes.toLowerCase())
				? `has no circuit ${circuit}`
				: byHand.has(refDes.toLowerCase())
					? 'can be placed by no machine of this line'
					: 'is no fitted part of this side';
			error('unknown_part', 'designator', refDes, `${refDes} ${why}.`);
			continue;
		}
		const before = placed.get(placement);
		if (before !== undefined) {
			error('placed_twice', 'designator', refDes, `${refDes} of circuit ${circuit} is placed on line ${before} already.`);
			continue;
		}
		if (cells.part?.trim() && cells.part.trim() !== placement.feeder)
			error('other_part', 'part', cells.part, `${refDes} is ${placement.feeder} on this board, not ${cells.part.trim()}.`);
		const head = perMachine.get(machine.name) ?? new Head(machine);
		perMachine.set(machine.name, head);
		const type = work.types.get(placement.feeder)!;
		const cannot = head.slots.has(placement.feeder) ? [] : whyNot(machine, type);
		if (cannot.length)
			error('cannot_place', 'designator', refDes, `${machine.name} cannot place ${placement.feeder}: ${cannot.join('; ')}.`);
		const problem = head.take(placement, {
			cycle,
			spindle,
			slot,
			tip: nozzleFor(type.body),
			slots: slotsOn(work, machine, placement.feeder)
		});
		if (problem) error(problem.code, problem.field, problem.value, problem.message);
		else placed.set(placement, line);
	}
	const missing = work.placements.filter((p) => !placed.has(p));
	if (missing.length)
		say(
			'error',
			'not_placed',
			null,
			'designator',
			missing[0]!.refDes,
			`${missing.length} of ${work.placements.length} placements are in no row that can be read: ${missing
				.slice(0, 8)
				.map((p) => `${p.refDes} of circuit ${p.circuit + 1}`)
				.join(', ')}${missing.length > 8 ? ' …' : ''}.`
		);
	if (issues.some(({ severity }) => severity === 'error')) return { plan: null, issues };
	const plans = work.machines.map((machine) => {
		const head = perMachine.get(machine.name);
		if (!head) return serpentinePlan(work, machine, []);
		const program = head.program();
		for (const [low, high] of outOfOrder(program).slice(0, 20))
			say(
				'warning',
				'order',
				null,
				'designator',
				low.refDes,
				`${machine.name} places ${low.refDes} after ${high.refDes} of circuit ${high.circuit + 1}, which stands beside it and is taller or finer.`
			);
		return machinePlan(work, machine, Object.fromEntries(head.slots), program);
	});
	return { plan: { machines: plans, byHand: work.byHand, dealGapPct: null }, issues };
}

/** What a file says of one machine, taken row by row. */
class Head {
	readonly slots = new Map<string, number>();
	private readonly stands = new Map<number, string>();
	private readonly tips = new Map<number, Nozzle>();
	private readonly cycles = new Map<number, HeadCycle>();
	constructor(private readonly machine: PlacerSpec) {}

	/** @returns why it cannot be so; null where it can */
	take(
		placement: Placement,
		{ cycle, spindle, slot, tip, slots }: { cycle: number; spindle: number; slot: number; tip: Nozzle; slots: number }
	): { code: string; field: string; value: number | string; message: string } | null {
		const { refDes, feeder } = placement;
		const tipNow = this.tips.get(spindle);
		if (tipNow && tipNow !== tip)
			return {
				code: 'tip',
				field: 'spindle',
				value: spindle,
				message: `${refDes} wants a ${tip} tip; spindle ${spindle} carries a ${tipNow} one, and tips are not changed within a panel here.`
			};
		const slotNow = this.slots.get(feeder);
		if (slotNow !== undefined && slotNow !== slot)
			return {
				code: 'two_slots',
				field: 'slot',
				value: slot,
				message: `${feeder} is picked from slot ${slotNow} in an earlier row, from ${slot} here.`
			};
		if (slotNow === undefined) {
			const own = Array.from({ length: slots }, (_, i) => slot + i);
			const other = own.map((s) => this.stands.get(s)).find(Boolean);
			if (other)
				return {
					code: 'slot_taken',
					field: 'slot',
					value: slot,
					message: `${feeder} takes ${slots} from slot ${slot}, where ${other} stands.`
				};
			if (slot + slots - 1 > this.machine.slots)
				return {
					code: 'out_of_range',
					field: 'slot',
					value: slot,
					message: `${feeder} takes ${slots} slots: from ${slot} they end beyond ${this.machine.slots}.`
				};
			for (const s of own) this.stands.set(s, feeder);
			this.slots.set(feeder, slot);
		}
		const head = this.cycles.get(cycle) ?? { held: Array<Placement | null>(this.machine.spindles).fill(null), order: [] };
		const there = head.held[spindle - 1];
		if (there)
			return {
				code: 'spindle_taken',
				field: 'spindle',
				value: spindle,
				message: `Spindle ${spindle} takes ${there.refDes} in cycle ${cycle} already.`
			};
		this.cycles.set(cycle, head);
		head.held[spindle - 1] = placement;
		head.order.push(spindle - 1);
		this.tips.set(spindle, tip);
		return null;
	}

	program(): HeadProgram {
		const nozzles = Array.from({ length: this.machine.spindles }, (_, i) => this.tips.get(i + 1) ?? 'small');
		return { nozzles, cycles: [...this.cycles].sort(([a], [b]) => a - b).map(([, cycle]) => cycle) };
	}
}

function rowsOf(text: string, refuse: (message: string) => void): Line[] | null {
	if (/^\s*[{[]/.test(text)) {
		let read: unknown;
		try {
			read = JSON.parse(text);
		} catch (problem) {
			refuse(`This file begins like JSON and is none: ${(problem as Error).message}.`);
			return null;
		}
		const rows = Array.isArray(read) ? read : (read as { placements?: unknown }).placements;
		if (!Array.isArray(rows)) {
			refuse('This JSON has no list “placements”.');
			return null;
		}
		if (rows.length > MOST_ROWS) {
			refuse(`${rows.length} rows: at most ${MOST_ROWS} are read.`);
			return null;
		}
		return rows.map((row: unknown, i) => ({
			line: i + 1,
			cells: Object.fromEntries(
				Object.entries(typeof row === 'object' && row ? row : {}).flatMap(([key, value]) => {
					const role = roleOf(key);
					return role && (typeof value === 'string' || typeof value === 'number') ? [[role, String(value)]] : [];
				})
			)
		}));
	}
	const header = findHeader(text, rolesOf, NEEDED);
	if (!header) {
		refuse(`No line has the titles ${NEEDED.join(', ')}: a program has a row a placement.`);
		return null;
	}
	const body = header.rows.slice(header.headerAt + 1).filter(({ cells }) => cells.some((cell) => cell.trim() !== ''));
	if (body.length > MOST_ROWS) {
		refuse(`${body.length} rows: at most ${MOST_ROWS} are read.`);
		return null;
	}
	return body.map(({ line, cells }) => ({
		line,
		cells: Object.fromEntries(Object.entries(header.columns).map(([role, at]) => [role, cells[at] ?? '']))
	}));
}

function roleOf(title: string): keyof ProgramRow | null {
	const plain = plainTitle(title);
	return TITLES.find((role) => WORDS[role].includes(plain)) ?? null;
}

function rolesOf(titles: readonly string[]): Partial<Record<keyof ProgramRow, number>> {
	const roles: Partial<Record<keyof ProgramRow, number>> = {};
	titles.forEach((title, i) => {
		const role = roleOf(title);
		if (role) roles[role] ??= i;
	});
	return roles;
}
