import type { Role } from '@keen-relay/core/judgement';
import type { PlantInfo } from '$lib/server/line/plant.ts';
import type { LineNow } from '$lib/server/line/strip.ts';

declare global {
	namespace App {
		interface Locals {
			person: { id: string; name: string; badge: string; role: Role } | null;
			/** The request carries the plant's machine token. */
			machine: boolean;
		}
		interface PageData {
			person?: Locals['person'];
			line?: LineNow | null;
			plant?: PlantInfo | null;
		}
		interface Error {
			message: string;
		}
	}
}

export {};
