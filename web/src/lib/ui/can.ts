import { page } from '$app/state';
import type { Action } from '@keen-relay/core/people';

/** Whether the person at this page may do something, by the plant's own table: what every button asks. */
export function can(action: Action): boolean {
	return page.data.may?.includes(action) ?? false;
}
