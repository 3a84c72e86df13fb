import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { listenForScans } from './scanner.ts';

class FakeElement extends EventTarget {
	isContentEditable = false;
	closest(): unknown {
		return null;
	}
}
class FakeInput extends FakeElement {
	value = '';
	dataset: { scan?: string } = {};
	form: { elements: { matches: () => boolean; focus: () => void }[] } | null = null;
	override closest(): unknown {
		return this;
	}
}

interface Key {
	key: string;
	at: number;
	target?: FakeElement;
}

let listener: (event: unknown) => void;
let scans: string[];
let keys: string[];
let stop: () => void;

beforeEach(() => {
	vi.useFakeTimers();
	scans = [];
	keys = [];
	vi.stubGlobal('HTMLElement', FakeElement);
	vi.stubGlobal('HTMLInputElement', FakeInput);
	vi.stubGlobal('HTMLTextAreaElement', class {});
	vi.stubGlobal('window', {
		addEventListener: (_type: string, handler: typeof listener) => (listener = handler),
		removeEventListener: () => (listener = () => undefined)
	});
	stop = listenForScans(
		(code) => scans.push(code),
		(key) => keys.push(key)
	);
});
afterEach(() => {
	vi.useRealTimers();
	vi.unstubAllGlobals();
});

/** Presses a key; a field takes the character as a browser would. @returns whether the page let it through */
function press({ key, at, target = new FakeElement() }: Key): boolean {
	let prevented = false;
	listener({
		key,
		timeStamp: at,
		target,
		ctrlKey: false,
		altKey: false,
		metaKey: false,
		preventDefault: () => (prevented = true),
		stopImmediatePropagation: () => undefined
	});
	if (!prevented && key.length === 1 && target instanceof FakeInput) target.value += key;
	return !prevented;
}

function burst(code: string, from: number, target?: FakeElement, end = 'Enter', gap = 8): boolean {
	[...code].forEach((key, i) => press({ key, at: from + i * gap, ...(target ? { target } : {}) }));
	return press({ key: end, at: from + code.length * gap, ...(target ? { target } : {}) });
}

describe('scans', () => {
	test.each(['Enter', 'Tab'])('a burst ended by %s is a scan, and the end key goes no further', (end) => {
		expect(burst('J-2415-0042', 1000, undefined, end)).toBe(false);
		expect(scans).toEqual(['J-2415-0042']);
		vi.runAllTimers();
		expect(keys).toEqual([]);
	});

	test('a scan is taken out of the focused field; what stood there stays', () => {
		const input = new FakeInput();
		input.value = 'half a note ';
		burst('RL4711', 1000, input);
		expect(input.value).toBe('half a note ');
		expect(scans).toEqual(['RL4711']);
	});

	test('Shift between the letters of a scan belongs to it', () => {
		press({ key: 'A', at: 0 });
		press({ key: 'Shift', at: 5 });
		press({ key: 'B', at: 10 });
		press({ key: 'C', at: 15 });
		press({ key: 'd', at: 20 });
		press({ key: 'Enter', at: 25 });
		expect(scans).toEqual(['ABCd']);
	});

	test('fingers are no scanner: slow keys and Enter stay what they are', () => {
		const input = new FakeInput();
		expect(burst('humidity', 1000, input, 'Enter', 120)).toBe(true);
		expect(scans).toEqual([]);
		expect(input.value).toBe('humidity');
	});

	test('a field that asks for a code keeps it; the form is not sent, and the next field is gone to', () => {
		const [code, lot] = [new FakeInput(), Object.assign(new FakeInput(), { matches: () => true, focus: vi.fn() })];
		code.dataset.scan = '';
		code.form = { elements: [Object.assign(code, { matches: () => true, focus: vi.fn() }), lot] };
		expect(burst('J-0031', 1000, code)).toBe(false);
		expect(code.value).toBe('J-0031');
		expect(scans).toEqual([]);
		expect(lot.focus).toHaveBeenCalledOnce();
	});

	test('a slow scanner’s code is looked up whole where nobody types, and never in parts', () => {
		burst('J-2415-0042', 1000, undefined, 'Enter', 90);
		expect(scans).toEqual(['J-2415-0042']);
		vi.runAllTimers();
		expect(keys).toEqual([]);
		// One pause in the middle of a fast one.
		[...'RL47'].forEach((key, i) => press({ key, at: 5000 + 8 * i }));
		[...'1188'].forEach((key, i) => press({ key, at: 5080 + 8 * i }));
		press({ key: 'Enter', at: 5112 });
		expect(scans).toEqual(['J-2415-0042', 'RL471188']);
		// In a field it stays what was typed: the fast tail of it is no code.
		const input = new FakeInput();
		[...'half'].forEach((key, i) => press({ key, at: 9000 + 8 * i, target: input }));
		[...'note'].forEach((key, i) => press({ key, at: 9080 + 8 * i, target: input }));
		expect(press({ key: 'Enter', at: 9112, target: input })).toBe(true);
		expect(scans).toHaveLength(2);
		expect(input.value).toBe('halfnote');
	});

	test('slower than that it is no scan, and too short ones are none', () => {
		burst('J-2415-0042', 1000, undefined, 'Enter', 101);
		burst('RL471', 9000, undefined, 'Enter', 90);
		expect(scans).toEqual([]);
	});

	test('three quick keys are too short for a code', () => {
		expect(burst('abc', 1000)).toBe(true);
		expect(scans).toEqual([]);
	});

	test('two scans after each other are two scans', () => {
		burst('SLOT-14', 1000);
		burst('RL4711', 2000);
		expect(scans).toEqual(['SLOT-14', 'RL4711']);
	});

	test('after stopping nothing is taken', () => {
		stop();
		burst('J-2415-0042', 1000);
		expect(scans).toEqual([]);
	});
});

describe('single keys', () => {
	test('a key waits before it counts', () => {
		press({ key: 'n', at: 1000 });
		vi.advanceTimersByTime(109);
		expect(keys).toEqual([]);
		vi.advanceTimersByTime(1);
		expect(keys).toEqual(['n']);
	});

	test('the first letter of a scan is never taken for one', () => {
		burst('nail-17', 1000);
		vi.runAllTimers();
		expect(keys).toEqual([]);
	});

	test('in a field letters are letters', () => {
		press({ key: 'n', at: 1000, target: new FakeInput() });
		vi.runAllTimers();
		expect(keys).toEqual([]);
	});

	test('Escape ends a burst: the key after it stands alone', () => {
		press({ key: '?', at: 1000 });
		vi.runAllTimers();
		press({ key: 'Escape', at: 1300 });
		press({ key: 'g', at: 1310 });
		vi.runAllTimers();
		expect(keys).toEqual(['?', 'g']);
	});

	test('the slash does not type itself into the field it opens', () => {
		expect(press({ key: '/', at: 1000 })).toBe(false);
	});
});
