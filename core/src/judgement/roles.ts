/** The five roles of a plant, and what each may do. */
export const ROLES = ['operator', 'technician', 'engineer', 'quality', 'lead'] as const;
export type Role = (typeof ROLES)[number];

export const ACTIONS = [
	'board.create',
	'panel.set',
	'stencil.release',
	'program.release',
	'recipe.release',
	'job.create',
	'run.start',
	'run.end',
	'handOver.write',
	'handOver.sign',
	'person.create',
	'line.create',
	'clock.set'
] as const;
export type Action = (typeof ACTIONS)[number];

const ALLOWED: Record<Role, readonly Action[]> = {
	operator: ['run.end', 'handOver.write'],
	technician: ['panel.set', 'run.start', 'run.end', 'handOver.write', 'handOver.sign'],
	engineer: [
		'board.create',
		'panel.set',
		'stencil.release',
		'program.release',
		'recipe.release',
		'job.create',
		'run.start',
		'run.end',
		'handOver.write',
		'handOver.sign'
	],
	quality: ['run.end', 'handOver.write', 'handOver.sign'],
	lead: ACTIONS
};

/** Whether a role may do something. Every route and every button asks this one table. */
export function may(role: Role, action: Action): boolean {
	return ALLOWED[role].includes(action);
}

/** The roles that may do something, for the sentence that refuses somebody else. */
export function rolesThatMay(action: Action): Role[] {
	return ROLES.filter((role) => may(role, action));
}
