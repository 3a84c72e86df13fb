import { readNumber } from '@keen-relay/core/tables';

/** What a browser does to a comma in a number field it was not made for: it drops it, and 0,25 becomes 25. So a comma is taken for the decimal sign that it is,
 * and shown as it is read; a number that is pasted is taken where it can be read in one way only.
 * @param refuse says what was not taken, and why
 * @returns stops listening
 */
export function readCommas(refuse: (message: string) => void): () => void {
	const beforeInput = (event: InputEvent) => {
		const field = numberField(event.target);
		if (!field) return;
		const typed = event.data ?? event.dataTransfer?.getData('text') ?? '';
		if (!typed.includes(',') && event.inputType !== 'insertFromPaste') return;
		const plain = event.inputType === 'insertText' ? typed.replace(',', '.') : readOneWay(typed);
		event.preventDefault();
		if (plain === null) refuse(`“${typed.trim().slice(0, 40)}” can be read in more than one way, or is no number. Type it.`);
		else document.execCommand('insertText', false, plain);
	};
	const options = { capture: true };
	document.addEventListener('beforeinput', beforeInput, options);
	return () => document.removeEventListener('beforeinput', beforeInput, options);
}

function numberField(target: EventTarget | null): HTMLInputElement | null {
	return target instanceof HTMLInputElement && target.type === 'number' ? target : null;
}

/** A number as a field takes it, where it has one reading; a single comma or point before other than three digits is a decimal sign in any case.
 * @example readOneWay('62,5') // => '62.5'
 */
export function readOneWay(text: string): string | null {
	// Without a comma it is written as every number of this plant is shown.
	if (!text.includes(',')) return readNumber(text, '.')?.value.toString() ?? null;
	const [point, comma] = [readNumber(text, '.')?.value ?? null, readNumber(text, ',')?.value ?? null];
	if (point !== null && comma !== null && point !== comma) return null;
	const value = point ?? comma;
	return value === null ? null : String(value);
}
