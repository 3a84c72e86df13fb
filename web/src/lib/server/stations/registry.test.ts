import { describe, expect, test } from 'vitest';
import { KINDS, kindOf, machineData, stagesOf, stationBody, stationHref, type StationRole } from '$lib/stations/index.ts';
import { machineForm, reportForms } from './forms.ts';
import { machineState, MESSAGES, moduleOf, ownerOf } from './index.ts';
import { HEAD_FIELDS } from './message-parts.ts';

const ROLES = KINDS.map((kind) => kind.role);
const MACHINES = KINDS.filter((kind) => kind.machine);
const unique = (list: readonly unknown[]) => new Set(list).size === list.length;

describe('kinds of stations', () => {
	test('each has a word, a name, a path and a place of its own, and stands upstream of the next', () => {
		for (const field of ['role', 'name', 'path', 'order'] as const) expect(unique(KINDS.map((kind) => kind[field])), field).toBe(true);
		expect(KINDS.map((kind) => kind.order)).toEqual(KINDS.map((kind) => kind.order).sort((a, b) => a - b));
		const at = (role: StationRole) => ROLES.indexOf(role);
		expect(at('print')).toBeLessThan(at('pasteCheck'));
		expect(at('pasteCheck')).toBeLessThan(at('place'));
		expect(at('place')).toBeLessThan(at('oven'));
		expect(at('oven')).toBeLessThan(at('inCircuit'));
	});

	test.each(ROLES)('%s says what it is for, which lines may have it, and what stands on its first page', (role) => {
		const kind = kindOf(role);
		expect(kind.about.length).toBeGreaterThan(5);
		expect(kind.purposes.length).toBeGreaterThan(0);
		expect(kind.path).toMatch(/^[a-z-]+$/);
		expect(kind.tabs[0]?.path).toBe('');
		expect(unique(kind.tabs.map((tab) => tab.path))).toBe(true);
		for (const { views = [] } of kind.tabs) expect(unique(views.map((view) => view.path))).toBe(true);
		// What is no machine rides with one that is.
		if (!kind.machine) expect(kindOf(kind.ridesWith as StationRole).machine).not.toBeNull();
	});

	test('its page has its number only where a line may have several', () => {
		for (const { role, path, many } of KINDS) expect(stationHref(7, role, 42)).toBe(`/line/7/${path}${many ? '/42' : ''}`);
	});

	test.each(ROLES)('%s has a module on the server that goes by the same word', (role) => {
		expect(moduleOf(role).role).toBe(role);
	});
});

describe('machine data', () => {
	test.each(MACHINES.map((kind) => kind.role))('%s starts from data that a line may be entered with', (role) => {
		const { machine } = kindOf(role);
		const entered = stationBody.safeParse({ role, name: 'Here 1', spec: machine!.start });
		expect(entered.error?.issues ?? []).toEqual([]);
		expect(machineData({ role, spec: machine!.start }, role)).toEqual(machine!.schema.parse(machine!.start));
	});

	test.each(MACHINES.map((kind) => kind.role))('%s has a form with a title on every field that a person fills in', (role) => {
		const { form, start } = machineForm(role)!;
		const fields = form.properties as Record<string, { title?: string }>;
		expect(Object.keys(fields).length).toBeGreaterThan(0);
		for (const [name, field] of Object.entries(fields)) expect(field.title, name).toBeTruthy();
		expect(Object.keys(start).every((name) => name in fields)).toBe(true);
	});

	test('of another kind is never read as its own, nor what does not fit', () => {
		const spec = kindOf('oven').machine!.start;
		expect(machineData({ role: 'print', spec }, 'oven')).toBeNull();
		expect(machineData({ role: 'oven', spec: { oven: 'hot' } }, 'oven')).toBeNull();
		expect(machineForm('paste')).toBeNull();
	});

	test('a name with a slash, an empty or a long one, and a kind that is no machine are refused', () => {
		const spec = kindOf('print').machine!.start;
		const of = (name: string, role = 'print') => stationBody.safeParse({ role, name, spec }).success;
		expect(of('Print')).toBe(true);
		expect(of('P'.repeat(20))).toBe(true);
		expect([of('P'.repeat(21)), of(' '), of('Line 1/Print'), of('Paste', 'paste'), of('Print', 'kiln')]).toEqual([
			false,
			false,
			false,
			false,
			false
		]);
	});
});

test('a pace is said only by stations that can say one: a bench by its cycle, an oven by its belt, a placer by its plan', () => {
	const board = {
		widthMm: 100,
		heightMm: 60,
		side: 'top' as const,
		panel: { columns: 1, rows: 1, pitchXMm: 0, pitchYMm: 0, railMm: 0, fiducials: [] }
	};
	const station = (role: StationRole) => ({ role, name: kindOf(role).name, spec: kindOf(role).machine?.start ?? {} });
	const said = (belt: number | null) =>
		stagesOf([station('paste'), station('place'), station('oven'), station('bench')], board, null, belt).map((stage) => stage.name);
	expect(said(null)).toEqual(['Bench']);
	expect(said(70)).toEqual(['Oven', 'Bench']);
	const [bench] = stagesOf([station('bench')], board, null, null);
	expect(bench!.secondsPerPanel).toBe(60);
	// A panel of 100 mm and its gap of 60 mm pass a belt of 70 cm/min in 13.7 s.
	const [oven] = stagesOf([station('oven')], board, null, 70);
	expect(oven!.secondsPerPanel).toBeCloseTo(0.16 / (0.7 / 60), 6);
});

describe('messages', () => {
	test('each type belongs to one kind; what every machine says belongs to none', () => {
		expect(unique(MESSAGES.map((message) => message.type))).toBe(true);
		for (const { type } of MESSAGES) expect(ownerOf(type) === undefined, type).toBe(type === machineState.type);
		expect(ownerOf('no such thing')).toBeUndefined();
	});

	test.each(MESSAGES.map((message) => message.type))('%s has words, tells open pages, and carries its identity', (type) => {
		const message = MESSAGES.find((m) => m.type === type)!;
		expect(message.words).toBeTruthy();
		expect(message.topics.length).toBeGreaterThan(0);
		for (const field of HEAD_FIELDS) expect(message.schema.shape).toHaveProperty(field);
	});

	test.each(ROLES)('a report at %s has a form for each of its messages, without what the server fills in', (role) => {
		const forms = reportForms(role);
		const own = moduleOf(role).messages.map((message) => message.type);
		expect(forms.map((form) => form.type)).toEqual(kindOf(role).machine ? [...own, 'state'] : own);
		for (const { form } of forms) for (const field of HEAD_FIELDS) expect(form.properties).not.toHaveProperty(field);
	});
});
