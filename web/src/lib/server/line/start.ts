import { startSteps, type StartStep, type StepStands } from '@keen-relay/core/line';
import { sql } from 'kysely';
import type { z } from 'zod';
import type { bodies } from '$lib/api/bodies.ts';
import { announce, db } from '../db/index.ts';
import { plantNow } from '../plant/clock.ts';
import { logAction, type Actor } from '../plant/log.ts';
import { plantInfo } from '../plant/settings.ts';
import { stationsOf } from '../queries/stations.ts';

/** What somebody has to say, since nothing in the tables shows it: that what the plant starts with is right, or that no machine sends messages. */
type SaidStep = z.infer<typeof bodies.plantStep>['step'];

/** A step with the page on which it is done. */
export interface StepThere extends StepStands {
	href: string;
}

function hrefOf(code: StartStep, lineId: number | null): string {
	switch (code) {
		case 'plant':
			return '/plant/set-up/plant';
		case 'people':
			return '/plant/people';
		case 'lines':
			return '/plant/set-up/lines';
		case 'rules':
			return '/plant/rules';
		case 'machines':
			return '/plant/machines';
		case 'paste':
			return lineId ? `/line/${lineId}/paste/pastes` : '/plant/set-up/lines';
		case 'board':
			return '/boards/new';
		case 'release':
			return '/boards';
		case 'job':
			return '/runs';
		case 'panel':
			return lineId ? `/line/${lineId}` : '/plant/set-up/lines';
	}
}

/** Whether a panel was reported: from then on nobody has to be shown the way. */
let printed = false;

/** The step to do next, while the plant has not printed; null once it has. */
export async function nextStep(): Promise<StepThere | null> {
	if (printed) return null;
	const steps = await startOfPlant();
	printed = steps.some(({ code, level }) => code === 'panel' && level === 'good');
	return printed ? null : (steps.find(({ level }) => level === 'act') ?? null);
}

/** Where the plant stands on its way to its first panel. */
export async function startOfPlant(): Promise<StepThere[]> {
	const [{ rows }, said, plant, lines] = await Promise.all([
		sql<
			Record<'people' | 'invited' | 'leads' | 'sources' | 'pastes' | 'jars' | 'sides' | 'readySides' | 'jobs' | 'panels' | 'rules', number>
		>`select
			(select count(*) from "user" where left_at is null and code_ends_at is null) as people,
			(select count(*) from "user" where left_at is null and code_ends_at is not null) as invited,
			(select count(*) from "user" where left_at is null and code_ends_at is null and role = 'lead') as leads,
			(select count(*) from machine_token where revoked_at is null) as sources,
			(select count(*) from paste where part_number is not null) as pastes,
			(select count(*) from paste_jar) as jars,
			(select count(*) from board_side) as sides,
			(select count(*) from board_side b where b.panel_set_by is not null
				and exists (select from stencil s where s.board_side_id = b.id and s.status = 'released')
				and exists (select from placement_program p join oven_recipe o on o.line_id = p.line_id and o.board_side_id = p.board_side_id
					where p.board_side_id = b.id and p.status = 'released' and o.status = 'released')) as "readySides",
			(select count(*) from job) as jobs,
			(select count(*) from (select 1 from panel_pass limit 1000) seen) as panels,
			(select count(*) from plant_rule) as rules`.execute(db),
		db.selectFrom('plantStep').select('name').execute(),
		plantInfo(),
		db.selectFrom('line').selectAll().where('outOfUseAt', 'is', null).orderBy('id').execute()
	]);
	const { rules, ...counts } = rows[0]!;
	const isSaid = (step: SaidStep) => said.some(({ name }) => name === step);
	const steps = startSteps({
		...counts,
		plantSaid: plant.revision > 1 || isSaid('plant'),
		rulesSaid: rules > 0 || isSaid('rules'),
		sources: counts.sources === 0 && isSaid('byHand') ? null : counts.sources,
		lines: await Promise.all(lines.map(async ({ id, name }) => ({ name, stations: (await stationsOf(id)).length })))
	});
	return steps.map((step) => ({ ...step, href: hrefOf(step.code, lines[0]?.id ?? null) }));
}

/** Says one of these things. */
export async function sayStep(actor: Actor, name: SaidStep): Promise<void> {
	const saidAt = new Date(await plantNow());
	await db.transaction().execute(async (trx) => {
		await trx
			.insertInto('plantStep')
			.values({ name, saidBy: actor.id, saidAt })
			.onConflict((conflict) => conflict.column('name').doNothing())
			.execute();
		const words = {
			plant: 'the plant’s name, zone and shifts are right',
			rules: 'the rules are right',
			byHand: 'results come by hand and by file'
		};
		await logAction(trx, actor, 'plant.set', words[name]);
		await announce(trx, 'people');
	});
}
