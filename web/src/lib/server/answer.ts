import { error, isHttpError, json, type RequestEvent } from '@sveltejs/kit';
import { InputError, quoteValue, type Issue } from '@keen-relay/core/judgement';
import { type Action } from '@keen-relay/core/people';
import { type z, ZodError } from 'zod';
import '$lib/api/in-words.ts';
import { awayWords, isAway } from './db/away.ts';

/** A refusal in words: what a person's entry got wrong, each with field and value. */
export class Refusal extends Error {
	constructor(readonly issues: Issue[]) {
		super(issues[0]?.message ?? 'refused');
	}
}

/** Badge and PIN are asked for in place before this is done; the page shows the question and sends the same request again. */
export class ApprovalNeeded extends Error {
	constructor(
		readonly action: Action,
		readonly roles: string[],
		readonly second: boolean
	) {
		super(second ? 'A second person approves this with badge and PIN.' : 'This asks for badge and PIN.');
	}
}

/** Too many PINs were tried: nobody is told whether this one was right. */
export class TooMany extends Error {
	constructor(readonly afterS: number) {
		super(`Too many tries of a PIN. Try again in ${untilThen(afterS)}, or at a screen where you signed in before.`);
	}
}

const untilThen = (s: number) => (s < 100 ? `${s} seconds` : `${Math.ceil(s / 60)} minutes`);

/** Somebody else changed it since this edit was begun: theirs is kept, and this one is told what it is. */
export class Conflict extends Error {
	constructor(
		/** What stands now: revision, or the text itself. */
		readonly now: number | string | null,
		message: string
	) {
		super(message);
	}
}

/** Refuses with one sentence about one field. */
export function refuse(field: string, value: unknown, message: string): never {
	throw new Refusal([{ severity: 'error', code: 'refused', field, value: quoteValue(value), message }]);
}

export const tooMany = ({ message, afterS }: TooMany): Response =>
	json({ message, issues: [] }, { status: 429, headers: { 'retry-after': String(afterS) } });

/** Runs a handler and answers in JSON, or with the response that it made; a refusal is 422 with its issues, never a stack trace. */
export async function answer(work: () => Promise<unknown>, status = 200): Promise<Response> {
	try {
		const done = await work();
		return done instanceof Response ? done : json(done === undefined ? {} : done, { status });
	} catch (caught) {
		if (isHttpError(caught)) return json({ message: caught.body.message }, { status: caught.status });
		if (caught instanceof ApprovalNeeded)
			return json(
				{ message: caught.message, approval: { action: caught.action, roles: caught.roles, second: caught.second } },
				{ status: 428 }
			);
		if (caught instanceof TooMany) return tooMany(caught);
		if (caught instanceof Conflict) return json({ message: caught.message, issues: [], conflict: { now: caught.now } }, { status: 409 });
		if (isAway(caught)) return away(caught);
		const issues = issuesOf(caught);
		if (issues) return json({ message: issues[0]?.message, issues }, { status: 422 });
		if (isUniqueViolation(caught))
			return json({ message: 'This already exists. Choose another name or number.', issues: [] }, { status: 409 });
		throw caught;
	}
}

/** The database is away, or everything is asked of it at once: nothing was kept, and the sender is told when to try again. */
export function away(caught?: unknown): Response {
	return json(
		{ message: `${awayWords(caught)} Nothing was changed; try again in a few seconds.`, away: true },
		{ status: 503, headers: { 'retry-after': '5' } }
	);
}

export function issuesOf(caught: unknown): Issue[] | null {
	if (caught instanceof Refusal) return caught.issues;
	if (caught instanceof InputError)
		return [
			{ severity: 'error', code: caught.code, field: caught.path, value: quoteValue(caught.received), message: `${caught.message}.` }
		];
	if (caught instanceof ZodError)
		return caught.issues.map((issue) => ({
			severity: 'error',
			code: issue.code ?? 'invalid',
			field: issue.path.join('.') || 'body',
			value: quoteValue(issue.input ?? ''),
			message: `${issue.path.join('.') || 'body'}: ${issue.message}.`
		}));
	return null;
}

/** What is wrong with something that does not fit its schema, field by field, in one line. */
export function wordsOf(error: ZodError): string {
	return error.issues.map((issue) => `${issue.path.join('.') || 'message'} ${issue.message}`).join('; ');
}

function isUniqueViolation(caught: unknown): boolean {
	return typeof caught === 'object' && caught !== null && 'code' in caught && caught.code === '23505';
}

/** Reads a JSON body through a schema. */
export async function readJson<T>(event: RequestEvent, schema: z.ZodType<T>): Promise<T> {
	let body: unknown;
	try {
		body = await event.request.json();
	} catch {
		refuse('body', '', 'The body is not JSON.');
	}
	return schema.parse(body);
}

/** A whole number from the path. */
export function idOf(text: string | undefined): number {
	const id = Number(text);
	if (!Number.isInteger(id) || id < 1 || id > 2147483647) error(404, `There is no number "${text}".`);
	return id;
}

/** A page that something is missing for, and where it is entered. */
export function missing(message: string, href: string, words: string): never {
	error(404, { message, go: { href, words } });
}
