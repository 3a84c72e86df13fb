export type InputErrorCode = 'not-finite' | 'out-of-range' | 'empty' | 'mismatch' | 'unknown';

/** A bad argument to a core function. The message names the place, what was expected and what came. */
export class InputError extends Error {
	constructor(
		readonly code: InputErrorCode,
		readonly path: string,
		readonly expected: string,
		readonly received: unknown
	) {
		super(`${path}: expected ${expected}, received ${show(received)}`);
		this.name = 'InputError';
	}
}

function show(value: unknown): string {
	if (typeof value === 'number' || value === undefined) return String(value);
	const text = JSON.stringify(value);
	return text.length > 80 ? `${text.slice(0, 77)}...` : text;
}

/** Throws unless `value` is finite and within [min, max].
 * @throws {InputError} `not-finite` or `out-of-range`
 */
export function requireRange(path: string, value: number, min: number, max: number, unit = ''): void {
	if (!Number.isFinite(value)) throw new InputError('not-finite', path, 'a finite number', value);
	if (value < min || value > max) throw new InputError('out-of-range', path, `${min} to ${max}${unit ? ` ${unit}` : ''}`, value);
}
