import { error } from '@sveltejs/kit';
import { InputError } from '@keen-relay/core/judgement';
import { describe, expect, test } from 'vitest';
import { z } from 'zod';
import { answer, ApprovalNeeded, idOf, readJson, Refusal, refuse, TooMany, wordsOf } from './answer.ts';
import { awayWords, isAway } from './db/away.ts';

const body = async (response: Response): Promise<Record<string, unknown>> => ({
	status: response.status,
	...((await response.json()) as Record<string, unknown>)
});
const event = (content: string) => ({ request: new Request('http://x', { method: 'POST', body: content }) }) as never;

describe('answers', () => {
	test('what a handler returns is JSON; nothing is an empty object', async () => {
		expect(await body(await answer(async () => ({ id: 7 }), 201))).toEqual({ status: 201, id: 7 });
		expect(await body(await answer(async () => undefined))).toEqual({ status: 200 });
	});

	test('a refusal is 422 with field and value', async () => {
		const response = await answer(async () => refuse('belt', 8, 'The belt of 8 cm/min is too slow.'));
		expect(await body(response)).toMatchObject({
			status: 422,
			message: 'The belt of 8 cm/min is too slow.',
			issues: [{ field: 'belt', value: '8', severity: 'error' }]
		});
	});

	test('a bad argument of the core is worded by the core', async () => {
		const response = await answer(async () => {
			throw new InputError('out-of-range', 'foilMm', '0.03 to 0.3 mm', 120);
		});
		expect(await body(response)).toMatchObject({ status: 422, message: 'foilMm: expected 0.03 to 0.3 mm, received 120.' });
	});

	test('a body that does not fit its schema names every field', async () => {
		const schema = z.object({ panels: z.int().min(1), number: z.string().min(1) });
		const response = await answer(() => readJson(event('{"panels":0,"number":""}'), schema));
		const { status, issues } = await body(response);
		expect(status).toBe(422);
		expect((issues as { field: string }[]).map((issue) => issue.field)).toEqual(['panels', 'number']);
	});

	test('a body that is no JSON is said', async () => {
		const response = await answer(() => readJson(event('nonsense'), z.object({})));
		expect(await body(response)).toMatchObject({ status: 422, message: 'The body is not JSON.' });
	});

	test('an http error keeps its status, a double name is 409, anything else is thrown', async () => {
		expect(await body(await answer(async () => error(404, 'There is no such run.')))).toEqual({
			status: 404,
			message: 'There is no such run.'
		});
		const double = await answer(async () => {
			throw Object.assign(new Error('duplicate'), { code: '23505' });
		});
		expect(double.status).toBe(409);
		await expect(
			answer(async () => {
				throw new Error('a bug');
			})
		).rejects.toThrow('a bug');
	});

	test('several issues come together', async () => {
		const issue = { severity: 'error' as const, code: 'x', field: 'a', value: '', message: 'First.' };
		const response = await answer(async () => {
			throw new Refusal([issue, { ...issue, message: 'Second.' }]);
		});
		expect(((await body(response)).issues as unknown[]).length).toBe(2);
	});

	test.each(['0', '-1', '1.5', 'abc', '', '99999999999', undefined])('"%s" is no number of a row', (text) => {
		expect(() => idOf(text)).toThrow();
	});

	test('a number of a row', () => {
		expect(idOf('12')).toBe(12);
	});
});

describe('what is neither a success nor a fault', () => {
	test('an approval is asked for with who may give it', async () => {
		const response = await answer(async () => {
			throw new ApprovalNeeded('recipe.release', ['engineer', 'lead'], true);
		});
		expect(await body(response)).toMatchObject({
			status: 428,
			approval: { action: 'recipe.release', roles: ['engineer', 'lead'], second: true }
		});
	});

	test('an absent database is 503 with a time to try again, in words', async () => {
		const response = await answer(async () => {
			throw Object.assign(new Error('connect ECONNREFUSED'), { code: 'ECONNREFUSED' });
		});
		expect(Number(response.headers.get('retry-after'))).toBeGreaterThan(0);
		expect(await body(response)).toMatchObject({ status: 503, message: expect.stringContaining('Nothing was changed') });
	});

	test.each([
		['57P01', true],
		['57P03', true],
		['08006', true],
		['ECONNRESET', true],
		['23505', false],
		['42P01', false]
	])('code %s means away: %s', (code, away) => expect(isAway({ code })).toBe(away));

	test.each([
		[z.object({ n: z.number().max(2) }), { n: 3 }, 'n: at most 2.'],
		[z.object({ n: z.number().gt(2) }), { n: 2 }, 'n: more than 2.'],
		[z.object({ name: z.string().max(4) }), { name: 'abcde' }, 'name: at most 4 characters.'],
		[z.object({ name: z.string().min(1) }), { name: '' }, 'name: must not be empty.'],
		[z.object({ list: z.array(z.int()).min(2) }), { list: [1] }, 'list: at least 2 entries.'],
		[z.object({ n: z.number() }), { n: 'x' }, 'n: must be a number.'],
		[z.object({ n: z.number() }), {}, 'n: is missing.'],
		[z.object({ side: z.enum(['top', 'bottom']) }), { side: 'left' }, 'side: must be one of top, bottom.'],
		[z.object({ badge: z.string().min(2, 'two letters or more') }), { badge: '' }, 'badge: two letters or more.']
	])('what a schema refuses is said in words: %#', async (schema, given, words) => {
		const response = await answer(() => readJson(event(JSON.stringify(given)), schema as z.ZodType<unknown>));
		expect(await body(response)).toMatchObject({ status: 422, message: words });
	});

	test('a pool that is all at work is said as that, and is no database that is gone', async () => {
		const busy = new Error('timeout exceeded when trying to connect');
		expect(isAway(busy)).toBe(true);
		expect(awayWords(new Error('query failed', { cause: busy }))).toBe('More is asked than the server can answer just now.');
		expect(awayWords({ code: 'ECONNREFUSED' })).toBe('The database cannot be reached just now.');
		const response = await answer(async () => {
			throw busy;
		});
		expect(await body(response)).toMatchObject({ status: 503, message: expect.stringMatching(/^More is asked .* Nothing was changed/) });
	});

	test('a cause is looked into; anything else is a fault of ours and is thrown', async () => {
		expect(isAway(new Error('query failed', { cause: { code: '57P01' } }))).toBe(true);
		expect(isAway(new Error('Connection terminated unexpectedly'))).toBe(true);
		expect(isAway('text')).toBe(false);
		await expect(
			answer(async () => {
				throw new Error('a bug');
			})
		).rejects.toThrow('a bug');
	});
});

test('what does not fit its schema is said in words, not in the checker’s own', () => {
	const kinds = z.discriminatedUnion('type', [
		z.object({ type: z.literal('print'), panel: z.string().min(1), cycleS: z.number().max(3600) }),
		z.object({ type: z.literal('state') })
	]);
	const said = (value: unknown) => wordsOf(kinds.safeParse(value).error!);
	expect(said({ type: 'wibble' })).toBe('type is of no kind that is known');
	expect(said({ type: 'print', panel: '', cycleS: 4000 })).toBe('panel must not be empty; cycleS at most 3600');
	expect(said({ type: 'print', panel: 7 })).toBe('panel must be text; cycleS is missing');
	expect(said('nothing')).toMatch(/^message must be /);
});

test('too many tries say when to come back', async () => {
	for (const [afterS, words] of [
		[7, '7 seconds'],
		[99, '99 seconds'],
		[100, '2 minutes']
	] as const) {
		const response = await answer(async () => {
			throw new TooMany(afterS);
		});
		expect(response.headers.get('retry-after')).toBe(String(afterS));
		expect(await body(response)).toMatchObject({ status: 429, message: expect.stringContaining(`Try again in ${words}`) });
	}
});
