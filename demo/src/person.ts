import { readFileSync } from 'node:fs';
import type { Role } from '@keen-relay/core/people';

/** The people of the invented plant; the first of them is the lead who came with it, those of the crew do what a shift does all day by themselves. */
export const PEOPLE = (
	JSON.parse(readFileSync(new URL('../plant.json', import.meta.url), 'utf8')) as {
		people: { name: string; badge: string; pin: string; role: Role; crew?: boolean }[];
	}
).people;

/** An answer that says no, with its status. */
export class Refused extends Error {
	constructor(
		readonly status: number,
		what: string
	) {
		super(what);
	}
}

/** Somebody of the plant, signed in: everything is done through the public API, in their name. */
export class Person {
	#cookie = '';
	constructor(
		private readonly base: string,
		private readonly origin: string,
		readonly badge: string
	) {}

	async signIn(pin: string): Promise<this> {
		const response = await fetch(`${this.base}/api/auth/sign-in/username`, {
			method: 'POST',
			headers: { 'content-type': 'application/json', origin: this.origin },
			body: JSON.stringify({ username: this.badge, password: pin })
		});
		if (!response.ok) throw new Error(`${this.badge} cannot sign in: ${response.status}`);
		this.#cookie = response.headers
			.getSetCookie()
			.map((c) => c.split(';')[0])
			.join('; ');
		return this;
	}

	async send<T>(method: string, path: string, body?: object): Promise<T> {
		const form = body instanceof FormData;
		const response = await fetch(`${this.base}${path}`, {
			method,
			headers: { cookie: this.#cookie, origin: this.origin, ...(form || !body ? {} : { 'content-type': 'application/json' }) },
			...(body ? { body: form ? body : JSON.stringify(body) } : {})
		});
		if (!response.ok) throw new Refused(response.status, `${method} ${path}: ${response.status} ${(await response.text()).slice(0, 400)}`);
		return (await response.json()) as T;
	}
}
