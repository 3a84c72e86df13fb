import { readPackage } from '@keen-relay/core/parts';
import { seededRandom } from '@keen-relay/core/numerics';

/** A line of the invented parts lists. */
interface Item {
	partNumber: string;
	prefix: string;
	count: number;
	value: string;
	packageName: string;
	description: string;
	fitted?: boolean;
	/** Places of big parts, mm and degrees; the others are put where there is room. */
	at?: [number, number, number][];
}

export interface DemoBoard {
	key: string;
	name: string;
	customer: string;
	revision: string;
	widthMm: number;
	heightMm: number;
	build: { thicknessMm: number; copperLayers: number; copperPct: number };
	panel: { rows: number; columns: number; gapMm: number; railMm: number };
	foilUm: number;
	style: 'mm, macros, step and repeat' | 'inch, regions' | 'mm, X2 attributes';
	items: Item[];
	/** Parts of the other side, on a board that has two. */
	bottom?: Item[];
}

export interface PlacedPart {
	refDes: string;
	item: Item;
	x: number;
	y: number;
	/** As seen looking at the part's own side. */
	rotation: number;
	side: 'top' | 'bottom';
}

export const BOARDS: DemoBoard[] = [
	{
		key: 'frost-sensor',
		name: 'Orchard frost sensor',
		customer: 'Hollin Bank Orchards',
		revision: 'C',
		widthMm: 52,
		heightMm: 38,
		build: { thicknessMm: 1.2, copperLayers: 4, copperPct: 50 },
		panel: { rows: 2, columns: 2, gapMm: 2, railMm: 6 },
		foilUm: 80,
		style: 'mm, macros, step and repeat',
		items: [
			{
				partNumber: 'FB-U-0311',
				prefix: 'U',
				count: 1,
				value: 'controller',
				packageName: 'QFN50P700X700X90-49',
				description: 'controller, no leads, thermal pad',
				at: [[27, 19, 0]]
			},
			{
				partNumber: 'FB-U-0420',
				prefix: 'U',
				count: 1,
				value: 'radio',
				packageName: 'BGA81C40P9X9_400X400X80',
				description: 'radio, ball grid 0.4 mm',
				at: [[13, 27, 90]]
			},
			{
				partNumber: 'FB-U-0102',
				prefix: 'U',
				count: 2,
				value: '3.0 V regulator',
				packageName: 'SOT95P280X145-5',
				description: 'regulator',
				at: [
					[42, 8, 0],
					[42, 14, 0]
				]
			},
			{
				partNumber: 'FB-U-0208',
				prefix: 'U',
				count: 1,
				value: 'logger store',
				packageName: 'SOIC127P600X175-8',
				description: 'store',
				at: [[40, 28, 90]]
			},
			{
				partNumber: 'FB-L-0040',
				prefix: 'L',
				count: 2,
				value: '4u7',
				packageName: 'INDM4040X200',
				description: 'inductor, shielded',
				at: [
					[47, 20, 0],
					[35, 8.5, 90]
				]
			},
			{
				partNumber: 'FB-J-0012',
				prefix: 'J',
				count: 1,
				value: 'probe',
				packageName: 'CONN_12X5.5X6',
				description: 'connector, probe',
				at: [[11, 5, 0]]
			},
			{
				partNumber: 'FB-Y-0003',
				prefix: 'Y',
				count: 1,
				value: '32 MHz',
				packageName: 'OSC_3.2X2.5X0.8',
				description: 'oscillator',
				at: [[20, 31, 0]]
			},
			{
				partNumber: 'FB-C-100N-0201',
				prefix: 'C',
				count: 40,
				value: '100n',
				packageName: 'CAPC0603X33N',
				description: 'capacitor 100 nF 10 V'
			},
			{ partNumber: 'FB-C-1P0-0201', prefix: 'C', count: 10, value: '1p0', packageName: 'CAPC0603X33N', description: 'capacitor 1 pF' },
			{
				partNumber: 'FB-C-1U0-0402',
				prefix: 'C',
				count: 22,
				value: '1u0',
				packageName: 'CAPC1005X55N',
				description: 'capacitor 1 µF 16 V'
			},
			{
				partNumber: 'FB-C-10U-0603',
				prefix: 'C',
				count: 8,
				value: '10u',
				packageName: 'CAPC1608X90N',
				description: 'capacitor 10 µF 10 V'
			},
			{ partNumber: 'FB-R-10K-0201', prefix: 'R', count: 26, value: '10k', packageName: 'RESC0603X26N', description: 'resistor 10 kΩ 1 %' },
			{
				partNumber: 'FB-R-49R9-0402',
				prefix: 'R',
				count: 18,
				value: '49R9',
				packageName: 'RESC1005X40N',
				description: 'resistor 49.9 Ω 1 %'
			},
			{ partNumber: 'FB-R-1M0-0402', prefix: 'R', count: 6, value: '1M', packageName: 'RESC1005X40N', description: 'resistor 1 MΩ 1 %' },
			{ partNumber: 'FB-D-0007', prefix: 'D', count: 3, value: 'amber', packageName: 'LEDC1608X80N', description: 'status lamp' },
			{
				partNumber: 'FB-R-0R-0402',
				prefix: 'R',
				count: 2,
				value: '0R',
				packageName: 'RESC1005X40N',
				description: 'antenna option',
				fitted: false
			}
		]
	},
	{
		key: 'tram-door',
		name: 'Tram-door controller',
		customer: 'Veldrop Tramways',
		revision: 'B',
		widthMm: 98,
		heightMm: 64,
		build: { thicknessMm: 1.6, copperLayers: 4, copperPct: 65 },
		panel: { rows: 2, columns: 1, gapMm: 3, railMm: 7 },
		foilUm: 120,
		style: 'inch, regions',
		items: [
			{
				partNumber: 'FB-U-0330',
				prefix: 'U',
				count: 1,
				value: 'controller',
				packageName: 'QFP50P1200X1200X160-64',
				description: 'controller, gull wing',
				at: [[52, 34, 0]]
			},
			{
				partNumber: 'FB-U-0512',
				prefix: 'U',
				count: 4,
				value: 'door driver',
				packageName: 'SOIC127P600X175-8',
				description: 'driver',
				at: [
					[20, 14, 0],
					[32, 14, 0],
					[44, 14, 0],
					[56, 14, 0]
				]
			},
			{
				partNumber: 'FB-U-0544',
				prefix: 'U',
				count: 1,
				value: 'bus',
				packageName: 'QFN65P500X500X90-21',
				description: 'bus interface, thermal pad',
				at: [[76, 36, 90]]
			},
			{ partNumber: 'FB-Q-0021', prefix: 'Q', count: 6, value: 'switch', packageName: 'SOT95P237X112-3', description: 'small switch' },
			{
				partNumber: 'FB-L-0101',
				prefix: 'L',
				count: 2,
				value: '22u',
				packageName: 'INDM8080X400',
				description: 'inductor, power',
				at: [
					[14, 42, 0],
					[88, 24, 0]
				]
			},
			{
				partNumber: 'FB-C-220U',
				prefix: 'C',
				count: 3,
				value: '220u',
				packageName: 'CAPE_8X8X10',
				description: 'electrolytic 220 µF 35 V',
				at: [
					[30, 50, 0],
					[40, 50, 0],
					[50, 52, 0]
				]
			},
			{
				partNumber: 'FB-J-0090',
				prefix: 'J',
				count: 2,
				value: 'doors',
				packageName: 'CONN_24X8X9',
				description: 'connector, doors',
				at: [
					[76, 7, 0],
					[80, 57, 0]
				]
			},
			{ partNumber: 'FB-D-0040', prefix: 'D', count: 4, value: 'clamp', packageName: 'DIOM5226X230', description: 'clamp diode' },
			{
				partNumber: 'FB-C-10U-1210',
				prefix: 'C',
				count: 6,
				value: '10u',
				packageName: 'CAPC3225X200N',
				description: 'capacitor 10 µF 50 V'
			},
			{
				partNumber: 'FB-C-100N-0402',
				prefix: 'C',
				count: 40,
				value: '100n',
				packageName: 'CAPC1005X55N',
				description: 'capacitor 100 nF 50 V'
			},
			{
				partNumber: 'FB-C-1U0-0603',
				prefix: 'C',
				count: 20,
				value: '1u0',
				packageName: 'CAPC1608X90N',
				description: 'capacitor 1 µF 50 V'
			},
			{
				partNumber: 'FB-R-4K7-0402',
				prefix: 'R',
				count: 44,
				value: '4k7',
				packageName: 'RESC1005X40N',
				description: 'resistor 4.7 kΩ 1 %'
			},
			{ partNumber: 'FB-R-120R-0805', prefix: 'R', count: 14, value: '120R', packageName: 'RESC2012X60N', description: 'resistor 120 Ω' },
			{ partNumber: 'FB-R-10R-1206', prefix: 'R', count: 8, value: '10R', packageName: 'RESC3216X60N', description: 'resistor 10 Ω' },
			{ partNumber: 'FB-D-0009', prefix: 'D', count: 4, value: 'green', packageName: 'LEDC2012X100N', description: 'status lamp' },
			{
				partNumber: 'FB-C-22N-0603',
				prefix: 'C',
				count: 3,
				value: '22n',
				packageName: 'CAPC1608X90N',
				description: 'filter option',
				fitted: false
			}
		]
	},
	{
		key: 'mushroom-house',
		name: 'Mushroom-house humidity controller',
		customer: 'Cellar Caps',
		revision: 'D',
		widthMm: 74,
		heightMm: 48,
		build: { thicknessMm: 1.6, copperLayers: 4, copperPct: 60 },
		panel: { rows: 2, columns: 2, gapMm: 2, railMm: 7 },
		foilUm: 100,
		style: 'mm, macros, step and repeat',
		items: [
			{
				partNumber: 'FB-U-0337',
				prefix: 'U',
				count: 1,
				value: 'controller',
				packageName: 'QFN50P700X700X90-49',
				description: 'controller, no leads, thermal pad',
				at: [[36, 26, 0]]
			},
			{
				partNumber: 'FB-U-0512',
				prefix: 'U',
				count: 2,
				value: 'valve driver',
				packageName: 'SOIC127P600X175-8',
				description: 'driver',
				at: [
					[14, 14, 0],
					[24, 14, 0]
				]
			},
			{
				partNumber: 'FB-J-0077',
				prefix: 'J',
				count: 1,
				value: 'valves',
				packageName: 'CONN_24X8X9',
				description: 'connector, valves',
				at: [[55, 7, 0]]
			},
			{
				partNumber: 'FB-L-0052',
				prefix: 'L',
				count: 1,
				value: '10u',
				packageName: 'INDM6060X300',
				description: 'inductor, shielded',
				at: [[60, 36, 0]]
			},
			{ partNumber: 'FB-Q-0021', prefix: 'Q', count: 4, value: 'switch', packageName: 'SOT95P237X112-3', description: 'small switch' },
			{
				partNumber: 'FB-C-10U-0805',
				prefix: 'C',
				count: 8,
				value: '10u',
				packageName: 'CAPC2012X125N',
				description: 'capacitor 10 µF 25 V'
			},
			{
				partNumber: 'FB-R-10K-0402',
				prefix: 'R',
				count: 24,
				value: '10k',
				packageName: 'RESC1005X40N',
				description: 'resistor 10 kΩ 1 %'
			},
			{
				partNumber: 'FB-C-100N-0402',
				prefix: 'C',
				count: 18,
				value: '100n',
				packageName: 'CAPC1005X55N',
				description: 'capacitor 100 nF 50 V'
			},
			{ partNumber: 'FB-D-0009', prefix: 'D', count: 3, value: 'green', packageName: 'LEDC2012X100N', description: 'status lamp' }
		],
		bottom: [
			{
				partNumber: 'FB-U-0610',
				prefix: 'U',
				count: 1,
				value: 'humidity front end',
				packageName: 'QFN65P500X500X90-21',
				description: 'sensor front end, thermal pad',
				at: [[20, 28, 90]]
			},
			{
				partNumber: 'FB-C-100N-0402',
				prefix: 'C',
				count: 26,
				value: '100n',
				packageName: 'CAPC1005X55N',
				description: 'capacitor 100 nF 50 V'
			},
			{
				partNumber: 'FB-R-10K-0402',
				prefix: 'R',
				count: 12,
				value: '10k',
				packageName: 'RESC1005X40N',
				description: 'resistor 10 kΩ 1 %'
			},
			{
				partNumber: 'FB-R-2K2-0603',
				prefix: 'R',
				count: 10,
				value: '2k2',
				packageName: 'RESC1608X55N',
				description: 'resistor 2.2 kΩ 1 %'
			}
		]
	},
	{
		key: 'rowing-torque',
		name: 'Rowing-machine torque sensor',
		customer: 'Stillwater Oars',
		revision: 'A',
		widthMm: 34,
		heightMm: 22,
		build: { thicknessMm: 0.8, copperLayers: 2, copperPct: 45 },
		panel: { rows: 3, columns: 2, gapMm: 2, railMm: 5 },
		foilUm: 100,
		style: 'mm, X2 attributes',
		items: [
			{
				partNumber: 'FB-U-0704',
				prefix: 'U',
				count: 1,
				value: 'bridge amplifier',
				packageName: 'QFN50P300X300X80-17',
				description: 'amplifier, thermal pad',
				at: [[17, 11, 0]]
			},
			{
				partNumber: 'FB-U-0102',
				prefix: 'U',
				count: 1,
				value: '3.0 V regulator',
				packageName: 'SOT95P280X145-5',
				description: 'regulator',
				at: [[27, 6, 0]]
			},
			{
				partNumber: 'FB-J-0003',
				prefix: 'J',
				count: 1,
				value: 'bridge',
				packageName: 'CONN_10X5X4',
				description: 'connector, bridge',
				at: [[8, 17, 0]]
			},
			{
				partNumber: 'FB-R-350R-0603',
				prefix: 'R',
				count: 4,
				value: '350R',
				packageName: 'RESC1608X55N',
				description: 'resistor 350 Ω 0.1 %'
			},
			{
				partNumber: 'FB-R-10K-0402',
				prefix: 'R',
				count: 8,
				value: '10k',
				packageName: 'RESC1005X40N',
				description: 'resistor 10 kΩ 1 %'
			},
			{
				partNumber: 'FB-C-100N-0402',
				prefix: 'C',
				count: 12,
				value: '100n',
				packageName: 'CAPC1005X55N',
				description: 'capacitor 100 nF 50 V'
			}
		]
	}
];

const CLEAR_MM = 0.45;
const EDGE_MM = 2;

/** Puts every part of a board somewhere: big ones where the list says, the others where there is room. Seeded, so the files repeat.
 * Designators of the two sides run on; the sides do not hinder each other.
 */
export function placeParts(board: DemoBoard, seed: number): PlacedPart[] {
	const numbers = new Map<string, number>();
	const top = placeSide(board, board.items, 'top', seed, numbers);
	return [...top, ...(board.bottom ? placeSide(board, board.bottom, 'bottom', seed + 500, numbers) : [])];
}

function placeSide(
	board: DemoBoard,
	items: readonly Item[],
	side: 'top' | 'bottom',
	seed: number,
	numbers: Map<string, number>
): PlacedPart[] {
	const random = seededRandom(seed);
	const placed: (PlacedPart & { hw: number; hh: number })[] = [];
	for (const item of items) {
		const body = readPackage(item.packageName);
		// Paste reaches a little beyond the ends of two-terminal parts.
		const [l, w] = [(body.lengthMm ?? 2) + (body.chip ? 0.35 : 0.2), (body.widthMm ?? 2) + 0.1];
		for (let k = 0; k < item.count; k++) {
			const n = (numbers.get(item.prefix) ?? 0) + 1;
			numbers.set(item.prefix, n);
			const fixed = item.at?.[k];
			for (let attempt = 0; ; attempt++) {
				if (attempt > 20000) throw new Error(`no room for ${item.prefix}${n} on ${board.name}`);
				const rotation = fixed?.[2] ?? [0, 90, 180, 270][random.integer(4)]!;
				const [hw, hh] = rotation % 180 === 0 ? [l / 2, w / 2] : [w / 2, l / 2];
				const x = fixed?.[0] ?? Math.round((EDGE_MM + hw + random.uniform() * (board.widthMm - 2 * (EDGE_MM + hw))) * 4) / 4;
				const y = fixed?.[1] ?? Math.round((EDGE_MM + hh + random.uniform() * (board.heightMm - 2 * (EDGE_MM + hh))) * 4) / 4;
				const free = placed.every((p) => Math.abs(p.x - x) > p.hw + hw + CLEAR_MM || Math.abs(p.y - y) > p.hh + hh + CLEAR_MM);
				if (!free && !fixed) continue;
				if (!free) throw new Error(`${item.prefix}${n} of ${board.name} stands on another part`);
				placed.push({ refDes: `${item.prefix}${n}`, item, x, y, rotation, side, hw, hh });
				break;
			}
		}
	}
	return placed;
}
