import type { Action, KnownBy, Role } from '@keen-relay/core/people';
import type { PlantInfo } from '$lib/server/plant/settings.ts';
import type { RuleValue } from '$lib/rules/index.ts';
import type { LineNow } from '$lib/server/line/state.ts';

declare global {
	namespace App {
		interface Locals {
			person: { id: string; name: string; badge: string; role: Role } | null;
			/** Signed in with a PIN, or named by a badge at a station PC. */
			knownBy: KnownBy;
			stationPc: { id: number; name: string; lineId: number | null } | null;
			/** The machine whose token the request carries. */
			machine: { id: number; name: string } | null;
			/** The database is away: who asks is remembered, nothing can be changed. */
			readOnly: boolean;
			/** By what the database was found away while this request was answered. */
			away?: unknown;
		}
		interface PageData {
			person?: Locals['person'];
			stationPc?: Locals['stationPc'];
			/** What the person may do, by the plant's own table. */
			may?: Action[];
			line?: LineNow | null;
			plant?: PlantInfo | null;
			/** What defects are called in this plant. */
			defects: RuleValue<'defectCodes'>;
		}
		interface Error {
			message: string;
			/** The database is away: the page tries again by itself. */
			away?: boolean;
			/** Where what is missing is entered. */
			go?: { href: string; words: string };
		}
	}
}

export {};
