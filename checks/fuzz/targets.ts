import { panelGeometry, readBom, readLayer, readNetlist, readOutlineLayer, readPasteLayer, readPositions } from '@keen-relay/core/artwork';
import { lineWork, readProgram } from '@keen-relay/core/balance';
import { lookAtVisits, readPadTable, readPanelTable, readPasteTable, visitsOf } from '@keen-relay/core/inspection';
import type { seededRandom } from '@keen-relay/core/numerics';
import { readProfileLog } from '@keen-relay/core/reflow';

/** Two chips in each of two circuits, for one placer. */
const PROGRAM_WORK = lineWork(
	['R1', 'R2'].map((refDes, i) => ({
		refDes,
		partNumber: 'R-10K',
		value: '10k',
		packageName: 'RESC1005X40N',
		xMm: 5 + 10 * i,
		yMm: 5,
		rotationDeg: 0,
		fitted: true,
		apertures: []
	})),
	panelGeometry({ widthMm: 20, heightMm: 20 }, { rows: 1, columns: 2, pitchXMm: 22, pitchYMm: 22, railMm: 5, fiducials: [] }),
	[
		{
			name: 'Fast',
			slots: 20,
			slotPitchMm: 14,
			cameraSlot: 10,
			onTheFly: true,
			spindles: 6,
			headPitchMm: 14,
			x: { vMmS: 1500, aMmS2: 20000 },
			y: { vMmS: 1500, aMmS2: 18000 },
			pickS: 0.05,
			placeS: 0.06,
			cameraS: 0.2,
			transferS: 3,
			fiducialS: 0.4,
			accuracyUm: 50,
			accuracySigmas: 3,
			smallestMm: 0.25,
			largestMm: 10,
			tallestMm: 4,
			finestPitchMm: 0.5,
			trays: false
		}
	]
);

export type RandomSource = ReturnType<typeof seededRandom>;

/** A reader with files to begin from. */
export interface Target {
	name: string;
	seeds: readonly string[];
	/** Lines of a seed before its first data. */
	headLines: number;
	/** Reads a file; @returns what was read, and whether it got past the header */
	read(text: string): { read: unknown; pastHeader: boolean };
	/** Fields in which NaN stands for a blank cell. */
	blanks?: readonly string[];
}

const GERBER = [
	'%FSLAX34Y34*%\n%MOMM*%\n%ADD10C,0.4*%\n%ADD11R,0.9X0.3*%\n%ADD12O,0.3X1.1*%\n%ADD13P,0.8X6X15*%\n%TO.P,U1,1*%\nD10*\nX0Y0D03*\n%TD*%\nD11*\nX20000Y0D03*\nD12*\nX0Y20000D03*\nD13*\nX20000Y20000D03*\nM02*\n',
	'%FSTAX24Y24*MOIN*%\n%IPPOS*%\n%ADD10C,0.02*%\n%ADD11R,0.04X0.02*%\nG70G90G54D10*\nG01X01Y01D02*\nX02Y02D01*\nG75G03X03Y01I0J005D01*\nG54D11*\nX02Y01D03*\nX02Y015D03*\nM02*\n',
	'%FSLAX34Y34*%\n%MOMM*%\n%AMROUND*\n21,1,$1,$2-2x$3,0,0,0*\n21,1,$1-2x$3,$2,0,0,0*\n1,1,2x$3,$1/2-$3,$2/2-$3*%\n%ADD10ROUND,1.2X0.8X0.2*%\n%ADD11C,0.2*%\nD10*\nX0Y0D03*\n%LPC*%\nD11*\nX0Y0D03*\n%LPD*%\nG36*\nG01X30000Y0D02*\nX45000Y0D01*\nX37500Y12000D01*\nX30000Y0D01*\nG37*\n%SRX3Y2I1.5J1.25*%\nX6000Y5000D03*\n%SR*%\nM02*\n',
	'%FSLIX34Y34*%\n%MOMM*%\n%ADD10R,0.6X0.3*%\n%ABD20*%\nD10*\nX5000Y0D03*\nX5000Y6000D03*\n%AB*%\nD20*\nX10000Y0D03*\n%LR90*%\n%LMX*%\nX5000Y5000D03*\nD10*\nX0Y0D02*\nX20000Y15000D01*\nM02*\n'
];
const gerber = (name: string, read: (text: string) => { read: unknown; pastHeader: boolean }): Target => ({
	name,
	seeds: GERBER,
	headLines: 3,
	read
});
const drawn = (issues: readonly { code: string }[]) => !issues.some(({ code }) => code === 'not_gerber' || code === 'needs_unit');

/** Every reader of the product that takes a stranger's text. */
export const TARGETS: readonly Target[] = [
	gerber('paste layer', (text) => {
		const read = readPasteLayer(text);
		return { read, pastHeader: drawn(read.issues) };
	}),
	gerber('paste layer, unit said by a person', (text) => {
		const read = readPasteLayer(text, 'inch');
		return { read, pastHeader: drawn(read.issues) };
	}),
	gerber('other layer', (text) => {
		const read = readLayer(text, 'copper.gbr', 'mm');
		return { read, pastHeader: drawn(read.issues) };
	}),
	gerber('outline', (text) => {
		const read = readOutlineLayer(text, 'mm');
		return { read, pastHeader: drawn(read.issues) };
	}),
	{
		name: 'positions',
		seeds: [
			'Ref;X [mm];Y [mm];Rot;Side;Value;Package\nR1;5,25;6,0;90,0;T;10k;RESC1005X40N\nR2;10,5;6,0;0;B;10k;RESC1005X40N\nU1;20,0;24,0;45;top;driver;SOIC127P600X175-8\n',
			'# made by hand, units mil\nDesignator,Mid X,Mid Y,Rotation,Layer\nR1,196.8,236.2,90,F.Cu\nC2,393.7,236.2,180,B.Cu\n"U1",787.4,944.9,0,F.Cu\n',
			'### positions in mm\nRef    Val   Package   PosX   PosY   Rot  Side\nR1     10k   R_0402    5.250  6.000  90   top\nR2     4k7   R_0402    9.250  6.000  0    bottom\n'
		],
		headLines: 2,
		read: (text) => {
			const read = readPositions(text);
			return {
				read,
				pastHeader: read.rows.length > 0 || read.issues.some(({ code }) => code === 'bad_cell' || code.startsWith('ambiguous'))
			};
		}
	},
	{
		name: 'parts list',
		seeds: [
			'Part number,Designators,Quantity,Value,Package\nHU-R-10K,R1-R12,12,10k,0402\nHU-U-1,"U1, U2",2,fan driver,SOIC127P600X175-8\nHU-C,C1~C3,3,100n,1005\nX,TP1,1,DNP,\n',
			'Museum loan tracker\n\nPos;MPN;Bauform;Menge;Bezeichner;Bestückt\n1;AB-1;0603;4;R1 R2 R3 R4;J\n2;AB-2;0402;2;C1 to C2;N\n'
		],
		headLines: 3,
		read: (text) => {
			const read = readBom(text);
			return { read, pastHeader: read.items.length > 0 || read.issues.some(({ code }) => code !== 'no_header') };
		}
	},
	{
		name: 'netlist',
		seeds: [
			'P  JOB   HUMIDITY\nP  UNITS CUST 0\n327GND              U7    -1          A01X+001000Y+002000X0236Y0157R000 S2\n317GND              J1    -4    D0394PA00X+002000Y+003000X0600Y0600R000 S0\n327N3               R9    -2          A02X+004000Y+004000X0200Y0200R000 S1\n999\n'
		],
		headLines: 2,
		read: (text) => {
			const read = readNetlist(text);
			return { read, pastHeader: read.pads.length > 0 };
		}
	},
	{
		name: 'paste results',
		seeds: [
			'panel_no,pad_id,volume_pct,height_um,area_pct,offset_x_um,offset_y_um,peak_height_um,bridge\nP1,1,96.5,118,99,3,-2,140,0\nP1,2,101.2,121,98,4,-1,,0\nP2,1,88,110,97,2,2,130,1\nP2,2,,112,97,0,0,130,0\n',
			'panel_no;pad_id;volume_pct;height_um;area_pct;offset_x_um;offset_y_um\nP1;1;96,5;118,2;99,1;3,5;-2\nP1;2;101,25;121;98;4;-1\n'
		],
		headLines: 1,
		blanks: ['values'],
		read: (text) => {
			const read = readPasteTable(text);
			return { read, pastHeader: read.panel.length > 0 || Object.keys(read.mapping).length >= 7 };
		}
	},
	{
		name: 'pads of a study',
		seeds: [
			'pad_id,refdes,package_class,x_mm,y_mm,shape,size_x_mm,size_y_mm,foil_um,area_mm2,area_ratio\n1,R1,chip,5,6,rectangle,0.5,0.54,120,,\n2,R1,chip,6,6,rectangle,0.5,0.54,120,0.27,0.99\n3,U1,ball,9,6,circle,0.3,0.3,120,,\n'
		],
		headLines: 1,
		read: (text) => {
			const read = readPadTable(text);
			return { read, pastHeader: read.pads.length > 0 || read.issues.length > 0 };
		}
	},
	{
		name: 'panels of a study',
		seeds: [
			'panel_no,t_min,stroke,prints_since_wipe,prints_since_topup,minutes_since_previous_print\nP1,0,F,0,0,0\nP2,1.5,R,1,1,1.5\nP3,"3,0",F,2,,\n'
		],
		headLines: 1,
		read: (text) => {
			const read = readPanelTable(text);
			return { read, pastHeader: read.panels.length > 0 || read.issues.length > 0 };
		}
	},
	{
		name: 'results of inspections and tests',
		seeds: [
			'Serial;Position;Result;Start time;Finished;Designator;Defect;Reading\nJ-1-0001;1;OK;27/11/2026 14:04:00;27/11/2026 14:05:10;;;\nJ-1-0001;2;NG;27/11/2026 14:04:00;27/11/2026 14:05:10;R7;missing;"0,5"\n',
			'Panel,Circuit,Status,Time\nP-1,0,pass,2026-11-27T10:00:00Z\nP-1,1,fail,11/28/2026 10:00\n'
		],
		headLines: 1,
		read: (text) => {
			const look = lookAtVisits(text);
			const { panel, result, at } = look.columns;
			if (!panel || !result || !at) return { read: look, pastHeader: false };
			const read = visitsOf(text, {
				source: 'Line 1/Optical',
				type: 'optical_inspection',
				columns: { ...look.columns, panel, result, at },
				pass: look.words.flatMap(({ word, means }) => (means === 'pass' ? [word] : [])),
				fail: look.words.flatMap(({ word, means }) => (means === 'fail' ? [word] : [])),
				timeZone: 'UTC',
				dateOrder: look.dateOrder === 'month-first' ? 'month-first' : 'day-first'
			});
			return { read: { look, read }, pastHeader: read.visits.length > 0 || read.refused.length > 0 };
		}
	},
	{
		name: 'placement program',
		seeds: [
			'machine,cycle,spindle,tip,slot,part,designator,circuit\nFast,1,1,small,5,R-10K,R1,1\nFast,1,2,small,5,R-10K,R2,1\nFast,2,1,small,5,R-10K,R1,2\nFast,2,2,small,5,R-10K,R2,2\n',
			'Placer;Turn;Head;Track;RefDes;Board\nFast;1;1;5;R1;1\nFast;1;2;5;R2;1\nFast;2;1;5;R1;2\nFast;2;2;5;R2;2\n',
			'{"kind": "placement program", "placements": [{"machine": "Fast", "cycle": 1, "spindle": 1, "slot": 5, "designator": "R1", "circuit": 1}]}'
		],
		headLines: 1,
		read: (text) => {
			const read = readProgram(text, PROGRAM_WORK);
			return { read, pastHeader: !read.issues.some(({ code }) => code === 'unreadable') };
		}
	},
	{
		name: 'profile log',
		seeds: [
			'Time (s),TC1 (°C),TC2 (°C)\n0,25.1,25\n1,26,25.4\n2,29.5,27\n3,35,30\n60,150,140\n120,190,185\n200,245,240\n260,60,70\n',
			'Zeit;TC1 F;TC2 F\n00:00:00;77,0;77\n00:00:30;120,5;118\n00:01:00;OPEN;300\n00:04:00;470,5;465\n'
		],
		headLines: 1,
		read: (text) => {
			const read = readProfileLog(text);
			return { read, pastHeader: read.log !== null || read.issues.some(({ field }) => field !== 'header') };
		}
	}
];
