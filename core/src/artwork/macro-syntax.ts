import type { MacroBlock, ToolMacro } from '@tracespace/parser';
import { type Issue, quoteValue } from '../judgement/index.ts';

/** A value of a macro: a number, a variable, or arithmetic of them. */
export type MacroValue = number | string | { left: MacroValue; right: MacroValue; operator: string };

export interface Macros {
	/** The file with its macros blanked out: lines and offsets stay. */
	rest: string;
	macros: ToolMacro[];
	issues: Issue[];
}

/** No macro of a stencil comes near this; the outline of one may have 5,000 corners. */
const LONGEST = 200_000;

/** Takes the aperture macros out of a file: blocks over any number of lines, blanks anywhere, arithmetic with brackets and signs.
 * @see the Gerber layer format specification, aperture macros (value from memory)
 */
export function readMacros(text: string): Macros {
	const macros: ToolMacro[] = [];
	const issues: Issue[] = [];
	let [at, line] = [0, 1];
	const lineOf = (offset: number) => {
		for (; at < offset; at++) if (text.charCodeAt(at) === 10) line++;
		return line;
	};
	const rest = text.replace(/%\s*AM([^*%]*)\*([^%]*)%/g, (whole, title: string, body: string, offset: number) => {
		const own = lineOf(offset);
		const name = title.replace(/\s/g, '');
		const wrong = (value: string, what: string) =>
			issues.push({
				severity: 'error',
				code: 'bad_macro',
				line: own,
				field: 'aperture macro',
				value: quoteValue(value),
				message: `Line ${own}: ${what}, so macro ${name} cannot be drawn. Correct it.`
			});
		if (body.length > LONGEST) wrong(name, `the macro is longer than ${LONGEST} characters`);
		else {
			const children = body.split('*').flatMap((raw): MacroBlock[] => {
				const block = readBlock(raw);
				if (block === 'blank') return [];
				if (block) return [block];
				wrong(raw.trim(), `"${quoteValue(raw.trim())}" is no primitive and no variable`);
				return [];
			});
			const start = { line: own, column: 1, offset };
			macros.push({
				type: 'toolMacro',
				name,
				children,
				position: { start, end: { ...start, offset: offset + whole.length } }
			} as ToolMacro);
		}
		return whole.replace(/[^\n]/g, ' ');
	});
	return { rest, macros, issues };
}

function readBlock(raw: string): MacroBlock | 'blank' | null {
	const told = raw.trim();
	if (told === '') return 'blank';
	// A comment is primitive 0: its text follows a blank.
	if (/^0(\s|$)/.test(told)) return { type: 'macroComment', comment: told.slice(1).trim() } as MacroBlock;
	const block = told.replace(/\s/g, '');
	const variable = /^(\$\d+)=(.+)$/.exec(block);
	if (variable) {
		const value = readValue(variable[2]!);
		return value === null ? null : ({ type: 'macroVariable', name: variable[1]!, value } as MacroBlock);
	}
	const [code, ...cells] = block.split(',');
	if (!/^\d+$/.test(code!)) return null;
	const parameters = cells.map(readValue);
	return parameters.includes(null) ? null : ({ type: 'macroPrimitive', code: String(Number(code)), parameters } as unknown as MacroBlock);
}

/** Brackets inside brackets, beyond which it is no drawing. */
const DEEPEST = 60;

/** Arithmetic from left to right, × and / before + and −; null where it is none. */
function readValue(text: string): MacroValue | null {
	let at = 0;
	const sum = (depth: number): MacroValue | null => chain(depth, '+-', product);
	const product = (depth: number): MacroValue | null => chain(depth, 'xX/', factor);
	function chain(depth: number, operators: string, next: (depth: number) => MacroValue | null): MacroValue | null {
		let left = next(depth);
		while (left !== null && at < text.length && operators.includes(text[at]!)) {
			const operator = text[at++]!.toLowerCase();
			const right = next(depth);
			left = right === null ? null : { left, right, operator };
		}
		return left;
	}
	function factor(depth: number): MacroValue | null {
		if (depth > DEEPEST) return null;
		if (text[at] === '+' || text[at] === '-') {
			const minus = text[at++] === '-';
			const value = factor(depth + 1);
			if (value === null || !minus) return value;
			return typeof value === 'number' ? -value : { left: 0, right: value, operator: '-' };
		}
		if (text[at] === '(') {
			at++;
			const value = sum(depth + 1);
			return text[at++] === ')' ? value : null;
		}
		const token = /^(?:\$\d+|\d+\.?\d*|\.\d+)/.exec(text.slice(at, at + 40))?.[0];
		if (!token) return null;
		at += token.length;
		return token.startsWith('$') ? token : Number(token);
	}
	const value = sum(0);
	return at === text.length ? value : null;
}
