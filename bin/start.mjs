// npm start: everything that a running plant needs, in order, each step said. Ctrl-C stops all of it.
import { createServer } from 'node:net';
import { networkInterfaces } from 'node:os';
import {
	demoFaults,
	demoPlant,
	ended,
	ensureBuild,
	ensureTools,
	fail,
	say,
	settings,
	startPostgres,
	startProgram,
	startServer
} from './lib.mjs';

const args = process.argv.slice(2);
const open = args.includes('--host') || Boolean(process.env.HOST);
const host = process.env.HOST ?? (open ? '0.0.0.0' : '127.0.0.1');
const port = Number(process.env.PORT ?? 4173);

if (!(await portIsFree(port))) fail(`Port ${port} is taken. Stop what uses it, or run: PORT=4174 npm start`);
ensureTools();
ensureBuild();

const own = process.env.DATABASE_URL ? null : await startPostgres();
if (own) {
	if (args.includes('--fresh')) {
		say('beginning again with an empty database');
		own.dropDatabase('keen_relay');
	}
	own.ensureDatabase('keen_relay');
} else if (args.includes('--fresh')) fail('--fresh empties only our own database. Empty the one at DATABASE_URL by hand.');

const address = open ? (lanAddress() ?? '127.0.0.1') : '127.0.0.1';
const origin = process.env.ORIGIN ?? `http://${address}:${port}`;
const children = [];
let stopping = false;
async function stop(code = 0) {
	if (stopping) return;
	stopping = true;
	for (const child of children) child.kill('SIGTERM');
	await Promise.all(
		children.map((child) => (child.exitCode === null ? Promise.race([ended(child), new Promise((r) => setTimeout(r, 4000))]) : null))
	);
	for (const child of children) if (child.exitCode === null) child.kill('SIGKILL');
	own?.stop();
	process.exit(code);
}
process.on('SIGINT', () => void stop());
process.on('SIGTERM', () => void stop());

say('starting the server');
const server = await startServer({ databaseUrl: process.env.DATABASE_URL ?? own.url('keen_relay'), port, host, origin, env: demoPlant() });
children.push(server);
server.once('exit', (code) => !stopping && (console.error(`The server stopped (code ${code}).`), void stop(1)));

const { machineToken } = await settings();
const client = {
	BASE_URL: `http://127.0.0.1:${port}`,
	ORIGIN: origin,
	MACHINE_TOKEN: machineToken,
	FAULTS: process.env.FAULTS ?? demoFaults()
};
const loader = startProgram('demo/src/load.ts', client);
children.push(loader);
if ((await ended(loader)) !== 0 && !stopping) console.error('The demo factory could not be loaded; the application runs without it.');

const line = startProgram('devices/src/main.ts', client);
children.push(line);
line.once('exit', (code) => !stopping && console.error(`The simulated line stopped (code ${code}).`));
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
