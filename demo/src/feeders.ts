import type { MachineApi } from '@keen-relay/devices/api';
import { seededRandom } from '@keen-relay/core/numerics';
import type { Person } from './person.ts';

// What stands in the placers of one line, as people load it: feeders and reels with their labels, scanned slot by slot; and what lies on the racks beside.

const LABEL = { firstFeeder: 101, firstReel: 20_401 } as const;
const RACKS = ['A', 'B', 'C', 'D'];
/** These slots wait for somebody with a scanner. */
const isLeft = (i: number) => i % 9 === 4;

export async function loadFeeders(technician: Person, machines: MachineApi, lineId: number): Promise<void> {
	const { work } = await machines.work(lineId, null);
	if (!work || !('machines' in work)) throw new Error('nothing is set up');
	const random = seededRandom(2634);
	let reelNumber = LABEL.firstReel;
	let feederNumber = LABEL.firstFeeder;
	const label = (partNumber: string, pieces: number, tapeMm: number, pitchMm: number, more: object = {}) => ({
		code: `RL-${reelNumber++}`,
		partNumber,
		kind: 'reel',
		makerLot: `Q26${20 + random.integer(20)}-${100 + random.integer(900)}`,
		dateCode: `26${20 + random.integer(20)}`,
		place: `rack ${RACKS[random.integer(RACKS.length)]}${1 + random.integer(8)}`,
		pieces,
		tapeMm,
		pitchMm,
		...more
	});
	const receive = async (reel: ReturnType<typeof label>) => {
		await technician.send('POST', '/api/v1/reels', reel);
		return reel.code;
	};
	for (const machine of work.machines) {
		for (const [i, { slot, partNumber, reelPieces, tapeMm = 8, pitchMm = 4 }] of machine.feeders.entries()) {
			const feeder = `F-${String(feederNumber++).padStart(4, '0')}`;
			await technician.send('POST', '/api/v1/feeders', { code: feeder, tapeMm, pitchMm });
			// Fine parts in large bodies take up water: their bags say so.
			const wet = tapeMm >= 16;
			const reel = await receive(label(partNumber, reelPieces, tapeMm, pitchMm, wet ? { moistureLevel: '3' } : {}));
			if (wet) await technician.send('POST', `/api/v1/reels/${reel}/events`, { kind: 'open', rhPct: 5 });
			const spare = await receive(label(partNumber, reelPieces, tapeMm, pitchMm, wet ? { moistureLevel: '3' } : {}));
			if (i === 7) await technician.send('POST', `/api/v1/reels/${spare}/events`, { kind: 'move', place: 'kitting table' });
			if (isLeft(i)) continue;
			let context = {};
			for (const scan of [`${machine.name}/${slot}`, feeder, reel]) {
				const said = await technician.send<{ ok: boolean; why: string; waits: { context: object } | null }>(
					'POST',
					'/api/v1/feeder-scans',
					{
						scan,
						lineId,
						...context
					}
				);
				if (!said.ok) throw new Error(`${scan}: ${said.why}`);
				context = said.waits?.context ?? {};
			}
		}
	}
}
