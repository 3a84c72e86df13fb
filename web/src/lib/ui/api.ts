import { invalidateAll } from '$app/navigation';
import type { Issue } from '@keen-relay/core/judgement';
import { sayDone, sayNot } from './said.ts';
import { works } from './works.svelte.ts';
import { approvals, type Approval } from './approvals.svelte.ts';
import { unreadIn } from './unread.ts';

export interface Answer<T> {
	ok: boolean;
	data: T | null;
	message: string;
	issues: Issue[];
	conflict?: { now: number | string | null };
	/** Somebody did not wait for it. */
	stopped?: true;
}

interface Body {
	message?: string;
	issues?: Issue[];
	approval?: { action: string; roles: string[]; second: boolean };
	/** Somebody else changed it meanwhile: what stands now. */
	conflict?: { now: number | string | null };
}

/** Sends JSON (or a form) to our own API and returns what came back, a refusal included. Where the answer is that badge and PIN are needed,
 * they are asked for in place and the same is sent again with them. What takes longer than a second is shown, and can be stopped.
 * @param reading what is read, in words, where nothing is changed by it
 */
export async function send<T>(method: string, path: string, body?: unknown, reading?: string): Promise<Answer<T>> {
	let given: Approval | null = null;
	let problem = '';
	for (;;) {
		const response = await request(method, path, body, given, reading);
		if (response === 'stopped') return { ok: false, data: null, message: stoppedWords(method, reading), issues: [], stopped: true };
		if (!response) return { ok: false, data: null, message: 'The server cannot be reached. What you entered is still here.', issues: [] };
		const answer = (await response.json().catch(() => ({}))) as Body;
		if (response.ok) return { ok: true, data: answer as T, message: '', issues: [] };
		const wrongPin = given !== null && response.status === 422 && /^badge/.test(answer.issues?.[0]?.field ?? '');
		if (response.status === 428 || wrongPin) {
			problem = wrongPin ? (answer.message ?? '') : '';
			given = await approvals.ask(answer.approval ?? null, problem);
			if (given) continue;
			return { ok: false, data: null, message: 'Not done: it was not approved.', issues: [] };
		}
		return {
			ok: false,
			data: null,
			message: answer.message ?? `The server answered ${response.status}.`,
			issues: answer.issues ?? [],
			...(answer.conflict ? { conflict: answer.conflict } : {})
		};
	}
}

/** Whoever stops waiting for a change cannot know whether it was made: the page says what stands. */
const stoppedWords = (method: string, reading?: string) =>
	method === 'GET' || reading ? 'Stopped. Nothing was changed.' : 'No longer waited for. What the page shows now is what stands.';

async function request(
	method: string,
	path: string,
	body: unknown,
	approval: Approval | null,
	reading?: string
): Promise<Response | 'stopped' | null> {
	const form = body instanceof FormData;
	const headers: Record<string, string> = {};
	if (!form && body !== undefined) headers['content-type'] = 'application/json';
	// Badges and PINs may hold any letter; a header may not.
	if (approval) headers['x-approval'] = btoa(String.fromCharCode(...new TextEncoder().encode(JSON.stringify(approval))));
	const stopping = new AbortController();
	const over = works.begin(reading ?? (method === 'GET' ? 'Looking it up' : 'Being done'), () => stopping.abort());
	try {
		const sent = body === undefined ? {} : { body: form ? body : JSON.stringify(body) };
		return await fetch(path, { method, headers, signal: stopping.signal, ...sent });
	} catch {
		return stopping.signal.aborted ? 'stopped' : null;
	} finally {
		over();
	}
}

/** Sends, says in a toast what happened, offers to undo it where it can be, and reloads what the page shows. */
export async function act<T extends { actionId?: number }>(method: string, path: string, body: unknown, done: string): Promise<T | null> {
	const answer = await sendAndSay<T>(method, path, body, done);
	if (answer) await invalidateAll();
	return answer;
}

/** As `act`; what the page shows is left as it was where it was done.
 * @param refused is told what was refused, to say it where it was typed too
 */
export async function sendAndSay<T extends { actionId?: number }>(
	method: string,
	path: string,
	body: unknown,
	done: string,
	refused: (issues: readonly Issue[]) => void = () => undefined
): Promise<T | null> {
	if (refusedUnread(body)) return null;
	const answer = await send<T>(method, path, body);
	if (!answer.ok) {
		const { conflict } = answer;
		if (!conflict) {
			sayNot(answer.message);
			refused(answer.issues);
			if (answer.stopped) await invalidateAll();
			return null;
		}
		// Theirs is shown; keeping this one all the same is a decision of its own.
		const again = { ...(body as object), startedFrom: conflict.now };
		sayNot(answer.message, {
			duration: 30_000,
			action: { label: 'Keep mine all the same', onClick: () => void act(method, path, again, done) }
		});
		await invalidateAll();
		return null;
	}
	const actionId = answer.data?.actionId;
	sayDone(done, actionId === undefined ? {} : { action: { label: 'Undo', onClick: () => void undo(actionId) }, duration: 12_000 });
	return answer.data;
}

/** Figures are sent only where every one on the page could be read: otherwise the last one that could would be taken for the one that stands there.
 * The fields of a form are seen to by the form.
 */
function refusedUnread(body: unknown): boolean {
	if (typeof body !== 'object' || body === null || Object.keys(body).length === 0) return false;
	const unread = unreadIn(document.querySelector('main'), (field) => !field.closest('form.entry'));
	if (!unread) return false;
	sayUnread(unread);
	return true;
}

/** Says which field could not be read, and why, and goes to it. */
export function sayUnread(field: HTMLInputElement | HTMLTextAreaElement): void {
	sayNot(`${field.getAttribute('aria-label') ?? 'A field'} cannot be read: ${field.validationMessage} Nothing was sent.`);
	field.focus();
}

/** Writes the reversing record of an action. */
export async function undo(actionId: number): Promise<void> {
	await act('POST', `/api/v1/actions/${actionId}/undo`, {}, 'Undone, and written down as such');
}
