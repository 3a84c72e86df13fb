import { Refused, type Person } from './person.ts';

// What stands in the placers of a line, as people with a scanner load it: feeders and reels with their labels, scanned slot by slot.

/** Whoever loads: a person of the plant, signed in. */
type Hands = Pick<Person, 'send'>;

interface Slot {
	slot: number;
	partNumber: string;
	perPanel: number;
	reelPieces: number;
	tapeMm: number;
	pitchMm: number;
	left: number | null;
	feeder: string | null;
	mark: 'right' | 'wrong' | 'open';
}
interface Reel {
	code: string;
	partNumber: string;
	tapeMm: number | null;
	pitchMm: number | null;
	pieces: number;
	feeder: { code: string; stationId: number | null } | null;
	status: { gone: boolean; blocked: string | null; life: { leftH: number } | null };
}
interface Feeder {
	code: string;
	tapeMm: number;
	pitchMm: number;
	reel: string | null;
	stationId: number | null;
	outOfService: string | null;
}
interface Scanned {
	ok: boolean;
	why: string;
}

/** How the labels of new feeders and reels are numbered, and what else a new reel says of itself. */
export interface Labels {
	feeder: () => string;
	reel: () => string;
	about: (slot: Pick<Slot, 'slot' | 'tapeMm'>) => { makerLot: string; dateCode?: string; place: string; moistureLevel?: string };
}

/** Loads what is not right by scan, and splices what ends within some panels, on one line.
 * @param panels that every slot has to last for
 * @param most slots in one go
 * @param anew takes fresh feeders and reels for every slot
 * @returns how many slots wanted something, and how many got it
 */
export async function loadSlots(
	person: Hands,
	lineId: number,
	labels: Labels,
	{ panels, most = Infinity, anew = false }: { panels: number; most?: number; anew?: boolean }
): Promise<{ wanted: number; loaded: number }> {
	const line = await person.send<{ machines: { stationId: number | null; name: string; feeders: Slot[] }[] } | null>(
		'GET',
		`/api/v1/lines/${lineId}/feeders`
	);
	const wanting = (line?.machines ?? []).flatMap(({ stationId, name, feeders }) =>
		feeders
			.filter((slot) => anew || slot.mark !== 'right' || slot.left === null || slot.left < panels * slot.perPanel)
			.map((of) => ({ label: `${name}/${of.slot}`, at: { stationId, slot: of.slot }, ...of }))
	);
	if (wanting.length === 0) return { wanted: 0, loaded: 0 };
	const [reels, feeders] = await Promise.all([
		person.send<Reel[]>('GET', '/api/v1/reels'),
		person.send<Feeder[]>('GET', '/api/v1/feeders')
	]);
	let loaded = 0;
	for (const slot of wanting.slice(0, most)) {
		// The slot was scanned before, and the feeder where both are new in it.
		const scan = async (code: string, feeder: string | null = null) => {
			const said = await person.send<Scanned>('POST', '/api/v1/feeder-scans', { scan: code, lineId, slot: slot.at, feeder });
			if (!said.ok) throw new Refused(422, `${slot.label}, ${code}: ${said.why}`);
			loaded++;
		};
		// The splice goes to what feeds there; anything else is put in with its feeder.
		if (!anew && slot.mark === 'right') {
			await scan(await freshReel(person, labels, slot, reels, panels));
			continue;
		}
		const fits = (reel: Reel) => reel.partNumber === slot.partNumber && isGood(reel) && reel.pieces >= panels * slot.perPanel;
		const tied = reels.find((reel) => reel.feeder && reel.feeder.stationId === null && fits(reel));
		const ready = tied && feeders.find((f) => f.code === tied.feeder!.code && isSet(f, slot) && f.outOfService === null);
		if (!anew && ready) {
			tied.feeder = { ...tied.feeder!, stationId: 0 };
			await scan(ready.code);
			continue;
		}
		const feeder = await freeFeeder(person, labels, slot, feeders);
		await scan(await freshReel(person, labels, slot, anew ? [] : reels, panels), feeder);
	}
	return { wanted: wanting.length, loaded };
}

const isSet = (feeder: Feeder, { tapeMm, pitchMm }: Slot) => feeder.tapeMm === tapeMm && feeder.pitchMm === pitchMm;
const isGood = ({ status }: Reel) => !status.gone && status.blocked === null && (status.life === null || status.life.leftH > 0);

async function freeFeeder(person: Hands, labels: Labels, slot: Slot, feeders: Feeder[]): Promise<string> {
	const free = feeders.find((f) => f.reel === null && f.stationId === null && f.outOfService === null && isSet(f, slot));
	if (free) {
		feeders.splice(feeders.indexOf(free), 1);
		return free.code;
	}
	const code = labels.feeder();
	await person.send('POST', '/api/v1/feeders', { code, tapeMm: slot.tapeMm, pitchMm: slot.pitchMm });
	return code;
}

/** A spare reel of the part from the racks, else one that has just come. */
async function freshReel(person: Hands, labels: Labels, slot: Slot, reels: Reel[], panels: number): Promise<string> {
	const spare = reels.find(
		(reel) =>
			reel.partNumber === slot.partNumber &&
			reel.feeder === null &&
			isGood(reel) &&
			reel.tapeMm === slot.tapeMm &&
			reel.pieces >= 2 * panels * slot.perPanel
	);
	if (spare) {
		reels.splice(reels.indexOf(spare), 1);
		return spare.code;
	}
	return receiveReel(person, labels, slot);
}

/** A reel of what a slot wants comes in. */
export async function receiveReel(
	person: Hands,
	labels: Labels,
	slot: Pick<Slot, 'slot' | 'partNumber' | 'reelPieces' | 'tapeMm' | 'pitchMm'>
): Promise<string> {
	const code = labels.reel();
	const { partNumber, reelPieces, tapeMm, pitchMm } = slot;
	const about = labels.about(slot);
	await person.send('POST', '/api/v1/reels', { code, partNumber, kind: 'reel', pieces: reelPieces, tapeMm, pitchMm, ...about });
	if (about.moistureLevel) await person.send('POST', `/api/v1/reels/${code}/events`, { kind: 'open', rhPct: 5 });
	return code;
}
