import { error } from '@sveltejs/kit';
import { may, rolesThatMay, type Action } from '@keen-relay/core/judgement';

/** The signed-in person, if the one table of actions lets that role do this; otherwise the refusal says who may. */
export function requireAction(locals: App.Locals, action: Action): NonNullable<App.Locals['person']> {
	if (!locals.person) error(401, 'Sign in first.');
	if (!may(locals.person.role, action))
		error(403, `A ${locals.person.role} may not do this (${action}). Ask: ${rolesThatMay(action).join(', ')}.`);
	return locals.person;
}

export function requireMachine(locals: App.Locals): void {
	if (!locals.machine) error(401, 'A machine token is needed: send "Authorization: Bearer <token>".');
}
