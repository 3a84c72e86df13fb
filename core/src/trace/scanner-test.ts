import type { Verdict } from '../judgement/index.ts';

/** A key as the window heard it. */
export interface KeyHeard {
	/** "a", "Enter". */
	key: string;
	atMs: number;
}

/** A code with what a wrong layout, a lost Shift or a cut length would change in it: both cases, digits, the letters and signs that lie elsewhere on other keyboards. */
export const SCANNER_TEST_CODE = 'KeenTest-0189/yzYZ.qwQW';

/** Keys of one code that come within this are taken for a scan wherever the cursor stands, ms (ours: fingers are slower). */
export const BURST_MS = 35;
/** Up to this they still are, outside of fields, ms. */
export const SLOW_BURST_MS = 100;

/** What a scanner did with the test code, as one verdict: what is wrong, and what to set on it.
 * @param keys all keys from the first one to the one that ended it
 * @returns `act` where codes would be read wrong or not at all, `watch` where it works with something to mend
 */
export function judgeScanner(keys: readonly KeyHeard[], expected: string = SCANNER_TEST_CODE): Verdict {
	const typed = keys.filter(({ key }) => key.length === 1);
	const text = typed.map(({ key }) => key).join('');
	const end = keys.at(-1)?.key ?? '';
	const ends = end === 'Enter' || end === 'Tab' ? end : null;
	const gaps = keys.slice(1).map(({ atMs }, i) => atMs - keys[i]!.atMs);
	const slowestMs = Math.max(0, ...gaps);
	const because = [
		{ quantity: 'Read', unit: '', value: text || 'nothing', limit: expected, source: 'the test code on this page' },
		{ quantity: 'Ended by', unit: '', value: ends ?? 'nothing', limit: 'Enter or Tab', source: 'so that a code is told from the next one' },
		{
			quantity: 'Slowest key',
			unit: 'ms',
			value: Math.round(slowestMs),
			limit: `at most ${BURST_MS} ms`,
			source: 'ours: fingers are slower'
		}
	];
	const say = (level: Verdict['level'], statement: string, ...doNext: string[]): Verdict => ({ level, statement, because, doNext });
	const at = text.indexOf(expected);
	if (at < 0) return wrongText(text, expected, say);
	if (!ends) return say('act', 'The code is right, but nothing ends it.', 'Set the scanner to send Enter, or Tab, after each code.');
	if (slowestMs > SLOW_BURST_MS)
		return say(
			'act',
			`Its keys come up to ${Math.round(slowestMs)} ms apart: a code would be taken for typing.`,
			'Set the pause between keys on the scanner to 0 ms.'
		);
	const around = [
		at > 0 ? `“${text.slice(0, at)}” before` : '',
		text.slice(at + expected.length) ? `“${text.slice(at + expected.length)}” after` : ''
	]
		.filter(Boolean)
		.join(' and ');
	if (around)
		return say(
			'watch',
			`It adds ${around} each code.`,
			'Take prefix and suffix out of the scanner’s settings: codes would not be found with them.'
		);
	if (slowestMs > BURST_MS)
		return say(
			'watch',
			`It works outside of fields; inside one its ${Math.round(slowestMs)} ms are as slow as fingers.`,
			'Set the pause between keys on the scanner to 0 ms.'
		);
	return say('good', `It reads right, ends with ${ends}, and is fast enough.`);
}

function wrongText(
	text: string,
	expected: string,
	say: (level: Verdict['level'], statement: string, ...doNext: string[]) => Verdict
): Verdict {
	if (text === '') return say('noData', 'Nothing was read.', 'Scan the code on this page.');
	if (swapped(text).includes(expected))
		return say('act', 'Capitals and small letters are exchanged.', 'Switch Caps Lock off at this PC, or on the scanner.');
	if (text.toLowerCase() === expected.toLowerCase())
		return say('act', 'Capitals are lost.', 'Set the scanner to send letters as they are: no change of case.');
	const pairs = new Map<string, string>();
	const consistent =
		text.length === expected.length &&
		[...expected].every((wanted, i) => {
			const got = text[i]!;
			if ((pairs.get(wanted) ?? got) !== got) return false;
			pairs.set(wanted, got);
			return true;
		});
	const wrong = [...pairs].filter(([wanted, got]) => wanted !== got);
	if (consistent && wrong.length <= expected.length / 2)
		return say(
			'act',
			`Keyboard and scanner have different layouts: ${wrong.map(([wanted, got]) => `${wanted} comes as ${got}`).join(', ')}.`,
			'Set the scanner to the keyboard layout of this PC, or this PC to the scanner’s.'
		);
	if (expected.startsWith(text) || expected.includes(text))
		return say(
			'act',
			`Only ${text.length} of ${expected.length} characters came.`,
			'Scan again, nearer; if it stays so, set a longer pause between keys on the scanner.'
		);
	return say('act', 'This is another code, or not readable as the one on this page.', 'Scan the code on this page.');
}

const swapped = (text: string) => [...text].map((c) => (c === c.toUpperCase() ? c.toLowerCase() : c.toUpperCase())).join('');
