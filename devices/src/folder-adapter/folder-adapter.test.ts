import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, test } from 'vitest';
import { FolderAdapter } from './adapter.ts';
import { readMoment, visitsOf, type VisitMapping } from '@keen-relay/core/inspection';

const MAPPING: VisitMapping = {
	source: 'Line 1/Optical',
	type: 'optical_inspection',
	columns: { panel: 'Serial', circuit: 'Position', result: 'Result', at: 'Finished', refDes: 'Part', code: 'Defect' },
	pass: ['OK'],
	fail: ['NG'],
	timeZone: 'Europe/Dublin',
	dateOrder: 'day-first'
};
const FILE = [
	'Serial;Position;Result;Finished;Part;Defect',
	'J-1-0001;1;OK;03/12/2026 14:05:10;;',
	'J-1-0001;2;ng;03/12/2026 14:05:10;R7;missing',
	'J-1-0001;2;NG;03/12/2026 14:05:10;C3;turned',
	'J-1-0002;1;maybe;03/12/2026 14:06:00;;'
].join('\n');

describe('a result file becomes messages', () => {
	test('rows of a circuit are one visit with its calls; a row that cannot be read is named with its line', () => {
		const { visits, refused } = visitsOf(FILE, MAPPING);
		expect(visits).toHaveLength(2);
		expect(visits[0]).toMatchObject({ panel: 'J-1-0001', circuit: 0, result: 'pass', at: '2026-12-03T14:05:10.000Z', calls: [] });
		expect(visits[1]).toMatchObject({
			circuit: 1,
			result: 'fail',
			calls: [
				{ refDes: 'R7', code: 'missing' },
				{ refDes: 'C3', code: 'turned' }
			]
		});
		expect(refused).toEqual([{ line: 5, reason: 'result “maybe” is neither one of OK nor of NG' }]);
	});
	test('circuits counted from 0, and one below the first', () => {
		const of = (firstCircuit: number) => visitsOf(FILE, { ...MAPPING, firstCircuit });
		expect(of(0).visits.map((v) => v.circuit)).toEqual([1, 2]);
		expect(of(2).refused[0]).toMatchObject({ line: 2, reason: 'circuit “1” is none, the first is 2' });
	});
	test('a file with other titles gives nothing, and says which are missing', () => {
		const { visits, refused } = visitsOf('a;b\n1;2\n', MAPPING);
		expect(visits).toEqual([]);
		expect(refused[0]!.reason).toContain('“Serial”');
	});
	test('times: with a zone, year first, day first, month first; a slash that nobody decided is not guessed', () => {
		const of = (text: string, dateOrder?: 'day-first' | 'month-first') =>
			readMoment(text, { timeZone: 'America/New_York', ...(dateOrder ? { dateOrder } : {}) });
		expect(of('2026-12-03T14:05:10+01:00')).toBe('2026-12-03T13:05:10.000Z');
		expect(of('2026-12-03 14:05:10')).toBe('2026-12-03T19:05:10.000Z');
		expect(of('03.12.2026 14:05')).toBe('2026-12-03T19:05:00.000Z');
		expect(of('03/12/2026 14:05', 'day-first')).toBe('2026-12-03T19:05:00.000Z');
		expect(of('03/12/2026 14:05', 'month-first')).toBe('2026-03-12T18:05:00.000Z');
		expect(of('03/12/2026 14:05')).toBeNull();
		expect([of('31/02/2026 14:05', 'day-first'), of('03/12/26 14:05', 'day-first'), of('2026-12-03 24:05')]).toEqual([null, null, null]);
	});
});

describe('a folder is watched', () => {
	let folder: string;
	let server: Server;
	let url: string;
	let heard: { bootId: string; number: number; panel: string }[][];
	let status = 200;
	beforeEach(async () => {
		folder = mkdtempSync(join(tmpdir(), 'keen-adapter-'));
		[heard, status] = [[], 200];
		server = createServer((request, response) => {
			let body = '';
			request.on('data', (part) => (body += part));
			request.on('end', () => {
				const lines = body.split('\n').map((line) => JSON.parse(line));
				if (status === 200) heard.push(lines);
				response.writeHead(status, { 'content-type': 'application/json' });
				response.end(
					JSON.stringify({
						received: lines.length,
						accepted: lines.length - 1,
						duplicates: 0,
						quarantined: [{ line: 2, reason: 'unknown panel' }]
					})
				);
			});
		});
		await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
		url = `http://127.0.0.1:${(server.address() as { port: number }).port}`;
	});
	afterEach(() => {
		server.close();
		rmSync(folder, { recursive: true, force: true });
	});
	const adapter = () => new FolderAdapter({ folder, server: url, token: 'x'.repeat(20), mapping: MAPPING });

	test('a file is sent once it no longer grows, put away with its reasons, and not sent again', async () => {
		const own = adapter();
		writeFileSync(join(folder, 'a.csv'), FILE.slice(0, 60));
		expect(await own.step()).toEqual([]);
		writeFileSync(join(folder, 'a.csv'), FILE);
		expect(await own.step()).toEqual([]);
		expect(await own.step()).toEqual(['a.csv: 1 taken, 0 known already; 2 reasons in taken/a.csv.reasons.txt']);
		expect(heard).toHaveLength(1);
		expect(heard[0]!.map((m) => m.number)).toEqual([0, 1]);
		expect(readFileSync(join(folder, 'taken/a.csv.reasons.txt'), 'utf8')).toBe(
			'line 5: result “maybe” is neither one of OK nor of NG\npanel J-1-0001, circuit 2: unknown panel (kept aside in the plant)\n'
		);
		expect(await own.step()).toEqual([]);
		// The same name with other contents is another file.
		writeFileSync(join(folder, 'a.csv'), FILE.replaceAll('J-1-', 'J-2-'));
		await own.step();
		await own.step();
		expect(heard[1]![0]!.bootId).not.toBe(heard[0]![0]!.bootId);
		expect(
			readdirSync(join(folder, 'taken'))
				.filter((name) => name.endsWith('.csv'))
				.sort()
		).toEqual(['a-2.csv', 'a.csv']);
	});
	test('while the server is away a file waits; then it is sent with the identity that it had', async () => {
		writeFileSync(join(folder, 'a.csv'), FILE);
		const own = adapter();
		status = 503;
		await own.step();
		expect(await own.step()).toEqual([]);
		expect(readdirSync(folder)).toEqual(['a.csv']);
		status = 200;
		// Another start of the program sends the very same.
		const later = adapter();
		await later.step();
		expect(await later.step()).toHaveLength(1);
		const [first] = heard;
		writeFileSync(join(folder, 'a.csv'), FILE);
		await later.step();
		await later.step();
		expect(heard[1]).toEqual(first);
	});
	test('what cannot be read is put aside, and the next file goes on', async () => {
		writeFileSync(join(folder, 'a.csv'), Buffer.from([0x50, 0x4b, 3, 4, 0, 0, 0, 1]));
		writeFileSync(join(folder, 'b.csv'), FILE);
		writeFileSync(join(folder, 'note.doc'), 'not ours');
		const own = adapter();
		await own.step();
		expect(await own.step()).toHaveLength(2);
		expect(readdirSync(join(folder, 'refused')).sort()).toEqual(['a.csv', 'a.csv.reasons.txt']);
		expect(readdirSync(folder).sort()).toEqual(['note.doc', 'refused', 'taken']);
	});
});
