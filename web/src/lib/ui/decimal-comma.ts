import { readNumber, type DecimalSign } from '@keen-relay/core/tables';

/** What a hand does that is used to the other decimal sign: the sign that is typed is taken for the one that this person's numbers have, and shown as it is read. A number that
 * is pasted is taken where it can be read in one way only. Nothing is ever dropped: 0,25 does not become 25.
 * @param sign of the person before the screen, asked each time
 * @param refuse says what was not taken, and why
 * @returns stops listening
 */
export function readCommas(sign: () => DecimalSign, refuse: (message: string) => void): () => void {
	const beforeInput = (event: InputEvent) => {
		if (!(event.target instanceof HTMLInputElement) || event.target.inputMode !== 'decimal') return;
		const typed = event.data ?? event.dataTransfer?.getData('text') ?? '';
		const other = sign() === '.' ? ',' : '.';
		if (!typed.includes(other) && event.inputType !== 'insertFromPaste') return;
		const plain = event.inputType === 'insertText' ? typed.replace(other, sign()) : pasted(typed, sign());
		event.preventDefault();
		if (plain === null) refuse(`“${typed.trim().slice(0, 40)}” can be read in more than one way, or is no number. Type it.`);
		else document.execCommand('insertText', false, plain);
	};
	const options = { capture: true };
	document.addEventListener('beforeinput', beforeInput, options);
	return () => document.removeEventListener('beforeinput', beforeInput, options);
}

/** A number that was pasted as a field takes it, its unit with it. */
export function pasted(text: string, sign: DecimalSign): string | null {
	const [, digits = '', unit = ''] = /^(.*?)(\s*[a-zµμ°"%][^\s\d]*)?$/iu.exec(text.trim()) ?? [];
	const plain = readOneWay(digits, sign);
	return plain === null ? null : `${sign === '.' ? plain : plain.replace('.', sign)}${unit}`;
}

/** A number as it is stored, where it has one reading; a single comma or point before other than three digits is a decimal sign in any case.
 * @param sign what this person's numbers have: with none of the other it is written as every number is shown to them
 * @example readOneWay('62,5') // => '62.5'
 */
export function readOneWay(text: string, sign: DecimalSign = '.'): string | null {
	const other = sign === '.' ? ',' : '.';
	const own = readNumber(text, sign)?.value ?? null;
	if (!text.includes(other)) return own?.toString() ?? null;
	const theOther = readNumber(text, other)?.value ?? null;
	if (own !== null && theOther !== null && own !== theOther) return null;
	return (own ?? theOther)?.toString() ?? null;
}
