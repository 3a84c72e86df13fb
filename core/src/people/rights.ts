import { InputError } from '../judgement/index.ts';

/** The five roles of a plant, and what each may do. */
export const ROLES = ['operator', 'technician', 'engineer', 'quality', 'lead'] as const;
export type Role = (typeof ROLES)[number];

/** "An operator", "A lead": whoever has the role, at the head of a sentence. */
export const aRole = (role: Role): string => `${/^[aeiou]/.test(role) ? 'An' : 'A'} ${role === 'quality' ? 'quality person' : role}`;

/** Whether an action asks for a PIN on a shared screen, or for a second person everywhere. */
export const APPROVALS = ['none', 'pin', 'second'] as const;
export type Approval = (typeof APPROVALS)[number];

export interface ActionRule {
	roles: readonly Role[];
	approval: Approval;
}

const ALL: readonly Role[] = ROLES;
const LEAD: readonly Role[] = ['lead'];
const DESK: readonly Role[] = ['engineer', 'lead'];
const FLOOR: readonly Role[] = ['technician', 'engineer', 'lead'];
const QUALITY: readonly Role[] = ['engineer', 'quality', 'lead'];
const SIGNERS: readonly Role[] = ['technician', 'engineer', 'quality', 'lead'];

/** What an empty plant starts with. A lead edits it; every route and every button asks the edited table. */
export const DEFAULT_RIGHTS = {
	'board.create': { roles: DESK, approval: 'pin' },
	'board.settle': { roles: QUALITY, approval: 'pin' },
	'panel.set': { roles: FLOOR, approval: 'none' },
	'package.set': { roles: DESK, approval: 'pin' },
	'paste.define': { roles: DESK, approval: 'pin' },
	'jar.receive': { roles: FLOOR, approval: 'none' },
	'jar.scan': { roles: ALL, approval: 'none' },
	'jar.review': { roles: QUALITY, approval: 'pin' },
	'sensor.set': { roles: DESK, approval: 'pin' },
	'openingRules.set': { roles: DESK, approval: 'pin' },
	'transfer.fit': { roles: DESK, approval: 'pin' },
	'stencilTool.keep': { roles: FLOOR, approval: 'none' },
	'stencilTool.mount': { roles: ALL, approval: 'none' },
	'blade.fit': { roles: ALL, approval: 'none' },
	'printRecipe.release': { roles: DESK, approval: 'pin' },
	'firstPrint.release': { roles: FLOOR, approval: 'pin' },
	'firstBoard.check': { roles: SIGNERS, approval: 'none' },
	'firstBoard.release': { roles: SIGNERS, approval: 'pin' },
	'misprint.record': { roles: ALL, approval: 'none' },
	'misprint.approve': { roles: QUALITY, approval: 'pin' },
	'signature.act': { roles: FLOOR, approval: 'none' },
	'signature.tune': { roles: QUALITY, approval: 'pin' },
	'unit.learn': { roles: QUALITY, approval: 'pin' },
	'trial.run': { roles: FLOOR, approval: 'none' },
	'limits.set': { roles: QUALITY, approval: 'pin' },
	'limits.widen': { roles: QUALITY, approval: 'second' },
	'results.import': { roles: FLOOR, approval: 'none' },
	'stencil.release': { roles: DESK, approval: 'pin' },
	'program.release': { roles: DESK, approval: 'pin' },
	'recipe.release': { roles: DESK, approval: 'pin' },
	'trim.accept': { roles: FLOOR, approval: 'pin' },
	'profile.log': { roles: FLOOR, approval: 'none' },
	'feeder.load': { roles: ALL, approval: 'none' },
	'reel.receive': { roles: FLOOR, approval: 'none' },
	'reel.report': { roles: ALL, approval: 'none' },
	'alternate.approve': { roles: QUALITY, approval: 'pin' },
	'reel.block': { roles: QUALITY, approval: 'pin' },
	'feeder.keep': { roles: FLOOR, approval: 'none' },
	'message.type': { roles: FLOOR, approval: 'none' },
	'job.create': { roles: DESK, approval: 'pin' },
	'job.plan': { roles: FLOOR, approval: 'none' },
	'run.setUp': { roles: FLOOR, approval: 'none' },
	'run.start': { roles: FLOOR, approval: 'none' },
	'run.override': { roles: LEAD, approval: 'pin' },
	'hold.lift': { roles: QUALITY, approval: 'pin' },
	'run.end': { roles: ALL, approval: 'none' },
	'stop.explain': { roles: ALL, approval: 'none' },
	'handOver.write': { roles: ALL, approval: 'none' },
	'handOver.sign': { roles: SIGNERS, approval: 'pin' },
	'message.settle': { roles: DESK, approval: 'pin' },
	'token.create': { roles: LEAD, approval: 'pin' },
	'token.revoke': { roles: LEAD, approval: 'pin' },
	'stationPc.create': { roles: LEAD, approval: 'pin' },
	'stationPc.revoke': { roles: LEAD, approval: 'pin' },
	'person.create': { roles: LEAD, approval: 'pin' },
	'person.change': { roles: LEAD, approval: 'pin' },
	'rights.set': { roles: LEAD, approval: 'pin' },
	'plant.set': { roles: LEAD, approval: 'pin' },
	'rules.set': { roles: LEAD, approval: 'pin' },
	'line.create': { roles: LEAD, approval: 'pin' },
	'station.set': { roles: DESK, approval: 'pin' },
	'clock.set': { roles: LEAD, approval: 'pin' }
} as const satisfies Record<string, ActionRule>;

export type Action = keyof typeof DEFAULT_RIGHTS;
export const ACTIONS = Object.keys(DEFAULT_RIGHTS) as Action[];
export type Rights = Record<Action, ActionRule>;

/** What a shift does all day: the only acts that a badge alone may stand for at a shared screen. All others change people, rights, limits, recipes, releases or
 * the plant, and ask for a PIN there; so does whatever is added, until it is named here.
 */
export const BADGE_ALONE: ReadonlySet<Action> = new Set<Action>([
	'panel.set',
	'jar.receive',
	'jar.scan',
	'stencilTool.keep',
	'stencilTool.mount',
	'blade.fit',
	'firstBoard.check',
	'misprint.record',
	'signature.act',
	'trial.run',
	'results.import',
	'profile.log',
	'feeder.load',
	'reel.receive',
	'reel.report',
	'feeder.keep',
	'message.type',
	'job.plan',
	'run.setUp',
	'run.start',
	'run.end',
	'stop.explain',
	'handOver.write'
]);

/** A rule as it holds: an act that no badge alone may stand for asks for a PIN, whatever was kept of it. */
export const strictRule = (action: Action, rule: ActionRule): ActionRule =>
	rule.approval === 'none' && !BADGE_ALONE.has(action) ? { ...rule, approval: 'pin' } : rule;

/** Whether a role may do something. */
export function may(role: Role, action: Action, rights: Rights = DEFAULT_RIGHTS): boolean {
	return rights[action].roles.includes(role);
}

/** The roles that may do something, for the sentence that refuses somebody else. */
export function rolesThatMay(action: Action, rights: Rights = DEFAULT_RIGHTS): Role[] {
	return ROLES.filter((role) => may(role, action, rights));
}

/** The table with one line changed.
 * @throws {InputError} `mismatch` where nobody could edit the table any more, or an action would be closed to everybody
 */
export function changeRights(rights: Rights, action: Action, rule: ActionRule): Rights {
	if (rule.roles.length === 0) throw new InputError('mismatch', `${action}.roles`, 'at least one role', rule.roles);
	if (action === 'rights.set' && !rule.roles.includes('lead'))
		throw new InputError('mismatch', 'rights.set.roles', 'the lead among them, so that the table can be edited', rule.roles);
	if (rule.approval === 'none' && !BADGE_ALONE.has(action))
		throw new InputError('mismatch', `${action}.approval`, 'a PIN: this is never given by badge alone', rule.approval);
	return { ...rights, [action]: rule };
}

/** How the person who acts is known: signed in with a PIN, or by a badge shown at a shared screen. */
export type KnownBy = 'session' | 'badge';

/** Whether badge and PIN have to be asked for in place before this is done. */
export function asksForApproval(rule: ActionRule, knownBy: KnownBy): boolean {
	return rule.approval === 'second' || (rule.approval === 'pin' && knownBy === 'badge');
}

/** Why somebody cannot approve what another person does; null where they can. One person is never both signatures where two are asked for. */
export function refusesApproval(
	rights: Rights,
	action: Action,
	actorId: string,
	approver: { id: string; name: string; role: Role }
): string | null {
	if (!may(approver.role, action, rights))
		return `${aRole(approver.role)} may not approve this (${action}). Ask: ${rolesThatMay(action, rights).join(', ')}.`;
	if (rights[action].approval === 'second' && approver.id === actorId)
		return `${approver.name} does this already. A second person approves it.`;
	return null;
}

/** The fewest digits of a PIN; a lead can enter people and change who may do what. */
export const LEAST_DIGITS: Readonly<Record<Role, number>> = { operator: 4, technician: 4, engineer: 4, quality: 4, lead: 6 };

/** Why a PIN is too easy to guess; null where it is not.
 * @param leastDigits of each role, where the plant asks for others
 */
export function weakPin(pin: string, badge: string, role: Role, leastDigits: Readonly<Record<Role, number>> = LEAST_DIGITS): string | null {
	const least = leastDigits[role];
	if (pin.length < least) return `${aRole(role)}’s PIN has ${least} digits or more.`;
	if (pin.toLowerCase().includes(badge.toLowerCase()) || badge.toLowerCase().includes(pin.toLowerCase()))
		return 'The PIN stands on the badge. Choose another one.';
	const steps = new Set([...pin].slice(1).map((c, i) => c.charCodeAt(0) - pin.charCodeAt(i)));
	if (steps.size === 1 && [0, 1, -1].includes([...steps][0]!))
		return 'Digits in a row, or one digit only, are tried first. Choose another PIN.';
	if (/^(..+)\1+$/.test(pin)) return 'The same digits again and again are tried first. Choose another PIN.';
	return null;
}
