/** Whether two plain values hold the same, whatever the order of their fields: what comes back from the database has them in its own. */
export function same(a: unknown, b: unknown): boolean {
	if (Object.is(a, b)) return true;
	if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null || Array.isArray(a) !== Array.isArray(b)) return false;
	const [ka, kb] = [Object.keys(a), Object.keys(b)];
	return ka.length === kb.length && ka.every((key) => same(a[key as keyof typeof a], b[key as keyof typeof b]));
}
