import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { readPasteLayer } from '@keen-relay/core/artwork';

// Layers of every style, written by hand, against the raster of a program that shares nothing with ours: gerbv of Debian, installed for these checks only.

const DPI = 5080;
const PIXEL_MM = 25.4 / DPI;
const MM = '%FSLAX34Y34*%\n%MOMM*%\n';
const IN = '%FSLAX24Y24*%\n%MOIN*%\n';
const END = 'M02*\n';

const LAYERS: readonly (readonly [style: string, text: string])[] = [
	[
		'flashes of every standard shape',
		`${MM}%ADD10C,0.4*%\n%ADD11R,0.9X0.3*%\n%ADD12O,0.3X1.1*%\n%ADD13P,0.8X6X15*%\nD10*\nX0Y0D03*\nD11*\nX20000Y0D03*\nD12*\nX0Y20000D03*\nD13*\nX20000Y20000D03*\n${END}`
	],
	[
		'inch, trailing zeros left out, modes and tools in one word with others',
		`%FSTAX24Y24*MOIN*%\n%ADD10C,0.02*%\n%ADD11R,0.04X0.02*%\nG70G90G54D10*\nG01X01Y01D02*\nG55X01Y01D03*\nG54D11*\nX02Y01D03*\nX02Y015D03*\n${END}`
	],
	[
		'strokes of a round pen, straight and around full arcs',
		`${MM}G75*\n%ADD10C,0.3*%\nD10*\nG01X0Y0D02*\nX20000Y5000D01*\nX25000Y20000D01*\nX50000Y0D02*\nG03X50000Y0I5000J0D01*\nG01X0Y30000D02*\nG02X20000Y30000I10000J0D01*\n${END}`
	],
	[
		'quarter arcs in single-quadrant mode',
		`${MM}G74*\n%ADD10C,0.25*%\nD10*\nG01X10000Y0D02*\nG03X0Y10000I10000J0D01*\nG03X-10000Y0I0J10000D01*\nG01X30000Y0D02*\nG02X40000Y10000I10000J0D01*\n${END}`
	],
	[
		'strokes of a rectangular pen',
		`${MM}%ADD10R,0.6X0.3*%\nD10*\nG01X0Y0D02*\nX20000Y15000D01*\nX30000Y0D02*\nX45000Y0D01*\nX45000Y12000D01*\n${END}`
	],
	[
		'regions with arcs, two contours in one',
		`${MM}G75*\nG36*\nG01X0Y0D02*\nX10000Y0D01*\nG03X10000Y10000I0J5000D01*\nG01X0Y10000D01*\nX0Y0D01*\nG01X30000Y0D02*\nX45000Y0D01*\nX37500Y12000D01*\nX30000Y0D01*\nG37*\n${END}`
	],
	[
		'a region with a hole closed in by a cut-in',
		`${MM}G36*\nG01X0Y0D02*\nX30000Y0D01*\nX30000Y30000D01*\nX0Y30000D01*\nX0Y15000D01*\nX10000Y15000D01*\nX10000Y20000D01*\nX20000Y20000D01*\nX20000Y10000D01*\nX10000Y10000D01*\nX10000Y15000D01*\nX0Y15000D01*\nX0Y0D01*\nG37*\n${END}`
	],
	[
		'macros broken over lines, with blanks, arithmetic and cleared parts',
		`${MM}%AMROUND*\n0 a rectangle with round corners*\n21,1,$1,\n$2-2x$3,0,0,0*\n21,1,$1-2x$3, $2, 0, 0, 0*\n1,1,2x$3,$1/2-$3,$2/2-$3*\n1,1,2x$3,$3-$1/2,$2/2-$3*\n1,1,2x$3,$1/2-$3,$3-$2/2*\n1,1,2x$3,$3-$1/2,$3-$2/2*%\n%AMFRAME*21,1,1.2,1.2,0,0,30*1,0,0.5,0,0*%\n%AMSTAR*4,1,4,-0.6,0,0,0.3,0.6,0,0,-0.3,-0.6,0,20*5,1,7,1,0,0.7,10*%\n%ADD10ROUND,1.2X0.8X0.2*%\n%ADD11FRAME*%\n%ADD12STAR*%\nD10*\nX0Y0D03*\nD11*\nX25000Y0D03*\nD12*\nX0Y25000D03*\n${END}`
	],
	[
		'a macro of a line and a thermal',
		`${MM}%AMLINE*20,1,0.3,-0.5,-0.2,0.5,0.3,25*%\n%AMTH*7,0,0,1.4,0.9,0.2,15*%\n%ADD10LINE*%\n%ADD11TH*%\nD10*\nX0Y0D03*\nD11*\nX25000Y0D03*\n${END}`
	],
	[
		'cleared and drawn again',
		`${MM}%ADD10R,3X3*%\n%ADD11C,2*%\n%ADD12R,0.6X0.6*%\n%LPD*%\nD10*\nX0Y0D03*\n%LPC*%\nD11*\nX0Y0D03*\n%LPD*%\nD12*\nX0Y0D03*\nX40000Y0D03*\n${END}`
	],
	[
		'step and repeat',
		`${MM}%ADD10O,0.5X0.25*%\n%ADD11C,0.3*%\n%SRX3Y2I1.5J1.25*%\nD10*\nX0Y0D03*\nD11*\nX6000Y5000D03*\n%SR*%\nD11*\nX60000Y0D03*\n${END}`
	],
	[
		'incremental',
		`%FSLIX34Y34*%\n%MOMM*%\n%ADD10C,0.4*%\n%ADD11R,0.5X0.5*%\nD10*\nX10000Y10000D03*\nX10000D03*\nD11*\nX10000Y10000D03*\nX-20000D03*\n${END}`
	],
	['an aperture before the unit', `%FSLAX24Y24*%\n%ADD10R,0.04X0.02*%\n%MOIN*%\nD10*\nX0Y0D03*\nX1000Y0D03*\n${END}`],
	['the unit by G71 only', `%FSLAX34Y34*%\nG71*\n%ADD10C,0.6*%\nG54D10*\nX0Y0D03*\nX12000Y3000D03*\n${END}`],
	[
		'axes swapped, mirrored, offset, at the scale of one',
		`%ASAYBX*%\n%FSLAX34Y34*%\n%MOMM*%\n%OFA0.5B-0.25*%\n%MIA1B0*%\n%SFA1.0B1.0*%\n%IPPOS*%\n%ADD10R,1X0.4*%\n%ADD11C,0.5*%\nD10*\nX0Y0D03*\nD11*\nX20000Y5000D03*\n${END}`
	],
	[
		'flashes with holes',
		`${MM}%ADD10C,1.2X0.4*%\n%ADD11R,1.2X0.8X0.3*%\n%ADD12P,1.2X5X0X0.3*%\nD10*\nX0Y0D03*\nD11*\nX20000Y0D03*\nD12*\nX0Y20000D03*\n${END}`
	],
	[
		'flashes without a size among others',
		`${IN}%ADD10C,0*%\n%ADD11C,0.03*%\nD10*\nX0Y0D03*\nX500Y500D03*\nD11*\nX1000Y1000D03*\nX2000Y1000D03*\n${END}`
	],
	[
		'pads as filled strokes side by side',
		`${IN}%ADD10C,0.006*%\nD10*\nG01X0Y0D02*\nX300Y0D01*\nX0Y40D02*\nX300Y40D01*\nX0Y80D02*\nX300Y80D01*\nX600Y0D02*\nX600Y300D01*\n${END}`
	],
	[
		'mirrored and turned flashes',
		`${MM}%AMBAR*21,1,1.2,0.4,0.3,0.1,20*1,1,0.5,-0.4,0.3*%\n%ADD10BAR*%\nD10*\nX0Y0D03*\n%LMX*%\n%LR35*%\nX25000Y0D03*\n${END}`
	]
];

/** Area and connected pieces of what is dark in a raster of the layer. */
function raster(folder: string, text: string): { areaMm2: number; pieces: number } {
	const [layer, picture] = [join(folder, 'layer.gbr'), join(folder, 'layer.png')];
	writeFileSync(layer, text);
	execFileSync('gerbv', ['-x', 'png', '-D', String(DPI), '-B', '2', '-b', '#ffffff', '-f', '#000000ff', '-o', picture, layer], {
		stdio: ['ignore', 'ignore', 'ignore']
	});
	const { width, height, data } = PNG.sync.read(readFileSync(picture));
	const dark = Uint8Array.from({ length: width * height }, (_, i) => (data[4 * i]! < 128 && data[4 * i + 3]! > 128 ? 1 : 0));
	const areaMm2 = dark.reduce((sum, pixel) => sum + pixel, 0) * PIXEL_MM ** 2;
	let pieces = 0;
	const stack: number[] = [];
	for (let start = 0; start < dark.length; start++) {
		if (!dark[start]) continue;
		pieces++;
		dark[start] = 0;
		stack.push(start);
		while (stack.length) {
			const at = stack.pop()!;
			const x = at % width;
			for (const next of [x > 0 ? at - 1 : -1, x < width - 1 ? at + 1 : -1, at - width, at + width])
				if (next >= 0 && next < dark.length && dark[next]) {
					dark[next] = 0;
					stack.push(next);
				}
		}
	}
	return { areaMm2, pieces };
}

let folder: string;
beforeAll(() => {
	folder = mkdtempSync(join(tmpdir(), 'keen-relay-gerbv-'));
});
afterAll(() => rmSync(folder, { recursive: true }));

describe('a raster of every style: the same openings, area within 1 %', () => {
	test.each(LAYERS)('%s', (_, text) => {
		const { apertures, issues } = readPasteLayer(text);
		expect(issues.filter((issue) => issue.severity === 'error')).toEqual([]);
		const { areaMm2, pieces } = raster(folder, text);
		expect(apertures).toHaveLength(pieces);
		expect(apertures.reduce((sum, a) => sum + a.areaMm2, 0) / areaMm2).toBeGreaterThan(0.99);
		expect(apertures.reduce((sum, a) => sum + a.areaMm2, 0) / areaMm2).toBeLessThan(1.01);
	});
});
