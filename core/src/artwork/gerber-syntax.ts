import { type ChildNode, createParser } from '@tracespace/parser';
import { type Issue, quoteValue } from '../judgement/index.ts';
import { readMacros } from './macro-syntax.ts';
import { modernWords } from './old-words.ts';

export interface GerberSyntax {
	nodes: ChildNode[];
	issues: Issue[];
}

/** A parse result is never a drawing when the text is not Gerber at all; then `nodes` is empty and the issue says why.
 * Commands that the parser passed over in silence are found by the text between its nodes and reported by line.
 */
export function readSyntax(text: string): GerberSyntax {
	const problem = notGerber(text);
	if (problem) return { nodes: [], issues: [problem] };
	let nodes: ChildNode[];
	const { rest, macros, issues: ofMacros } = readMacros(modernWords(emptyComments(text)));
	const long = tooLong(rest);
	if (long) return { nodes: [], issues: [long] };
	text = wholeAttributes(rest);
	try {
		const parser = createParser();
		for (const chunk of chunksOf(text)) parser.feed(chunk);
		const root = parser.result();
		if (root.filetype !== 'gerber')
			return {
				nodes: [],
				issues: [fault(1, 'file', firstLine(text), 'This looks like a drill file. Choose the paste layer in RS-274X.')]
			};
		nodes = inOrder([...macros, ...root.children]);
	} catch (error) {
		const why = error instanceof Error ? error.message : String(error);
		return { nodes: [], issues: [fault(1, 'file', firstLine(text), `Not readable as Gerber: ${why}.`)] };
	}
	const issues = [...ofMacros, ...unread(text, nodes)];
	if (!nodes.some((node) => node.type === 'done')) {
		const lastLine = text.trimEnd().split('\n').length;
		issues.push({
			severity: 'error',
			code: 'missing_end_of_file',
			line: lastLine,
			field: 'end of file',
			value: quoteValue(text.trimEnd().split('\n').at(-1) ?? ''),
			message: `The file stops at line ${lastLine} without M02: it was cut short. Export or copy it again.`
		});
	}
	return { nodes, issues };
}

/** The parser's time grows with the square of a comment's length: what no attribute stands in is taken out, its line ends left. */
function emptyComments(text: string): string {
	return text.replace(/((?:^|[*%])\s*)G0?4(?!\d)([^*]*)(\*|$)/g, (whole, before: string, comment: string, end: string) => {
		const meant = comment.includes('#@!') || comment.includes('%');
		return meant && comment.length < LONGEST_ATTRIBUTE ? whole : `${before}G04 ${comment.replace(/[^\n]/g, '')}${end}`;
	});
}

const LONGEST_ATTRIBUTE = 400;

/** The parser looks at all of a command again with each of its parts: its time grows with the square of a command's length. No command but a macro, which is read
 * apart, comes near this.
 */
const LONGEST_COMMAND = 6000;

function tooLong(text: string): Issue | null {
	for (let from = 0; from < text.length;) {
		const end = text.indexOf('*', from);
		const length = (end === -1 ? text.length : end) - from;
		// Blank lines, and macros that were taken out, are no command.
		if (length > LONGEST_COMMAND) {
			const command = text.slice(from, from + length).replace(/\s+/g, '');
			if (command.length > LONGEST_COMMAND) {
				const line = text.slice(0, from).split('\n').length;
				const message = `Line ${line}: a command of ${command.length} characters is none of a drawing. Is the file damaged, or no Gerber?`;
				return { severity: 'error', code: 'too_long_command', line, field: 'command', value: quoteValue(command.slice(0, 200)), message };
			}
		}
		from = end === -1 ? text.length : end + 1;
	}
	return null;
}

/** Pieces that end with a line: the parser hands on what it found piece by piece, and a whole plant's panel at once is more than a call can take. */
function* chunksOf(text: string): Generator<string> {
	const whole = text.endsWith('\n') ? text : `${text}\n`;
	for (let from = 0; from < whole.length;) {
		let end = Math.min(whole.length, from + CHUNK);
		if (end < whole.length) {
			// A command that goes on over the line is not cut.
			const cut = whole.lastIndexOf('*\n', end);
			end = cut > from ? cut + 2 : whole.length;
		}
		yield whole.slice(from, end);
		from = end;
	}
}

const CHUNK = 200_000;

const startOf = (node: ChildNode) => node.position?.start.offset ?? 0;
const inOrder = (nodes: ChildNode[]) =>
	nodes
		.map((node, i) => ({ node, i }))
		.sort((a, b) => startOf(a.node) - startOf(b.node) || a.i - b.i)
		.map(({ node }) => node);

/** Kept out of the way of the parser's own codes. */
const GUARD = '\u200b';

/** The parser reads "D1" inside an attribute as a code and drops its letter ("D1" of a diode becomes "1"): a guard keeps the two together. */
function wholeAttributes(text: string): string {
	return text.replace(/%T[OAF][^%]*%/g, (attribute) => attribute.replace(/([DGM])(?=\d)/g, `$1${GUARD}`));
}

/** An attribute's value as it was written, its escapes resolved. */
export function attributeText(value: string): string {
	return value.replaceAll(GUARD, '').replace(/\\u([0-9a-fA-F]{4})/g, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)));
}

function fault(line: number, field: string, value: string, message: string): Issue {
	return { severity: 'error', code: 'not_gerber', line, field, value: quoteValue(value), message };
}

const firstLine = (text: string) => text.split('\n', 1)[0] ?? '';

function notGerber(text: string): Issue | null {
	if (text.trim() === '') return fault(1, 'file', '', 'The file is empty. Choose the paste layer in RS-274X.');
	const odd = text.slice(0, 4096).search(/[\u0000-\u0008\u000e-\u001f\ufffd]/);
	if (odd >= 0) {
		const line = text.slice(0, odd).split('\n').length;
		return fault(
			line,
			'file',
			text.split('\n')[line - 1] ?? '',
			'This is a binary file, not Gerber text. If it is an archive, unpack it first.'
		);
	}
	if (!/%FS|%MO|G0?4|D0?[123]\*/.test(text))
		return fault(1, 'file', firstLine(text), 'No Gerber command was found. Choose the paste layer in RS-274X.');
	return null;
}

/** What stands between two nodes and is neither space nor an end mark. */
function unread(text: string, nodes: readonly ChildNode[]): Issue[] {
	const issues: Issue[] = [];
	let at = 0;
	let line = 1;
	const lineAt = (offset: number) => {
		for (; at < offset; at++) if (text.charCodeAt(at) === 10) line++;
		return line;
	};
	let end = 0;
	for (const node of [...nodes, null]) {
		const start = node ? (node.position?.start.offset ?? end) : text.length;
		if (start > end) {
			const gap = text.slice(end, start);
			const odd = /[^\s%*]+/g;
			for (let match = odd.exec(gap); match; match = odd.exec(gap)) {
				const known = lineAt(end + match.index);
				issues.push({
					severity: 'error',
					code: 'unknown_command',
					line: known,
					field: 'command',
					value: quoteValue(match[0]),
					message: `Line ${known}: the command "${quoteValue(match[0])}" is not known, so the drawing may be wrong. Correct or remove it.`
				});
			}
		}
		if (node) end = Math.max(end, node.position?.end.offset ?? end);
		if (node?.type === 'done') break;
	}
	return issues;
}
