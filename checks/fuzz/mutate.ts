import type { RandomSource } from './targets.ts';

/** Pieces that files of every kind are made of: what one reader trips over, another may too. */
const TOKENS = [
	...[
		'',
		' ',
		'\n',
		'\r\n',
		'\t',
		',',
		';',
		'|',
		'"',
		'""',
		"'",
		'*',
		'%',
		'%%',
		'*%',
		'%*',
		'\u0000',
		'\ufeff',
		'\ud800',
		'é',
		'°',
		'µ',
		'×'
	],
	...[
		'0',
		'-0',
		'-',
		'+',
		'1e308',
		'-1e999',
		'1e-320',
		'NaN',
		'Infinity',
		'.',
		'..',
		'1.2.3',
		'1,5',
		'0,000',
		'9'.repeat(400),
		'00000000',
		'0x10'
	],
	...['mm', 'inch', 'mil', 'top', 'bottom', 'T', 'B', 'R1-R9', 'R1-R999999', 'C1~C5', 'DNP', 'n/a', 'OPEN', '°F', '25:61:61', '23:59:59'],
	...[
		'G36*',
		'G37*',
		'G74*',
		'G75*',
		'G91*',
		'G70*',
		'G02*',
		'G03*',
		'D01*',
		'D02*',
		'D03*',
		'D10*',
		'M02*',
		'%LPC*%',
		'%LPD*%',
		'%SRX9Y9I1J1*%'
	],
	...[
		'%SR*%',
		'%ABD20*%',
		'%AB*%',
		'D20*',
		'%LMX*%',
		'%LR45*%',
		'%LS0*%',
		'%ADD10C,0*%',
		'%ADD10P,1X3*%',
		'%AMA*1,1,$1,0,0*%',
		'%IPNEG*%',
		'%SFA0B0*%'
	],
	...[
		'%OFA9999B0*%',
		'%MOIN*%',
		'%MOMM*%',
		'%FSTAX66Y66*%',
		'X0Y0',
		'X-999999999Y1',
		'I0J0',
		'317',
		'999',
		'P  UNITS CUST 1',
		'Time (s),TC1'
	]
];

/** Changes a file a little, or a lot, the same way for the same numbers.
 * @param keepHead whether what stands before the first data is left alone, so that the reader gets past it
 */
export function mutated(seeds: readonly string[], headLines: number, keepHead: boolean, random: RandomSource): string {
	let text = seeds[random.integer(seeds.length)]!;
	let from = 0;
	if (keepHead) for (let line = 0; line < headLines; line++) from = text.indexOf('\n', from) + 1;
	const steps = 1 + random.integer(6);
	for (let step = 0; step < steps; step++) {
		const at = from + random.integer(Math.max(1, text.length - from));
		const end = Math.min(text.length, at + random.integer(random.chance(0.2) ? 400 : 12));
		switch (random.integer(9)) {
			case 0:
				text = text.slice(0, at) + text.slice(end);
				break;
			case 1:
				text = text.slice(0, end) + text.slice(at, end) + text.slice(end);
				break;
			case 2:
			case 3:
				text = text.slice(0, at) + TOKENS[random.integer(TOKENS.length)]! + text.slice(random.chance(0.5) ? at : end);
				break;
			case 4:
				text = text.slice(0, at) + String.fromCharCode(random.integer(256)) + text.slice(at + 1);
				break;
			case 5: {
				const other = seeds[random.integer(seeds.length)]!;
				const cut = random.integer(other.length);
				text = text.slice(0, at) + other.slice(cut, cut + random.integer(300)) + text.slice(end);
				break;
			}
			case 6:
				text = swappedLines(text, from, random);
				break;
			case 7: {
				// One number of the file becomes another one.
				const rest = text.slice(at).search(/\d/);
				if (rest >= 0) text = text.slice(0, at + rest) + String(random.integer(10 ** random.integer(9))) + text.slice(at + rest + 1);
				break;
			}
			case 8:
				if (random.chance(0.3)) text = text.slice(0, at);
				else text = text.slice(0, at) + text.slice(at, end).repeat(1 + random.integer(20)) + text.slice(end);
		}
	}
	return text.length > 60_000 ? text.slice(0, 60_000) : text;
}

function swappedLines(text: string, from: number, random: RandomSource): string {
	const lines = text.slice(from).split('\n');
	const [a, b] = [random.integer(lines.length), random.integer(lines.length)];
	[lines[a], lines[b]] = [lines[b]!, lines[a]!];
	return text.slice(0, from) + lines.join('\n');
}
