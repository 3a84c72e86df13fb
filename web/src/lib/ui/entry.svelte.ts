import { invalidateAll } from '$app/navigation';
import { untrack } from 'svelte';
import { fromStore, get } from 'svelte/store';
import { setError, superForm, type SuperForm } from 'sveltekit-superforms/client';
import type { z } from 'zod';
import type { Issue } from '@keen-relay/core/judgement';
import { sayUnread, sendAndSay } from './api.ts';
import { Draft } from './drafts.svelte.ts';
import { same } from './same.ts';
import { unreadIn } from './unread.ts';

type Fields = Record<string, unknown>;

type Refuse = (issues: readonly Pick<Issue, 'field' | 'message'>[]) => void;

interface Common<S extends z.ZodType<Fields, Fields>, T> {
	/** Its own on the page. */
	id: string;
	/** What the route takes, read here too before anything is sent. */
	schema: S;
	/** What stands in the fields at first, and after something was entered; an empty number or choice is null. */
	start: (after?: z.output<S>) => { [K in keyof z.input<S>]: z.input<S>[K] | null };
	/** Where the server's name of a field stands in the form, where it is elsewhere. */
	fieldAt?: (field: string) => string;
	then?: (answer: T, value: z.output<S>) => unknown;
	/** Afterwards the fields keep what was entered: they show what stands now. */
	stays?: boolean;
	/** What stands is changed here, and tried before it is kept: until somebody types, the fields show what stands. */
	follows?: boolean;
	/** The field that says why, no part of what is edited; null: there is none. */
	why?: string | null;
	/** What a person typed and did not send is kept for them under this name, and offered when they come back. */
	draft?: { subject: string; base?: () => string };
}

interface Onto<S extends z.ZodType<Fields, Fields>> {
	method?: 'POST' | 'PUT';
	path: string | ((value: z.output<S>) => string);
	/** What is sent, where it is more or other than the fields. */
	body?: (value: z.output<S>) => unknown;
	/** Said when it is done. */
	done: (value: z.output<S>) => string;
}

/** Onto a route of ours; or, where badge and PIN are asked for, however that is answered: null where it was refused. */
type EntryOf<S extends z.ZodType<Fields, Fields>, T> = Common<S, T> &
	(Onto<S> | { sends: (value: z.output<S>, refuse: Refuse) => Promise<T | null> });

/** A form onto one route of our own API: read by the route's schema before it is sent, what is wrong said at its field, sent as `act` sends, and what the server
 * refuses said at its field again. Made while its component is.
 */
export function entry<S extends z.ZodType<Fields, Fields>, T extends object = object>(of: EntryOf<S, T>) {
	const { id, schema, start } = of;
	const begun = start() as z.input<S>;
	const form: SuperForm<z.input<S>, string> = superForm<z.input<S>, string>(begun, {
		id,
		SPA: true,
		dataType: 'json',
		applyAction: false,
		invalidateAll: false,
		resetForm: false,
		clearOnSubmit: 'errors',
		validators: { superFormValidationLibrary: 'zod4', validate: readBy(schema) },
		onSubmit({ formElement, cancel }) {
			// What could not be read as a number or date stands in its field, and is not in the value.
			const unread = unreadIn(formElement);
			if (!unread) return;
			sayUnread(unread);
			cancel();
		},
		async onUpdate({ form: read, result }) {
			if (!read.valid) return;
			const value = read.data as z.output<S>;
			const refused: Refuse = (issues) => {
				for (const { field, message } of issues) {
					const at = of.fieldAt?.(field) ?? field;
					if (at.split('.')[0]! in begun) setError(read, at as never, sentence(field, message));
				}
			};
			const answer = 'sends' in of ? await of.sends(value, refused) : await sentOnto<S, T>(of, value, refused);
			if (!answer) {
				// What was refused is still what somebody typed: a draft of it is kept, and nothing takes its place.
				Object.assign(result, { type: 'failure', status: 422 });
				read.valid = false;
				return;
			}
			// What follows what stands is told by the page that is read anew.
			if (!of.stays && !of.follows) read.data = structuredClone(start(value)) as z.input<S>;
			void draft?.drop();
			await of.then?.(answer, value);
			// Not waited for: what is pressed while the page is read anew is not lost.
			void invalidateAll();
		}
	});
	if (of.follows) {
		const tainted = fromStore(form.tainted);
		$effect(() => {
			const stands = start() as z.input<S>;
			untrack(() => {
				const typed = get(form.form);
				if (tainted.current === undefined || !form.isTainted()) form.form.set(stands, { taint: 'untaint-all' });
				// What was typed may stand by now, kept over somebody else's: the next edit starts from there.
				else if ('startedFrom' in stands && same(edited(typed, of.why), edited(stands, of.why)))
					form.form.set({ ...typed, startedFrom: stands.startedFrom }, { taint: false });
			});
		});
	}
	const draft = of.draft && draftOf(form, of.draft);
	return { ...form, draft };
}

function sentOnto<S extends z.ZodType<Fields, Fields>, T extends object>(
	{ method = 'POST', path, body, done }: Onto<S>,
	value: z.output<S>,
	refused: Refuse
): Promise<T | null> {
	const at = typeof path === 'string' ? path : path(value);
	return sendAndSay<T & { actionId?: number }>(method, at, body ? body(value) : value, done(value), refused);
}

/** What a person edits: not what it started from, nor why. */
const edited = (value: Fields, why: string | null = 'note'): Fields => ({
	...value,
	startedFrom: undefined,
	...(why && { [why]: undefined })
});

const readBy =
	<S extends z.ZodType<Fields, Fields>>(schema: S) =>
	async (value: unknown) => {
		const read = await schema.safeParseAsync(value);
		return read.success
			? { success: true as const, data: read.data as never }
			: { success: false as const, issues: read.error.issues.map(({ message, path }) => ({ message, path: path as (string | number)[] })) };
	};

/** The server names the field before what its schema says; at the field it need not. */
const sentence = (field: string, message: string) => message.replace(`${field}: `, '').replace(/\.$/, '');

function draftOf<V extends Fields>(form: SuperForm<V, string>, { subject, base = () => '' }: { subject: string; base?: () => string }) {
	const value = fromStore(form.form);
	const tainted = fromStore(form.tainted);
	return new Draft<V>({
		subject,
		base,
		changed: () => tainted.current !== undefined && form.isTainted(),
		// What it started from is what stands when it is taken up again: the offer says where that is another one.
		read: () => ({ ...value.current, startedFrom: undefined }) as V,
		take: ({ startedFrom: _, ...kept }) => form.form.set({ ...get(form.form), ...(kept as Partial<V>) })
	});
}
