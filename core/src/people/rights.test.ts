import { describe, expect, test } from 'vitest';
import {
	aRole,
	ACTIONS,
	asksForApproval,
	BADGE_ALONE,
	changeRights,
	DEFAULT_RIGHTS,
	refusesApproval,
	may,
	ROLES,
	rolesThatMay,
	strictRule,
	weakPin
} from './index.ts';

test('a lead may do everything, and every action has somebody', () => {
	for (const action of ACTIONS) {
		expect(may('lead', action)).toBe(true);
		expect(rolesThatMay(action).length).toBeGreaterThan(0);
	}
	expect(may('operator', 'recipe.release')).toBe(false);
	expect(ROLES).toHaveLength(5);
});

describe('rights', () => {
	const anna = { id: 'a', name: 'A. Tarn', role: 'technician' as const };
	const dora = { id: 'd', name: 'D. Quill', role: 'lead' as const };

	test('a lead edits the table, and the edited table is what answers', () => {
		const edited = changeRights(DEFAULT_RIGHTS, 'recipe.release', { roles: ['technician', 'lead'], approval: 'second' });
		expect(may('technician', 'recipe.release', edited)).toBe(true);
		expect(may('engineer', 'recipe.release', edited)).toBe(false);
		expect(rolesThatMay('recipe.release', edited)).toEqual(['technician', 'lead']);
		// The one it was made from is as it was.
		expect(may('technician', 'recipe.release')).toBe(false);
	});

	test('the table can never be closed: no action without a role, no plant without somebody who edits it', () => {
		expect(() => changeRights(DEFAULT_RIGHTS, 'run.end', { roles: [], approval: 'none' })).toThrow('at least one role');
		expect(() => changeRights(DEFAULT_RIGHTS, 'rights.set', { roles: ['quality'], approval: 'none' })).toThrow('the lead among them');
		expect(() => changeRights(DEFAULT_RIGHTS, 'handOver.sign', { roles: ['lead'], approval: 'none' })).toThrow(
			'never given by badge alone'
		);
	});

	test('a badge alone asks for the PIN where a session does not; a second person is asked for either way', () => {
		expect(asksForApproval(DEFAULT_RIGHTS['recipe.release'], 'badge')).toBe(true);
		expect(asksForApproval(DEFAULT_RIGHTS['recipe.release'], 'session')).toBe(false);
		expect(asksForApproval({ roles: ['lead'], approval: 'second' }, 'session')).toBe(true);
		expect(asksForApproval(DEFAULT_RIGHTS['run.start'], 'badge')).toBe(false);
	});

	test('one person can never be both signatures, and an approver needs the right themselves', () => {
		const second = changeRights(DEFAULT_RIGHTS, 'recipe.release', { roles: ['engineer', 'lead'], approval: 'second' });
		expect(refusesApproval(second, 'recipe.release', 'd', dora)).toContain('A second person approves it');
		expect(refusesApproval(second, 'recipe.release', 'x', dora)).toBeNull();
		expect(refusesApproval(second, 'recipe.release', 'x', anna)).toContain('Ask: engineer, lead');
		// Where only a PIN is asked for, it may be one's own.
		expect(refusesApproval(DEFAULT_RIGHTS, 'recipe.release', 'd', dora)).toBeNull();
	});
});

test('the table of rights keeps its edges: nobody is no answer, the lead stays, a signature asks for a PIN', () => {
	const rule = DEFAULT_RIGHTS['rights.set'];
	expect(() => changeRights(DEFAULT_RIGHTS, 'run.end', { roles: [], approval: 'none' })).toThrow(
		'run.end.roles: expected at least one role'
	);
	expect(() => changeRights(DEFAULT_RIGHTS, 'rights.set', { roles: ['engineer'], approval: 'none' })).toThrow('the lead among them');
	expect(changeRights(DEFAULT_RIGHTS, 'rights.set', { roles: ['engineer', 'lead'], approval: 'pin' })['rights.set'].roles).toContain(
		'engineer'
	);
	// Only that action needs the lead.
	expect(changeRights(DEFAULT_RIGHTS, 'run.end', { roles: ['operator'], approval: 'none' })['run.end'].roles).toEqual(['operator']);
	expect(() => changeRights(DEFAULT_RIGHTS, 'handOver.sign', { roles: ['lead'], approval: 'none' })).toThrow('a PIN');
	expect(changeRights(DEFAULT_RIGHTS, 'handOver.sign', { roles: ['lead'], approval: 'second' })['handOver.sign'].approval).toBe('second');
	expect(changeRights(DEFAULT_RIGHTS, 'run.end', { roles: ['lead'], approval: 'none' })['rights.set']).toBe(rule);
});

describe('at a shared screen', () => {
	test.each(ACTIONS)('%s by badge alone: only what a shift does all day', (action) => {
		const alone = BADGE_ALONE.has(action);
		const none = { roles: ['lead'] as const, approval: 'none' as const };
		expect(asksForApproval(DEFAULT_RIGHTS[action], 'badge') || alone).toBe(true);
		expect(asksForApproval(strictRule(action, none), 'badge')).toBe(!alone);
		if (alone) expect(changeRights(DEFAULT_RIGHTS, action, none)[action].approval).toBe('none');
		else expect(() => changeRights(DEFAULT_RIGHTS, action, none)).toThrow('never given by badge alone');
		// What a lead made stricter stays so.
		expect(strictRule(action, { ...none, approval: 'second' }).approval).toBe('second');
	});

	test('nothing that changes people, rights, tokens, limits, recipes, releases or the plant is among what a badge stands for', () => {
		expect([...BADGE_ALONE].filter((action) => /create|revoke|release|set$|widen|tune|define|fit$|sign$/.test(action))).toEqual([
			'panel.set',
			'blade.fit'
		]);
	});
});

test.each([
	['0000', 'ann', 'operator', 'one digit only'],
	['1234', 'ann', 'operator', 'in a row'],
	['9876', 'ann', 'operator', 'in a row'],
	['2424', 'ann', 'operator', 'again and again'],
	['4711', '4711', 'operator', 'stands on the badge'],
	['4711', 'Op-4711', 'operator', 'stands on the badge'],
	['47110', 'ann', 'lead', '6 digits'],
	['471', 'ann', 'operator', '4 digits'],
	['4711', 'ann', 'operator', null],
	['471108', 'ann', 'lead', null]
] as const)('PIN %s of badge %s, %s: %s', (pin, badge, role, why) => {
	if (why === null) expect(weakPin(pin, badge, role)).toBeNull();
	else expect(weakPin(pin, badge, role)).toContain(why);
});

test('a role at the head of a sentence has its article', () => {
	expect(ROLES.map(aRole)).toEqual(['An operator', 'A technician', 'An engineer', 'A quality person', 'A lead']);
});
