import { sayFor, type Locale, type Preferences, type Say, type UnitSystem } from '@keen-relay/core/people';
import type { TableView } from '$lib/model/types.ts';
import { db } from '../db/index.ts';
import { plantInfo } from '../plant/settings.ts';

export interface OwnPreferences {
	locale: Locale | null;
	units: UnitSystem | null;
	/** Tables that they set otherwise, by name. */
	tables: Record<string, TableView>;
}

/** What a person chose for themselves; nothing where nobody asks. */
export async function ownPreferences(person: App.Locals['person']): Promise<OwnPreferences> {
	const own = person && (await db.selectFrom('user').select(['locale', 'units', 'tables']).where('id', '=', person.id).executeTakeFirst());
	return own ?? { locale: null, units: null, tables: {} };
}

/** How figures are said to somebody: as they chose, or as the plant has it. */
async function preferencesOf(person: App.Locals['person']): Promise<Preferences> {
	const [plant, own] = await Promise.all([plantInfo(), ownPreferences(person)]);
	return { locale: own.locale ?? plant.locale, units: own.units ?? plant.units };
}

/** Says things to whoever asked, for what the server writes itself: sheets and files. */
export const sayTo = async (locals: App.Locals): Promise<Say> => sayFor(await preferencesOf(locals.person));
