import type { Say } from '@keen-relay/core/people';
import { missing } from '../answer.ts';
import type { Sheet } from './pdf.ts';
import { planFor } from '../stations/place/program.ts';
import { stationPage } from '../line/station-page.ts';

/** The load list of a placer for a board side, in slot order: what stands where, and with which supply. */
export async function loadListSheet(lineParam: string, stationParam: string, url: URL, say: Say, printedAt: string): Promise<Sheet> {
	const { side, run, ready, station, lineId } = await stationPage(lineParam, 'place', url, stationParam);
	if (!side) return missing('There is no board yet.', '/boards/new', 'Read in a board');
	const running = side.running ? run : null;
	const program = running ? { revision: running.programRevision, plan: running.plan } : ready.program;
	const plan = program?.plan ?? (await planFor(side.id, lineId));
	const machine = plan.machines.find((m) => m.machine === station.name);
	return {
		title: `Load list, ${station.name}`,
		about: [
			`${side.name} ${side.revision}, ${side.side} side; ${program ? `program ${program.revision}` : 'not released: a plan only'}${running ? `; job ${running.number}` : ''}`,
			`${machine?.loadList.length ?? 0} feeders, ${machine?.placements ?? 0} placements, ${say.fixed(machine?.totalS ?? 0, 1)} s a panel; printed ${printedAt}`
		],
		blocks: [
			{
				columns: [
					{ title: 'Slot', figures: true },
					{ title: 'Part number' },
					{ title: 'Value' },
					{ title: 'Package', width: '*' },
					{ title: 'Supply' },
					{ title: 'A panel', figures: true },
					{ title: 'Reel', width: 90 }
				],
				rows: (machine?.loadList ?? []).map((load) => [
					load.slots > 1 ? `${load.slot}-${load.slot + load.slots - 1}` : load.slot,
					load.partNumber,
					load.value,
					load.packageName,
					load.supply.kind === 'tray' ? 'tray' : `${load.supply.widthMm} mm tape`,
					load.perPanel,
					''
				])
			},
			...(plan.byHand.length
				? [
						{
							heading: 'By hand: no machine of this line takes them',
							lines: plan.byHand.map((part) => `${part.partNumber}: ${part.refDes.join(', ')}`)
						}
					]
				: [])
		],
		signatures: [
			{ role: 'loaded', name: '', at: '' },
			{ role: 'checked', name: '', at: '' }
		]
	};
}
