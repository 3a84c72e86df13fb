/** Lines that the simulated crew leaves to whoever uses the application.
 * @param text names with commas between them, "all", "all but" some, or nothing
 * @example linesLeft('all but Line 2, Prototypes')('Line 1') // => true
 */
export function linesLeft(text: string): (name: string) => boolean {
	const [, but] = /^all but (.+)$/.exec(text.trim()) ?? [];
	const names = (but ?? text).split(',').map((name) => name.trim());
	if (but !== undefined) return (name) => !names.includes(name);
	return (name) => names.includes('all') || names.includes(name);
}
