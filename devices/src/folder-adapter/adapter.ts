import { createHash } from 'node:crypto';
import { mkdir, readdir, readFile, rename, stat, writeFile } from 'node:fs/promises';
import { basename, extname, join } from 'node:path';
import { decodeText } from '@keen-relay/core/tables';
import { visitsOf, type RefusedRow, type VisitMapping } from '@keen-relay/core/inspection';

const MOST_BYTES = 20e6;

export interface AdapterSettings {
	/** Where the machine writes its files. Taken ones go to "taken" in it, those that cannot be read to "refused", each with its reasons beside it. */
	folder: string;
	server: string;
	token: string;
	mapping: VisitMapping;
}

/** A file that is the same has the same identity: sent again after an answer that was lost, it counts once, without anything that this program has to remember. */
function identityOf(name: string, bytes: Uint8Array): string {
	const hash = createHash('sha256').update(name).update('\0').update(bytes).digest('hex');
	return `${hash.slice(0, 8)}-${hash.slice(8, 12)}-5${hash.slice(13, 16)}-a${hash.slice(17, 20)}-${hash.slice(20, 32)}`;
}

const decode = (bytes: Uint8Array, encoding: string) => {
	try {
		return new TextDecoder(encoding, { fatal: true }).decode(bytes);
	} catch {
		return null;
	}
};

/** Watches a folder, maps what a machine writes there, and sends it as messages: an example of an adapter, complete enough to be used. */
export class FolderAdapter {
	readonly #settings: AdapterSettings;
	/** Size of each file as it was last seen: one that still grows is left alone. */
	#sizes = new Map<string, number>();

	constructor(settings: AdapterSettings) {
		this.#settings = settings;
	}

	/** Looks once. @returns a sentence a file that was settled; a server that is away leaves every file where it is */
	async step(): Promise<string[]> {
		const { folder } = this.#settings;
		const said: string[] = [];
		const seen = new Map<string, number>();
		const files: { name: string; mtimeMs: number }[] = [];
		for (const entry of await readdir(folder, { withFileTypes: true })) {
			if (!entry.isFile() || !['.csv', '.txt', '.tsv'].includes(extname(entry.name).toLowerCase())) continue;
			const { size, mtimeMs } = await stat(join(folder, entry.name));
			seen.set(entry.name, size);
			if (this.#sizes.get(entry.name) === size && size > 0) files.push({ name: entry.name, mtimeMs });
		}
		this.#sizes = seen;
		for (const { name } of files.sort((a, b) => a.mtimeMs - b.mtimeMs || a.name.localeCompare(b.name))) {
			const sentence = await this.#take(name);
			if (sentence === null) break;
			said.push(`${name}: ${sentence}`);
		}
		return said;
	}

	/** @returns what became of a file; null where the server is away */
	async #take(name: string): Promise<string | null> {
		const { folder, mapping } = this.#settings;
		const bytes = await readFile(join(folder, name));
		if (bytes.length > MOST_BYTES)
			return this.#settle(name, 'refused', [{ line: 0, reason: `${(bytes.length / 1e6).toFixed(0)} MB: more than 20 MB` }]);
		const text = decodeText(bytes, decode);
		if (!('text' in text)) return this.#settle(name, 'refused', [{ line: 1, reason: text.message }]);
		const { visits, refused } = visitsOf(text.text, mapping);
		if (visits.length === 0)
			return this.#settle(name, 'refused', refused.length ? refused : [{ line: 1, reason: 'no row below the titles' }]);
		const bootId = identityOf(name, bytes);
		const answer = await this.#send(visits.map((visit, number) => JSON.stringify({ ...visit, bootId, number })).join('\n'));
		if (answer === null) return null;
		if (typeof answer === 'string') return this.#settle(name, 'refused', [{ line: 0, reason: answer }]);
		const aside = answer.quarantined.map(({ line, reason }) => {
			const visit = visits[line - 1]!;
			return { line: 0, reason: `panel ${visit.panel}, circuit ${visit.circuit + 1}: ${reason} (kept aside in the plant)` };
		});
		return this.#settle(name, 'taken', [...refused, ...aside], `${answer.accepted} taken, ${answer.duplicates} known already`);
	}

	async #send(body: string): Promise<{ accepted: number; duplicates: number; quarantined: RefusedRow[] } | string | null> {
		const { server, token } = this.#settings;
		let response: Response;
		try {
			response = await fetch(`${server}/api/v1/messages`, {
				method: 'POST',
				headers: { authorization: `Bearer ${token}`, 'content-type': 'application/x-ndjson' },
				body
			});
		} catch {
			return null;
		}
		// Away, too many at once, or a token that a lead has yet to make: the file waits.
		if (response.status >= 500 || response.status === 429 || response.status === 401) return null;
		if (!response.ok) return `the server answered ${response.status}: ${(await response.text()).slice(0, 300)}`;
		return (await response.json()) as { accepted: number; duplicates: number; quarantined: RefusedRow[] };
	}

	async #settle(name: string, where: 'taken' | 'refused', reasons: readonly RefusedRow[], words = 'not taken'): Promise<string> {
		const into = join(this.#settings.folder, where);
		await mkdir(into, { recursive: true });
		const own = await this.#freeName(into, name);
		if (reasons.length)
			await writeFile(
				join(into, `${own}.reasons.txt`),
				`${reasons.map(({ line, reason }) => (line ? `line ${line}: ${reason}` : reason)).join('\n')}\n`
			);
		await rename(join(this.#settings.folder, name), join(into, own));
		this.#sizes.delete(name);
		return `${words}${reasons.length ? `; ${reasons.length} ${reasons.length === 1 ? 'reason' : 'reasons'} in ${where}/${own}.reasons.txt` : ''}`;
	}

	/** Machines use a name again: an earlier file is never written over. */
	async #freeName(into: string, name: string): Promise<string> {
		const taken = new Set(await readdir(into));
		const end = extname(name);
		for (let n = 1; ; n++) {
			const own = n === 1 ? name : `${basename(name, end)}-${n}${end}`;
			if (!taken.has(own)) return own;
		}
	}
}
