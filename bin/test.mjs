// npm test: unit tests and checks, then the browser tests against a real server on a throwaway database.
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
	demoFaults,
	demoPlant,
	ended,
	ensureBuild,
	ensureChromium,
	ensureGerbv,
	ensureTools,
	freePort,
	ROOT,
	run,
	say,
	settings,
	startPostgres,
	startProgram,
	startServer
} from './lib.mjs';

ensureTools();
ensureGerbv();
const scratch = mkdtempSync(join(tmpdir(), 'keen-relay-test-'));
const counts = { passed: 0, failed: 0 };
const parts = [];
const timed = async (name, part) => {
	say(name);
	const begun = performance.now();
	try {
		return await part();
	} finally {
		parts.push(`${name} ${Math.round((performance.now() - begun) / 1000)} s`);
	}
};

const unitFile = join(scratch, 'unit.json');
await timed('unit tests and checks', () =>
	run('npx', ['vitest', 'run', '--reporter=dot', '--reporter=json', `--outputFile.json=${unitFile}`])
);
const unit = read(unitFile);
counts.passed += unit?.numPassedTests ?? 0;
counts.failed += unit
	? unit.numFailedTests + unit.testResults.filter((file) => file.status === 'failed' && file.assertionResults.length === 0).length
	: 1;

const chromium = ensureChromium();
await timed('build', () => ensureBuild());
const postgres = await startPostgres();
const database = `keen_relay_test_${process.pid}`;
postgres.ensureDatabase(database);
const children = [];
try {
	const port = await freePort();
	const baseUrl = `http://127.0.0.1:${port}`;
	children.push(await startServer({ databaseUrl: postgres.url(database), port, origin: baseUrl, env: demoPlant() }));
	const { machineToken } = await settings();
	const client = {
		BASE_URL: baseUrl,
		ORIGIN: baseUrl,
		MACHINE_TOKEN: machineToken,
		DEMO_SCALE: '0.25',
		DEMO_RATE: '20',
		FAULTS: demoFaults(),
		// The tests work the first line and those that they make; the crew works the other lines of the demo.
		LEAVE: 'all but Line 2, Prototypes',
		// What the tests look at that no page shows: rows as they were kept.
		DATABASE_URL: postgres.url(database)
	};
	if ((await timed('demo plant', () => ended(startProgram('demo/src/load.ts', client)))) !== 0)
		throw new Error('the demo factory could not be loaded');
	children.push(startProgram('devices/src/main.ts', client), startProgram('demo/src/crew-at-work.ts', client));
	const browserFile = join(scratch, 'browser.json');
	await timed('browser tests', () =>
		run('npx', ['playwright', 'test', '--config', join(ROOT, 'web/playwright.config.ts'), '--reporter=list,json'], {
			env: { ...process.env, ...client, CHROMIUM: chromium, PLAYWRIGHT_JSON_OUTPUT_NAME: browserFile }
		})
	);
	const browser = read(browserFile);
	counts.passed += browser?.stats.expected ?? 0;
	counts.failed += browser ? browser.stats.unexpected + browser.stats.flaky + browser.errors.length : 1;
} catch (error) {
	console.error(error);
	counts.failed++;
} finally {
	for (const child of children) child.kill('SIGTERM');
	await Promise.all(
		children.map((child) =>
			child.exitCode === null && child.signalCode === null ? Promise.race([ended(child), new Promise((r) => setTimeout(r, 5000))]) : null
		)
	);
	for (const child of children)
		if (child.exitCode === null && child.signalCode === null) {
			console.error(`${child.spawnargs.at(-1)} did not end when it was asked to`);
			counts.failed++;
			child.kill('SIGKILL');
		}
	postgres.dropDatabase(database);
	postgres.stop();
	rmSync(scratch, { recursive: true, force: true });
}
console.log(`\n${parts.join(', ')}`);
console.log(`\n${counts.passed} passed, ${counts.failed} failed`);
process.exit(counts.failed === 0 && counts.passed > 0 ? 0 : 1);

function read(path) {
	try {
		return JSON.parse(readFileSync(path, 'utf8'));
	} catch {
		return null;
	}
}
