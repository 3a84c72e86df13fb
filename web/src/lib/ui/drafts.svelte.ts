import { untrack } from 'svelte';
import { page } from '$app/state';
import { send } from './api.ts';
import { same } from './same.ts';

const SAVE_AFTER_MS = 1200;

/** What is on its way to be kept, by path: whoever comes back at once asks after it has arrived. */
const onItsWay = new Map<string, Promise<unknown>>();

interface DraftOf<T> {
	/** Where it belongs: the same page opened again asks for the same. */
	subject: string;
	/** What stands now, in words: "recipe 3". */
	base: () => string;
	/** Whether anything was typed that is not saved. */
	changed: () => boolean;
	read: () => T;
	take: (content: T) => void;
}

/** Keeps what a person has typed and not saved, by person, and offers it when they come back. */
export class Draft<T> {
	offered = $state.raw<{ content: T; base: string; savedAt: string } | null>(null);
	#kept = false;
	/** Typed and not yet on its way. */
	#pending: string | null = null;
	#asked = $state(false);
	#answered: Promise<void> = Promise.resolve();

	constructor(private readonly of: DraftOf<T>) {
		// Derived, so that news from the line, which changes none of them, does not put the saving off for ever.
		const personId = $derived(page.data.person?.id);
		const changed = $derived(of.changed());
		const content = $derived(JSON.stringify(of.read()));
		$effect(() => {
			if (personId) this.#answered = untrack(() => this.#ask());
		});
		$effect(() => {
			const [now, text] = [changed, content];
			// While an offer stands nothing is written over it.
			if (!personId || this.offered) return;
			if (!now) {
				this.#pending = null;
				if (this.#kept) void this.drop();
				return;
			}
			this.#pending = text;
			// Until it is known whether an offer stands.
			if (!this.#asked) return;
			const timer = setTimeout(() => this.#save(), SAVE_AFTER_MS);
			return () => clearTimeout(timer);
		});
		// Whoever leaves within a second, for another page or for good, finds it again.
		$effect(() => {
			const leave = () => this.#save();
			window.addEventListener('pagehide', leave);
			return () => {
				window.removeEventListener('pagehide', leave);
				void this.#answered.then(leave);
			};
		});
	}

	get #path(): string {
		return `/api/v1/drafts/${encodeURIComponent(this.of.subject)}`;
	}

	#save(): void {
		if (this.#pending === null || !this.#asked || this.offered) return;
		const body = JSON.stringify({ content: JSON.parse(this.#pending), base: untrack(this.of.base) });
		this.#pending = null;
		this.#kept = true;
		// It outlives the page that sends it.
		const sent = fetch(this.#path, { method: 'PUT', keepalive: true, headers: { 'content-type': 'application/json' }, body })
			.catch(() => undefined)
			.finally(() => onItsWay.get(this.#path) === sent && onItsWay.delete(this.#path));
		onItsWay.set(this.#path, sent);
	}

	async #ask(): Promise<void> {
		await onItsWay.get(this.#path);
		const answer = await send<{ draft: { content: T; base: string; savedAt: string } | null }>('GET', this.#path);
		const draft = answer.data?.draft ?? null;
		// What stands in the fields already is not offered.
		this.#kept = draft !== null && same(draft.content, JSON.parse(JSON.stringify(this.of.read())));
		this.offered = this.#kept ? null : draft;
		this.#asked = true;
	}

	/** What changed since the draft was begun; empty where nothing did. */
	get meanwhile(): string {
		const now = this.of.base();
		if (!this.offered || this.offered.base === now) return '';
		// What it was begun from may be nothing now: a file that nobody has chosen again.
		return `It was begun from ${this.offered.base || 'nothing'}${now ? `; now ${now} stands` : ''}.`;
	}

	accept(): void {
		if (!this.offered) return;
		this.of.take(this.offered.content);
		this.#kept = true;
		this.offered = null;
	}

	async drop(): Promise<void> {
		this.offered = null;
		this.#kept = false;
		this.#pending = null;
		await send('DELETE', this.#path);
	}
}
