import { z } from 'zod';
import { ACTIONS, type Action } from '@keen-relay/core/people';
import { bodies } from '$lib/api/bodies.ts';
import { RULE_NAMES, RULES, type RuleName } from '$lib/rules/index.ts';
import { issuesOf, Refusal, refuse } from '../answer.ts';
import { db } from '../db/index.ts';
import { rightsNow, setRule } from '../people/rights.ts';
import type { Actor } from '../plant/log.ts';
import { ruleNow, ruleSet, setRuleValue } from '../plant/rules.ts';
import { plantInfo, setPlant } from '../plant/settings.ts';
import { addSensor, definePaste } from '../stations/paste/pastes.ts';
import { createLine } from './stations.ts';

const FORMAT = 'keen-relay-set-up';

/** Sensors as they are entered, with the name of their line: numbers of lines belong to one plant. */
const sensor = bodies.sensor.omit({ lineId: true }).extend({ line: z.string().max(40).nullable() });
const paste = bodies.paste.omit({ id: true, startedFrom: true });

/** The set-up of a plant as a file holds it: what another plant can start from. No person, token, board or result is in it. */
const setUpFile = z.object({
	format: z.literal(FORMAT, 'this is not the set-up of a plant'),
	version: z.literal(1, 'a newer program wrote this file'),
	plant: bodies.plant.omit({ startedFrom: true }),
	lines: z.array(bodies.line).max(200),
	rules: z.record(z.string(), z.record(z.string(), z.unknown())),
	rights: z.record(z.string(), bodies.rule.omit({ startedFrom: true })),
	pastes: z.array(paste).max(500),
	sensors: z.array(sensor).max(500)
});
export type SetUpFile = z.input<typeof setUpFile>;

/** The whole set-up of this plant. */
export async function exportSetUp(): Promise<SetUpFile> {
	const [plant, rights, lines, stations, pastes, sensors] = await Promise.all([
		plantInfo(),
		rightsNow(),
		db.selectFrom('line').selectAll().where('outOfUseAt', 'is', null).orderBy('id').execute(),
		db
			.selectFrom('station')
			.select(['lineId', 'role', 'name', 'spec'])
			.where('outOfUseAt', 'is', null)
			.orderBy('lineId')
			.orderBy('position')
			.execute(),
		db.selectFrom('paste').selectAll().where('partNumber', 'is not', null).orderBy('id').execute(),
		db
			.selectFrom('sensor')
			.leftJoin('line', 'line.id', 'sensor.lineId')
			.selectAll('sensor')
			.select('line.name as line')
			.orderBy('sensor.id')
			.execute()
	]);
	const rules = await Promise.all(RULE_NAMES.map(async (name) => [name, await ruleNow(name)] as const));
	return {
		format: FORMAT,
		version: 1,
		plant: {
			name: plant.name,
			timeZone: plant.timeZone,
			locale: plant.locale,
			units: plant.units,
			shifts: plant.shifts.map(({ name, from, to, days, breaks }) => ({
				name,
				from,
				to,
				...(days ? { days: [...days] } : {}),
				...(breaks ? { breaks: [...breaks] } : {})
			})),
			holidays: plant.holidays
		},
		lines: lines.map(({ id, name, purpose }) => ({
			name,
			purpose,
			stations: stations.filter((s) => s.lineId === id).map(({ role, name: own, spec }) => ({ role, name: own, spec: spec as never }))
		})),
		rules: Object.fromEntries(rules),
		rights: Object.fromEntries(ACTIONS.map((action) => [action, { roles: [...rights[action].roles], approval: rights[action].approval }])),
		pastes: pastes.map((p) => paste.parse({ ...p, maker: p.maker ?? '', wash: p.wash ?? '' })),
		sensors: sensors.map((s) => sensor.parse(s))
	};
}

/** What becomes of one thing of a file. */
export interface Copied {
	what: string;
	/** done or to be done; already there and left as it is; refused, with the reason. */
	stands: 'new' | 'changed' | 'same' | 'left' | 'refused';
	why: string;
}

const same = (a: unknown, b: unknown) => JSON.stringify(sorted(a)) === JSON.stringify(sorted(b));
const sorted = (value: unknown): unknown =>
	Array.isArray(value)
		? value.map(sorted)
		: value && typeof value === 'object'
			? Object.fromEntries(
					Object.entries(value)
						.sort(([a], [b]) => (a < b ? -1 : 1))
						.map(([k, v]) => [k, sorted(v)])
				)
			: value;

/** Reads a set-up into this plant: says what each thing would become, and does it where it is asked to. Nothing that is there is taken away: lines, pastes and sensors of a
 * name that the plant has are left as they are.
 * @throws {Refusal} where the file is none of ours
 */
export async function importSetUp(actor: Actor, text: string, apply: boolean): Promise<Copied[]> {
	let raw: unknown;
	try {
		raw = JSON.parse(text);
	} catch {
		return refuse('file', text.slice(0, 20), 'This file is no JSON. Choose the file that “Copy of the set-up” wrote.');
	}
	const read = setUpFile.safeParse(raw);
	if (!read.success) throw new Refusal(issuesOf(read.error) ?? []);
	const file = read.data;
	const here = await exportSetUp();
	const said: Copied[] = [];
	const one = async (what: string, stands: 'new' | 'changed', why: string, work: () => Promise<unknown>) => {
		try {
			if (apply) await work();
			said.push({ what, stands, why });
		} catch (error) {
			const issues = issuesOf(error);
			if (!issues) throw error;
			said.push({ what, stands: 'refused', why: issues[0]?.message ?? '' });
		}
	};
	if (same(file.plant, bodies.plant.omit({ startedFrom: true }).parse(here.plant)))
		said.push({ what: 'The plant', stands: 'same', why: file.plant.name });
	else
		await one('The plant', 'changed', `${file.plant.name}, ${file.plant.timeZone}, ${file.plant.shifts.length} shifts`, async () =>
			setPlant(actor, { ...file.plant, startedFrom: (await plantInfo()).revision })
		);
	for (const line of file.lines) {
		const what = `Line ${line.name}`;
		if (here.lines.some(({ name }) => name === line.name)) said.push({ what, stands: 'left', why: 'a line of this name is here' });
		else await one(what, 'new', line.stations.map((s) => s.name).join(' → '), () => createLine(actor, line));
	}
	for (const [name, value] of Object.entries(file.rules)) {
		if (!(name in RULES)) {
			said.push({ what: `Rule ${name}`, stands: 'left', why: 'this program does not know it' });
			continue;
		}
		const known = name as RuleName;
		const what = RULES[known].title;
		if (same(value, here.rules[name])) said.push({ what, stands: 'same', why: '' });
		else await one(what, 'changed', '', async () => setRuleValue(actor, known, value, (await ruleSet(known))?.revision ?? null));
	}
	for (const [action, rule] of Object.entries(file.rights)) {
		const what = `Who may: ${action}`;
		if (!ACTIONS.includes(action as Action)) said.push({ what, stands: 'left', why: 'this program does not know it' });
		else if (same(rule, here.rights[action])) continue;
		else
			await one(what, 'changed', `${rule.roles.join(', ')}; approval ${rule.approval}`, () => setRule(actor, action as Action, rule, null));
	}
	for (const own of file.pastes) {
		const what = `Paste ${own.name}`;
		if (here.pastes.some(({ name }) => name === own.name)) said.push({ what, stands: 'left', why: 'a paste of this name is here' });
		else await one(what, 'new', own.partNumber, () => definePaste(actor, { ...own, startedFrom: null }));
	}
	const lines = await db.selectFrom('line').select(['id', 'name']).execute();
	for (const { line, ...own } of file.sensors) {
		const what = `Sensor ${own.name}`;
		if (here.sensors.some(({ name }) => name === own.name)) said.push({ what, stands: 'left', why: 'a sensor of this name is here' });
		else await one(what, 'new', own.kind, () => addSensor(actor, { ...own, lineId: lines.find(({ name }) => name === line)?.id ?? null }));
	}
	return said;
}
