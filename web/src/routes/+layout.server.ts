import { isAway } from '$lib/server/db/away.ts';
import { db } from '$lib/server/db/index.ts';
import { clockNow } from '$lib/server/plant/clock.ts';
import { ruleNow } from '$lib/server/plant/rules.ts';
import { plantInfo } from '$lib/server/plant/settings.ts';
import { nextStep } from '$lib/server/line/start.ts';
import { lineNow } from '$lib/server/line/memory.ts';
import type { RuleValue } from '$lib/rules/index.ts';
import type { TableView } from '$lib/model/types.ts';
import { ownPreferences } from '$lib/server/people/preferences.ts';
import { actionsOf } from '$lib/server/people/rights.ts';
import { PLAIN } from '@keen-relay/core/people';
import { shiftAt } from '@keen-relay/core/schedule';
import type { LayoutServerLoad } from './$types';

const NOBODY = {
	stopReasons: [],
	defects: { codes: [] } as RuleValue<'defectCodes'>,
	badgeIdleS: 90,
	actsPerHour: 12,
	start: null,
	own: { locale: null, units: null, tables: {} as Record<string, TableView> },
	theirs: PLAIN,
	person: null,
	stationPc: null,
	may: [],
	plant: null,
	clock: null,
	line: null,
	lines: [],
	shift: null
};

/** The line that was opened last in this browser. */
const LINE_COOKIE = 'keen_line';

export async function load(event) {
	try {
		return await whatStands(event);
	} catch (caught) {
		if (!isAway(caught)) throw caught;
		// The page below says so and tries again; whoever is signed in stays so.
		return { ...NOBODY, person: event.locals.person, stationPc: event.locals.stationPc };
	}
}

async function whatStands({ locals, params, depends, cookies, route }: Parameters<LayoutServerLoad>[0]) {
	depends('live:people');
	const { person, stationPc } = locals;
	if (!person && !stationPc) return NOBODY;
	depends('live:line', 'live:runs', 'live:results', 'live:shift');
	const lines = await db.selectFrom('line').selectAll().where('outOfUseAt', 'is', null).orderBy('id').execute();
	const wanted = Number(params.line ?? stationPc?.lineId ?? cookies.get(LINE_COOKIE) ?? 0);
	const chosen = lines.find((line) => line.id === wanted)?.id ?? lines[0]?.id;
	if (chosen && route.id?.startsWith('/line/')) cookies.set(LINE_COOKIE, String(chosen), { path: '/', sameSite: 'lax', secure: false });
	const [plant, clock, line, may, { reasons }, { badgeIdleS }, start, own, defects, { actsPerHour }] = await Promise.all([
		plantInfo(),
		clockNow(),
		chosen ? lineNow(chosen) : null,
		actionsOf(person?.role ?? null),
		ruleNow('stopReasons'),
		ruleNow('pins'),
		person ? nextStep() : null,
		ownPreferences(person),
		ruleNow('defectCodes'),
		ruleNow('alarmBudget')
	]);
	const theirs = { locale: own.locale ?? plant.locale, units: own.units ?? plant.units };
	const shift = shiftAt(clock.nowMs, plant.shifts, plant.timeZone);
	const stopReasons = reasons.filter((reason) => reason.inUse).map(({ code, words }) => ({ code, words }));
	return { person, stationPc, may, plant, clock, line, lines, shift, stopReasons, badgeIdleS, start, own, theirs, defects, actsPerHour };
}
