/** Brings a file of older writers into the form that the parser knows: one command a word, one parameter a block. What is meant stays, and so does every line.
 * G54 before a tool and G55 before a flash mean nothing; G70, G71, G90 and G91 come out as parameters (`%OLD70*%`), wherever they stood in a word.
 * @see the Gerber layer format specification, deprecated commands (value from memory)
 */
export function modernWords(text: string): string {
	const out: string[] = [];
	let changed = false;
	for (let from = 0; from < text.length;) {
		const start = firstInk(text, from);
		const parameters = text[start] === '%';
		const close = text.indexOf(parameters ? '%' : '*', start + 1);
		const end = close === -1 ? text.length : close + 1;
		const command = text.slice(start, end);
		const now = close === -1 ? command : parameters ? oneByOne(command) : wordByWord(command);
		changed ||= now !== command;
		out.push(text.slice(from, start), now);
		from = end;
	}
	return changed ? out.join('') : text;
}

function firstInk(text: string, from: number): number {
	while (from < text.length && text.charCodeAt(from) <= 32) from++;
	return from;
}

/** `%FSLAX23Y23*MOIN*%` is two parameters. A macro is one, however many blocks it has. */
function oneByOne(block: string): string {
	if (block.indexOf('*') === block.lastIndexOf('*') || /^%\s*AM|\*\s*AM/.test(block)) return block;
	return block
		.slice(1, -1)
		.split('*')
		.map((command) => command.replace(/^(\s*)(\S[^]*)$/, '$1%$2*%'))
		.join('');
}

/** Words that older files put into one with others. */
const OLD = /G0*(?:5[45]|7[01]|9[01])|G0*(?:3[67]|7[45])\s*[^*\s\d]|[^*\s]\s*[GM]\d|D0*[1-9]\d+\s*[^*\s\d]|[^*\s]\s*D0*[1-9]\d/;
const UNIT_OR_MODE = new Set([70, 71, 90, 91]);
const REGION_OR_ARC = new Set([36, 37, 74, 75]);

/** The words of one command: modes first, then what is drawn with them, then the end. */
function wordByWord(command: string): string {
	if (/^G0?4(?!\d)/.test(command) || !OLD.test(command)) return command;
	let [modes, drawn, last] = ['', '', ''];
	for (const word of command.slice(0, -1).match(/[A-Z][^A-Z]*|[^A-Z]+/g) ?? []) {
		const [, letter = '', digits = ''] = /^([GDM])(\d+)\s*$/.exec(word) ?? [];
		const number = Number(digits);
		if (letter === 'G' && (number === 54 || number === 55)) continue;
		if (letter === 'G' && UNIT_OR_MODE.has(number)) modes += `%OLD${number}*%`;
		else if ((letter === 'G' && REGION_OR_ARC.has(number)) || (letter === 'D' && number >= 10)) modes += `${letter}${number}*`;
		else if (letter === 'G' && drawn !== '') modes += `${letter}${number}*`;
		else if (letter === 'M') last += `${word}*`;
		else drawn += word;
	}
	const now = `${modes}${drawn.trim() === '' ? '' : `${drawn}*`}${last}`;
	return now + '\n'.repeat(lines(command) - lines(now));
}

const lines = (text: string) => text.split('\n').length;
