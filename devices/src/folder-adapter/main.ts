import { readFileSync } from 'node:fs';
import { FolderAdapter, type AdapterSettings } from './adapter.ts';

// node devices/src/folder-adapter/main.ts settings.json: the settings are those of adapter.ts; the token may stand in KEEN_TOKEN instead.
const [path] = process.argv.slice(2);
if (!path) {
	console.error('Say which settings: node devices/src/folder-adapter/main.ts settings.json (docs/adapters.md explains them)');
	process.exit(2);
}
const settings = JSON.parse(readFileSync(path, 'utf8')) as AdapterSettings;
const adapter = new FolderAdapter({ ...settings, token: process.env.KEEN_TOKEN ?? settings.token });
const LOOK_EVERY_MS = 2000;
let trouble = '';
for (;;) {
	try {
		for (const sentence of await adapter.step()) console.log(sentence);
		trouble = '';
	} catch (error) {
		const words = error instanceof Error ? error.message : String(error);
		if (words !== trouble) console.error(words);
		trouble = words;
	}
	await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS));
}
