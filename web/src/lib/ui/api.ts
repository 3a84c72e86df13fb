import { invalidateAll } from '$app/navigation';
import type { Issue } from '@keen-relay/core/judgement';
import { toast } from 'svelte-sonner';

export interface Answer<T> {
	ok: boolean;
	data: T | null;
	message: string;
	issues: Issue[];
}

/** Sends JSON (or a form) to our own API and returns what came back, a refusal included. */
export async function send<T>(method: string, path: string, body?: unknown): Promise<Answer<T>> {
	const form = body instanceof FormData;
	let response: Response;
	try {
		response = await fetch(path, {
			method,
			...(body === undefined ? {} : { body: form ? body : JSON.stringify(body) }),
			...(form || body === undefined ? {} : { headers: { 'content-type': 'application/json' } })
		});
	} catch {
		return { ok: false, data: null, message: 'The server cannot be reached. What you entered is still here.', issues: [] };
	}
	const answer = (await response.json().catch(() => ({}))) as { message?: string; issues?: Issue[] };
	return response.ok
		? { ok: true, data: answer as T, message: '', issues: [] }
		: { ok: false, data: null, message: answer.message ?? `The server answered ${response.status}.`, issues: answer.issues ?? [] };
}

/** Sends, says in a toast what happened, and reloads what the page shows. */
export async function act<T>(method: string, path: string, body: unknown, done: string): Promise<T | null> {
	const answer = await send<T>(method, path, body);
	if (!answer.ok) {
		toast.error(answer.message);
		return null;
	}
	toast.success(done);
	await invalidateAll();
	return answer.data;
}
