import { describe, expect, test, vi } from 'vitest';
import { HostsPool, hostsOf } from './hosts.ts';

type State = 'writes' | 'reads' | 'down';

/** Hosts whose state a test sets, and what was asked of each. */
function fakes(states: Record<string, State>) {
	const asked: string[] = [];
	const released = vi.fn();
	let nowMs = 0;
	const pool = new HostsPool(
		Object.keys(states),
		({ connectionString: host }) => {
			// One connection a host, handed out again and again.
			const client = {
				query: async (text: string) => {
					asked.push(`${host}: ${text}`);
					return { rows: [{ transaction_read_only: states[host!] === 'writes' ? 'off' : 'on' }] };
				},
				release: released
			};
			return {
				connect: async () => {
					asked.push(`${host}?`);
					if (states[host!] === 'down') throw Object.assign(new Error(`${host} is down`), { code: 'ECONNREFUSED' });
					return client;
				},
				end: async () => undefined,
				on: () => undefined
			} as never;
		},
		{},
		() => nowMs
	);
	return { pool, states, asked, released, wait: (ms: number) => (nowMs += ms) };
}

describe('a list of database hosts', () => {
	test('blanks and line ends stand between them', () => {
		expect(hostsOf(' postgres://a/x\n  postgres://b/x ')).toEqual(['postgres://a/x', 'postgres://b/x']);
		expect(hostsOf('postgres://a/x')).toHaveLength(1);
	});
	test('the one that takes writes is found behind one that is down and one that only lets read, and is stayed with', async () => {
		const { pool, asked, released } = fakes({ a: 'down', b: 'reads', c: 'writes' });
		await pool.connect();
		expect(pool.host).toBe('c');
		expect(asked.filter((line) => line.endsWith('?'))).toEqual(['a?', 'b?', 'c?']);
		// The connection that only lets read is closed.
		expect(released).toHaveBeenCalledTimes(1);
		expect(released).toHaveBeenCalledWith(true);
		await pool.connect();
		expect(asked.at(-1)).toBe('c?');
	});
	test('one that stops taking writes is left after two seconds at most; it is come back to in its turn', async () => {
		const { pool, states, asked, wait } = fakes({ a: 'writes', b: 'reads' });
		const moved = vi.fn();
		pool.onMove(moved);
		await pool.connect();
		[states.a, states.b] = ['reads', 'writes'];
		wait(1999);
		await pool.connect();
		expect(pool.host).toBe('a');
		wait(1);
		await pool.connect();
		expect(pool.host).toBe('b');
		expect(moved).toHaveBeenCalledTimes(1);
		expect(asked.filter((line) => line === 'a: show transaction_read_only')).toHaveLength(2);
		states.b = 'down';
		states.a = 'writes';
		await pool.connect();
		expect(pool.host).toBe('a');
		expect(moved).toHaveBeenCalledTimes(2);
	});
	test('where none takes writes it says so in words, each asked once', async () => {
		const { pool, asked } = fakes({ a: 'reads', b: 'reads' });
		await expect(pool.connect()).rejects.toThrow('None of the database hosts takes writes.');
		expect(asked.filter((line) => line.endsWith('?'))).toEqual(['a?', 'b?']);
		await expect(fakes({ a: 'down' }).pool.connect()).rejects.toThrow('a is down');
	});
	test('a query gives its connection back: whole where it was refused, closed where it never came back', async () => {
		const { pool, released } = fakes({ a: 'writes' });
		const client = await pool.connect();
		const query = vi.spyOn(client, 'query');
		query.mockRejectedValueOnce(Object.assign(new Error('no such table'), { severity: 'ERROR' }) as never);
		await expect(pool.query('select 1')).rejects.toThrow('no such table');
		expect(released).toHaveBeenLastCalledWith(undefined);
		const lost = new Error('Connection terminated');
		query.mockRejectedValueOnce(lost as never);
		await expect(pool.query('select 1')).rejects.toThrow('Connection terminated');
		expect(released).toHaveBeenLastCalledWith(lost);
	});
});
