import { readdirSync, readFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect, test } from 'vitest';

// The examples of the core's docstrings are promises too: "@example call(1) // => 2" is run. A figure is compared to the digits that it is
// given with; three dots say that more digits follow; of an object only the fields that are named are compared.
const CORE = fileURLToPath(new URL('../core/src/', import.meta.url));

interface Example {
	file: string;
	call: string;
	result: string;
}

const examples = (readdirSync(CORE, { recursive: true }) as string[])
	.filter((file) => file.endsWith('.ts') && !file.endsWith('.test.ts'))
	.flatMap((file): Example[] =>
		[...readFileSync(CORE + file, 'utf8').matchAll(/@example (.*)$/gm)].map(([, text]) => {
			const [call = '', result = ''] = text!.split(' // => ');
			return { file, call, result };
		})
	);

/** A text in quotes, or a figure. */
const TEXT_OR_FIGURE = /'[^']*'|"[^"]*"|(?<!\w)-?\d+(\.\d+)?(\.\.\.)?(?!\w)/g;
/** The result as it is written: figures stay text, since their digits say how exact they are. */
const written = (result: string): unknown =>
	new Function(`return (${result.replace(TEXT_OR_FIGURE, (part) => (/^['"]/.test(part) ? part : `{ figure: '${part}' }`))})`)();

function compare(got: unknown, want: unknown, where: string): void {
	if (typeof want === 'object' && want !== null && 'figure' in want) {
		const text = String(want.figure);
		const decimals = /\.(\d+)/.exec(text)?.[1]?.length ?? 0;
		expect(typeof got, where).toBe('number');
		const value = got as number;
		if (text.endsWith('...')) expect(String(value), where).toMatch(new RegExp(`^${text.slice(0, -3).replace('.', '\\.')}`));
		else expect(value.toFixed(decimals), where).toBe(text);
		return;
	}
	if (Array.isArray(want)) {
		expect(got, where).toHaveLength(want.length);
		want.forEach((part, i) => compare((got as unknown[])[i], part, `${where}[${i}]`));
		return;
	}
	if (typeof want === 'object' && want !== null) {
		for (const [key, part] of Object.entries(want)) compare((got as Record<string, unknown>)[key], part, `${where}.${key}`);
		return;
	}
	expect(got, where).toBe(want);
}

test('every example says a call and what comes out', () => {
	expect(examples.length).toBeGreaterThan(20);
	expect(examples.filter(({ result }) => result === '')).toEqual([]);
});

test.each(examples.map((example) => [example.call, example] as const))('%s', async (call, { file, result }) => {
	const folder = (await import(`${CORE}${dirname(file).split('/')[0]}/index.ts`)) as object;
	const own = (await import(`${CORE}${file}`)) as object;
	const known = { ...folder, ...own };
	const got: unknown = new Function(...Object.keys(known), `return (${call})`)(...Object.values(known));
	compare(got, written(result), call);
});
