import { BURST_MS, SLOW_BURST_MS } from '@keen-relay/core/trace';

const SHORTEST = 4;
/** Some scanners are slower, and a busy browser makes them so: outside a field, where nobody types words, a longer code at that pace is a scan too. */
const SHORTEST_SLOW = 6;
/** A single key waits this long, so that the first letter of a scan is never taken for a shortcut. */
const SHORTCUT_WAIT_MS = 110;

/** While a scanner is tried out, its keys go there. */
let tried: ((event: KeyboardEvent) => void) | null = null;

/** Takes every key until it is stopped: no code is looked up meanwhile. @returns stops it */
export function tryScanner(onKey: (event: KeyboardEvent) => void): () => void {
	tried = onKey;
	return () => (tried = null);
}

/** Recognises scans at the window, wherever the focus is: a burst of keys ended by Enter or Tab. The burst is taken out of the
 * focused field and triggers no shortcut and no submit. A field that asks for a code (`data-scan`) keeps it, and the next field is gone to.
 * A code that came with a pause in it is looked up whole or not at all.
 * @param onScan what to do with the code; @param onKey a single key outside fields and dialogs
 * @returns stops listening
 */
export function listenForScans(onScan: (code: string) => void, onKey: (key: string) => void): () => void {
	let burst = '';
	/** Longest pause within it, ms. */
	let slowest = 0;
	let last = 0;
	let waiting: ReturnType<typeof setTimeout> | undefined;
	const listener = (event: KeyboardEvent) => {
		if (tried) return tried(event);
		// A scanner presses Shift for capitals: that is part of the burst, any other special key ends it.
		if (event.ctrlKey || event.altKey || event.metaKey || event.key === 'Shift') return;
		const gap = event.timeStamp - last;
		last = event.timeStamp;
		if (event.key === 'Enter' || event.key === 'Tab') {
			const code = burst;
			const pause = Math.max(slowest, gap);
			burst = '';
			const fast = pause <= BURST_MS && code.length >= SHORTEST;
			const slow = pause <= SLOW_BURST_MS && code.length >= SHORTEST_SLOW && (wantsCode(event.target) || !inField(event.target));
			if (!fast && !slow) return;
			event.preventDefault();
			event.stopImmediatePropagation();
			clearTimeout(waiting);
			if (wantsCode(event.target)) return void nextField(event.target);
			takeOut(event.target, code);
			onScan(code);
			return;
		}
		if (event.key.length !== 1) {
			burst = '';
			return;
		}
		const goesOn = burst !== '' && gap <= SLOW_BURST_MS;
		slowest = goesOn ? Math.max(slowest, gap) : 0;
		burst = goesOn ? burst + event.key : event.key;
		clearTimeout(waiting);
		if (burst.length > 1 || inField(event.target)) return;
		const { key } = event;
		if (key === '/') event.preventDefault();
		waiting = setTimeout(() => onKey(key), SHORTCUT_WAIT_MS);
	};
	window.addEventListener('keydown', listener, true);
	return () => window.removeEventListener('keydown', listener, true);
}

/** Whether a code belongs into this very field. */
const wantsCode = (target: EventTarget | null): target is HTMLInputElement =>
	target instanceof HTMLInputElement && target.dataset.scan !== undefined;

function nextField(field: HTMLInputElement): void {
	const fields = [...(field.form?.elements ?? [])].filter(
		(e): e is HTMLElement => e instanceof HTMLElement && e.matches('input, select, button')
	);
	const next = fields[fields.indexOf(field) + 1];
	// A field by itself takes one code after the other.
	if (next) next.focus();
	else field.dispatchEvent(new Event('change', { bubbles: true }));
}

function inField(target: EventTarget | null): boolean {
	return target instanceof HTMLElement && (target.closest('input, textarea, select, dialog[open]') !== null || target.isContentEditable);
}

function takeOut(target: EventTarget | null, code: string): void {
	if (!(target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement) || !target.value.endsWith(code)) return;
	target.value = target.value.slice(0, -code.length);
	target.dispatchEvent(new Event('input', { bubbles: true }));
}

/** Two tones that cannot be confused: high and short for yes, low and twice for no. */
export function sound(ok: boolean): void {
	const context = new AudioContext();
	const beep = (hz: number, atS: number, lengthS: number) => {
		const tone = context.createOscillator();
		const gain = context.createGain();
		gain.gain.value = 0.15;
		tone.frequency.value = hz;
		tone.connect(gain).connect(context.destination);
		tone.start(context.currentTime + atS);
		tone.stop(context.currentTime + atS + lengthS);
	};
	if (ok) beep(1320, 0, 0.12);
	else {
		beep(220, 0, 0.22);
		beep(220, 0.3, 0.22);
	}
}
