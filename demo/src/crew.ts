import { loadSlots, type Labels } from './feeders.ts';
import { Refused, type Person } from './person.ts';

/** A splice is begun when a reel holds parts for so many panels more. */
const SPLICE_AT_PANELS = 6;
/** Reels that a hand loads in one go while a line is set up. */
const LOADS_A_TURN = 12;
/** Prints more that are looked at before the crew leaves a run that is not in order to somebody who knows better. */
const MOST_MORE = 6;
const BEAD_G = 200;
/** The plant's everyday paste. */
const PASTE = { id: 1, partNumber: 'P-305' };

interface Item {
	code: string;
	mark: 'proven' | 'open' | 'wrong';
	scan: string | null;
}
interface Ready {
	runId: number;
	job: string;
	held: boolean;
	started: boolean;
	missing: Item[];
}
interface FirstBoard {
	lines: { key: string; mark: 'right' | 'wrong' | 'open' | 'again' }[];
	released: object | null;
	through: number;
}
interface Found {
	ok: boolean;
	moves: { name: string; path: string; body: object; grams: number | null }[];
}
interface Hold {
	id: number;
	kind: string;
	subject: string;
	lineId: number | null;
	wash: { misprintId: number; step: number; words: string | null; decision: string } | null;
}
interface Jar {
	id: string;
	state: string;
	paste: string;
}

/** People who run a line of the demo: they scan, load, splice, wash and release, through the public API and with their own badges, one act at a time.
 * They start no job, end none and override nothing: that is for whoever uses the application.
 */
export class Crew {
	readonly #more = new Map<number, number>();
	readonly #labels: Labels;

	constructor(
		private readonly technician: Person,
		private readonly engineer: Person,
		/** Begins the numbers of its reels and feeders, so that they are of this crew alone. */
		label: string
	) {
		let reels = 0;
		let feeders = 0;
		const number = (n: number) => String(n).padStart(5, '0');
		this.#labels = {
			reel: () => `${label}${number(++reels)}`,
			feeder: () => `${label}-F${number(++feeders)}`,
			about: ({ slot }) => ({ makerLot: `K${(slot % 9) + 1}-${label}`, place: 'line' })
		};
	}

	/** Does what is due at a line. @returns what was done, in words; null where nothing was */
	async turn(lineId: number): Promise<string | null> {
		const ready = await this.technician.send<Ready | null>('GET', `/api/v1/lines/${lineId}/ready`);
		if (!ready) return null;
		const done =
			(await this.#feed(lineId)) ??
			(await this.#setUp(lineId, ready)) ??
			(await this.#wash(lineId)) ??
			(ready.held ? await this.#release(ready.runId) : null) ??
			(ready.started ? await this.#firstBoard(ready.runId) : null) ??
			(await this.#stock(lineId));
		return done && `${ready.job}: ${done}`;
	}

	/** Scans a code and does the first of what the reply offers. */
	async #scan(code: string, lineId: number): Promise<string | null> {
		const found = await this.technician.send<Found>('GET', `/api/v1/find?code=${encodeURIComponent(code)}&line=${lineId}`);
		const [move] = found.moves;
		if (!found.ok || !move) return null;
		await this.technician.send('POST', move.path, {
			...move.body,
			...(move.grams === null ? {} : { grams: Math.max(move.grams, BEAD_G) })
		});
		return `${code}: ${move.name}`;
	}

	async #setUp(lineId: number, { runId, started, missing }: Ready): Promise<string | null> {
		if (!started && missing.length === 0) {
			await this.technician.send('POST', `/api/v1/runs/${runId}/ready`);
			return 'started';
		}
		for (const item of missing) {
			if (item.scan && item.code !== 'feeders') return this.#scan(item.scan, lineId);
			if (item.code === 'paste') return item.mark === 'wrong' ? this.#beadOff(lineId) : this.#prepareJar(lineId);
		}
		return null;
	}

	/** Opens the next warm jar for a stencil that has none. */
	async #prepareJar(lineId: number): Promise<string | null> {
		const warm = (await this.#jars()).find((jar) => jar.state === 'mixed' || jar.state === 'ready');
		return warm ? this.#scan(warm.id, lineId) : null;
	}

	async #jars(): Promise<Jar[]> {
		const jars = await this.technician.send<Jar[]>('GET', '/api/v1/jars');
		return jars.filter((jar) => jar.paste === PASTE.partNumber);
	}

	/** Keeps a jar out of the fridge for the next change, and the fridge from running empty. */
	async #stock(lineId: number): Promise<string | null> {
		const jars = await this.#jars();
		const cold = jars.filter((jar) => jar.state === 'cold');
		if (!jars.some((jar) => ['warming', 'ready', 'mixed'].includes(jar.state)) && cold[0]) return this.#scan(cold[0].id, lineId);
		if (cold.length > 1) return null;
		const { now } = await this.technician.send<{ now: string }>('GET', '/api/v1/clock');
		const expiry = new Date(Date.parse(now) + 90 * 86_400_000).toISOString().slice(0, 10);
		const id = `J-${1001 + jars.filter((jar) => /^J-1\d{3}$/.test(jar.id)).length + (Math.floor(Date.parse(now) / 3_600_000) % 800)}`;
		await this.technician.send('POST', '/api/v1/jars', {
			id,
			pasteId: PASTE.id,
			lot: `L${expiry.slice(2, 7)}`,
			expiry,
			grams: 500,
			fridgeId: 1
		});
		await this.technician.send('POST', `/api/v1/jars/${id}/events`, { kind: 'store_cold' });
		return `${id} received`;
	}

	/** Paste past its life: all of it is scraped off. */
	async #beadOff(lineId: number): Promise<string | null> {
		const on = await this.technician.send<{ jars: string[] }>('GET', `/api/v1/lines/${lineId}/bead`);
		for (const jar of on.jars) {
			await this.technician.send('POST', `/api/v1/jars/${jar}/events`, { kind: 'scrape_off', lineId, grams: 0, fact: true });
			await this.technician.send('POST', `/api/v1/jars/${jar}/events`, { kind: 'discard', fact: true });
		}
		return `${on.jars.join(', ')} off the stencil and thrown away`;
	}

	/** Scans what is in the slots, and splices reels that end soon. */
	async #feed(lineId: number): Promise<string | null> {
		const { wanted, loaded } = await loadSlots(this.technician, lineId, this.#labels, { panels: SPLICE_AT_PANELS, most: LOADS_A_TURN });
		return wanted ? `loaded ${loaded} of ${wanted} slots` : null;
	}

	/** Takes rejected panels off and washes them, a step a turn; where no wash is left an engineer looks at them. */
	async #wash(lineId: number): Promise<string | null> {
		const holds = await this.technician.send<Hold[]>('GET', '/api/v1/holds');
		for (const hold of holds.filter((h) => h.kind === 'panel' && h.lineId === lineId)) {
			const { wash, subject } = hold;
			if (!wash || (wash.words === null && wash.decision !== 'wash_and_reprint')) return this.#decide(hold);
			if (wash.words === null) continue;
			await this.technician.send('POST', `/api/v1/misprints/${wash.misprintId}/steps`, { step: wash.step });
			return `${subject}: ${wash.words}`;
		}
		return null;
	}

	async #decide({ id, subject, wash }: Hold): Promise<string> {
		try {
			if (!wash) {
				await this.technician.send('POST', `/api/v1/panels/${encodeURIComponent(subject)}/misprint`, {});
				return `${subject} is taken off`;
			}
		} catch (error) {
			if (!(error instanceof Refused)) throw error;
		}
		await this.engineer.send('POST', `/api/v1/holds/${id}/lift`, { note: 'washed as often as it stands; looked at under the microscope' });
		return `${subject} goes on by an engineer’s leave`;
	}

	/** What nobody has looked at yet of a first board is looked at by one person and released by another. */
	async #firstBoard(runId: number): Promise<string | null> {
		const path = `/api/v1/runs/${runId}/first-board`;
		try {
			const { lines, released, through } = await this.technician.send<FirstBoard>('GET', path);
			const open = lines.filter(({ mark }) => mark === 'open' || mark === 'again');
			// It is looked at when it has gone right through.
			if (through === 0) return null;
			if (open.length) {
				await this.technician.send('POST', `${path}/checks`, { keys: open.map(({ key }) => key), right: true });
				return `first board: ${open.length} lines looked at`;
			}
			if (released) return null;
			await this.engineer.send('POST', `${path}/release`);
			return 'first board released';
		} catch (error) {
			if (!(error instanceof Refused)) throw error;
			return null;
		}
	}

	async #release(runId: number): Promise<string | null> {
		try {
			await this.technician.send('POST', `/api/v1/runs/${runId}/first-print`);
			return 'first prints released';
		} catch (error) {
			const more = this.#more.get(runId) ?? 0;
			if (!(error instanceof Refused) || more === MOST_MORE || !error.message.includes('Not released')) return null;
			this.#more.set(runId, more + 1);
			await this.technician.send('POST', `/api/v1/runs/${runId}/first-print/more`);
			return 'one print more before the release';
		}
	}
}
