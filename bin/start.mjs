// npm start: everything that a running plant needs, in order, each step said. Ctrl-C stops all of it.
import { createServer } from 'node:net';
import { networkInterfaces } from 'node:os';
import { rehearse } from './copies.mjs';
import {
	DATA,
	DATABASE,
	demoFaults,
	demoPlant,
	ended,
	ensureBuild,
	ensureTools,
	fail,
	firstCode,
	IS_PLANT,
	say,
	settings,
	startPostgres,
	startProgram,
	startServer
} from './lib.mjs';

const args = process.argv.slice(2);
const open = args.includes('--host') || Boolean(process.env.HOST);
/** Lines whose work is left to whoever uses the application: the crew keeps its hands off them. */
const leave = args.includes('--leave') ? (args[args.indexOf('--leave') + 1] ?? 'all') : (process.env.LEAVE ?? '');
const host = process.env.HOST ?? (open ? '0.0.0.0' : '127.0.0.1');
const port = Number(process.env.PORT ?? 4173);

if (!(await portIsFree(port))) fail(`Port ${port} is taken. Stop what uses it, or run: PORT=4174 npm start`);
ensureTools();
ensureBuild();

const own = process.env.DATABASE_URL ? null : await startPostgres();
if (own) {
	if (args.includes('--fresh')) {
		say('beginning again with an empty database');
		own.dropDatabase(DATABASE);
	}
	own.ensureDatabase(DATABASE);
} else if (args.includes('--fresh')) fail('--fresh empties only our own database. Empty the one at DATABASE_URL by hand.');

const address = open ? (lanAddress() ?? '127.0.0.1') : '127.0.0.1';
const origin = process.env.ORIGIN ?? `http://${address}:${port}`;
const children = new Set();
let stopping = false;
async function stop(code = 0) {
	if (stopping) return;
	stopping = true;
	for (const child of children) child.kill('SIGTERM');
	await Promise.all(
		[...children].map((child) => (child.exitCode === null ? Promise.race([ended(child), new Promise((r) => setTimeout(r, 4000))]) : null))
	);
	for (const child of children) if (child.exitCode === null) child.kill('SIGKILL');
	own?.stop();
	process.exit(code);
}
process.on('SIGINT', () => void stop());
process.on('SIGTERM', () => void stop());

const MOST_WAIT_S = 60;
/** Begins again what ended by itself: at once, then after pauses that double; one that ran for a while begins at once again. */
function keepUp(name, begin) {
	let waitS = 0;
	const watch = (child, since) => {
		children.add(child);
		child.once('exit', (code, signal) => {
			children.delete(child);
			if (stopping) return;
			waitS = Date.now() - since > 60_000 ? 1 : Math.min(MOST_WAIT_S, Math.max(1, 2 * waitS));
			console.error(`${name} stopped (${signal ?? `code ${code}`}); it is started again in ${waitS} s.`);
			setTimeout(() => !stopping && void again(), waitS * 1000);
		});
	};
	const again = async (first = false) => {
		const since = Date.now();
		try {
			watch(await begin(), since);
		} catch (error) {
			if (first) throw error;
			console.error(`${name} did not start: ${error.message}`);
			waitS = Math.min(MOST_WAIT_S, Math.max(1, 2 * waitS));
			setTimeout(() => !stopping && void again(), waitS * 1000);
		}
	};
	return again(true);
}

const databaseUrl = process.env.DATABASE_URL ?? own.url(DATABASE);
if (args.includes('--rehearse')) {
	if (!own) fail('--rehearse copies only our own database. Restore a backup beside the one at DATABASE_URL, and start there.');
	await rehearse(own, DATABASE);
}
say('starting the server');
/** A plant of one's own begins with nobody: its first lead shows the code that stands in this terminal. */
const plant = IS_PLANT ? { FIRST_CODE: firstCode() } : demoPlant();
await keepUp('The server', () => startServer({ databaseUrl, port, host, origin, env: plant })).catch((error) => {
	console.error(`\nThe server did not start: ${error.message}\n`);
	return stop(1);
});
// Our own database is looked at now and then: one that went down is started again.
if (own) setInterval(() => !stopping && void own.keepUp(), 5000).unref();

if (IS_PLANT) {
	console.log(
		`\nKeen Relay is running: ${origin}\nThe data of this plant stand in ${DATA}. Back up: npm run backup -- --plant. Ctrl-C stops everything.\n`
	);
	await new Promise(() => undefined);
}
const { machineToken } = await settings();
const client = {
	BASE_URL: `http://127.0.0.1:${port}`,
	ORIGIN: origin,
	MACHINE_TOKEN: machineToken,
	FAULTS: process.env.FAULTS ?? demoFaults(),
	LEAVE: leave
};
const loader = startProgram('demo/src/load.ts', client);
children.add(loader);
loader.once('exit', () => children.delete(loader));
if ((await ended(loader)) !== 0 && !stopping) console.error('The demo factory could not be loaded; the application runs without it.');

await keepUp('The simulated line', async () => startProgram('devices/src/main.ts', client));
await keepUp('The simulated crew', async () => startProgram('demo/src/crew-at-work.ts', client));
console.log(`\nKeen Relay is running: ${origin}\nSign in with a badge and PIN of the sign-in page. Ctrl-C stops everything.\n`);

function lanAddress() {
	for (const list of Object.values(networkInterfaces()))
		for (const entry of list ?? []) if (entry.family === 'IPv4' && !entry.internal) return entry.address;
	return null;
}

function portIsFree(wanted) {
	return new Promise((resolve) => {
		const probe = createServer();
		probe.once('error', () => resolve(false));
		probe.listen(wanted, host, () => probe.close(() => resolve(true)));
	});
}
