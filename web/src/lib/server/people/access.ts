import { error, type RequestEvent } from '@sveltejs/kit';
import { aRole, asksForApproval, may, refusesApproval, rolesThatMay, type Action } from '@keen-relay/core/people';
import { z } from 'zod';
import { ApprovalNeeded, refuse } from '../answer.ts';
import { personByPin } from './auth.ts';
import { askingAt } from './guesses.ts';
import type { Actor } from '../plant/log.ts';
import { rightsNow } from './rights.ts';

const approval = z.object({ badge: z.string().min(1).max(64), pin: z.string().min(1).max(64) });

/** The person who does this, if the plant's table of actions lets that role do it and, where the table asks for it, somebody has approved it
 * with badge and PIN. Both people are kept; nobody is signed in or out by it.
 */
export async function authorize(event: RequestEvent, action: Action): Promise<Actor> {
	const { person, stationPc, knownBy } = event.locals;
	if (!person) error(401, stationPc ? 'Show your badge first.' : 'Sign in first.');
	const rights = await rightsNow();
	if (!may(person.role, action, rights))
		error(403, `${aRole(person.role)} may not do this (${action}). Ask: ${rolesThatMay(action, rights).join(', ')}.`);
	const actor = { id: person.id, name: person.name, role: person.role, approvedBy: null, stationPc: stationPc?.name ?? null };
	if (!asksForApproval(rights[action], knownBy)) return actor;
	const given = readApproval(event.request.headers.get('x-approval'));
	if (!given) throw new ApprovalNeeded(action, rolesThatMay(action, rights), rights[action].approval === 'second');
	const approver = await personByPin(askingAt(event, given.badge, action), given.pin);
	if (!approver) return refuse('badge and PIN', given.badge, 'This badge and PIN do not go together.');
	const why = refusesApproval(rights, action, person.id, approver);
	if (why) return refuse('badge', given.badge, why);
	return { ...actor, approvedBy: approver.id };
}

function readApproval(header: string | null): z.infer<typeof approval> | null {
	if (!header) return null;
	try {
		return approval.parse(JSON.parse(Buffer.from(header, 'base64').toString('utf8')));
	} catch {
		return refuse('approval', '', 'The approval is not readable: send badge and pin as JSON in base64.');
	}
}

export function requireMachine(locals: App.Locals): void {
	if (!locals.machine) error(401, 'A machine token is needed: send "Authorization: Bearer <token>".');
}

/** Somebody signed in, or a machine: what the calculations are open to. */
export function requireAnybody(locals: App.Locals): void {
	if (!locals.person && !locals.machine) error(401, locals.stationPc ? 'Show your badge first.' : 'Sign in first.');
}
