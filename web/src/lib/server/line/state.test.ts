import { expect, test } from 'vitest';
import type { Tile } from '$lib/model/types.ts';
import type { StationRole } from '$lib/stations/index.ts';
import { shareTiles } from './state.ts';

const tile = (role: StationRole, n: number, more: Partial<Tile> = {}): Tile => ({
	stationId: n,
	role,
	name: `${role} ${n}`,
	href: `/line/1/${role}/${n}`,
	state: 'running',
	level: 'good',
	figure: '',
	words: '',
	panels: 1,
	dueAtMs: null,
	members: [],
	...more
});
const line = (places: number, opticals = 1) => [
	tile('paste', 0),
	tile('print', 1),
	tile('pasteCheck', 2),
	...Array.from({ length: places }, (_, i) => tile('place', 10 + i)),
	tile('oven', 3),
	...Array.from({ length: opticals }, (_, i) => tile('optical', 20 + i)),
	tile('inCircuit', 4)
];

test('eight tiles stand as they are; with nine the placers share one', () => {
	expect(shareTiles(line(2)).map((t) => t.name)).toHaveLength(8);
	const shared = shareTiles(line(3));
	expect(shared).toHaveLength(7);
	expect(shared[3]).toMatchObject({ name: 'Place (3)', panels: 3 });
	expect(shared[3]!.members.map((m) => m.href)).toEqual(['/line/1/place/10', '/line/1/place/11', '/line/1/place/12']);
});

test('a shared tile shows the worst of its stations and the earliest due, and opens that one', () => {
	const tiles = line(3);
	Object.assign(tiles[3]!, { dueAtMs: 50 });
	Object.assign(tiles[4]!, { level: 'act', dueAtMs: 70, figure: '44.0 s' });
	Object.assign(tiles[5]!, { level: 'noData' });
	expect(shareTiles(tiles)[3]).toMatchObject({ level: 'act', href: '/line/1/place/11', figure: '44.0 s', dueAtMs: 50 });
});

test('what the line has most of shares first, and only what a line may have several of', () => {
	const shared = shareTiles(line(2, 4));
	expect(shared.map((t) => t.name)).toContain('Optical (4)');
	expect(shared.filter((t) => t.role === 'place')).toHaveLength(2);
	expect(shareTiles(line(1, 1), 3)).toHaveLength(7);
});
