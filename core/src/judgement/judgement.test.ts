import { describe, expect, test } from 'vitest';
import {
	ACTIONS,
	asksForApproval,
	changeRights,
	combine,
	DEFAULT_RIGHTS,
	refusesApproval,
	hasErrors,
	InputError,
	levelWord,
	LEVELS,
	may,
	noData,
	quoteValue,
	requireRange,
	ROLES,
	rolesThatMay,
	worstLevel
} from './index.ts';

test('a lead may do everything, and every action has somebody', () => {
	for (const action of ACTIONS) {
		expect(may('lead', action)).toBe(true);
		expect(rolesThatMay(action).length).toBeGreaterThan(0);
	}
	expect(may('operator', 'recipe.release')).toBe(false);
	expect(ROLES).toHaveLength(5);
});

test('a missing reading never outranks a judged one', () => {
	expect(worstLevel(['good', 'noData'])).toBe('good');
	expect(worstLevel(['watch', 'stopped', 'act'])).toBe('stopped');
	expect(worstLevel([])).toBe('noData');
});

test('the worst of several verdicts speaks, all of them give their evidence', () => {
	const good = {
		level: 'good' as const,
		statement: 'A.',
		because: [{ quantity: 'a', value: 1, unit: '', limit: null, source: 's' }],
		doNext: []
	};
	const watch = {
		level: 'watch' as const,
		statement: 'B.',
		because: [{ quantity: 'b', value: 2, unit: '', limit: null, source: 's' }],
		doNext: ['Look']
	};
	const both = combine([good, noData('C.'), watch]);
	expect(both).toMatchObject({ level: 'watch', statement: 'B.', doNext: ['Look'] });
	expect(both.because.map((reason) => reason.quantity)).toEqual(['b', 'a']);
});

test('an error names the place, what was expected and what came', () => {
	expect(() => requireRange('foilMm', 120, 0.03, 0.3, 'mm')).toThrow('foilMm: expected 0.03 to 0.3 mm, received 120');
	expect(() => requireRange('x', NaN, 0, 1)).toThrow(InputError);
	expect(quoteValue('a\u0000b'.repeat(40))).toHaveLength(60);
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

describe('what an error shows of a value', () => {
	const shown = (value: unknown) => new InputError('unknown', 'x', 'something else', value).message;

	test('numbers as they are, also those that are none; nothing as nothing; text in quotes', () => {
		expect(shown(0.25)).toBe('x: expected something else, received 0.25');
		expect(shown(NaN)).toContain('received NaN');
		expect(shown(undefined)).toContain('received undefined');
		expect(shown('foil')).toContain('received "foil"');
		expect(shown({ foilUm: 3 })).toContain('received {"foilUm":3}');
	});

	test('80 letters whole, 81 cut to 77 and three dots', () => {
		const quoted = (letters: number) => shown('a'.repeat(letters - 2)).split('received ')[1]!;
		expect(quoted(80)).toHaveLength(80);
		expect(quoted(80)).not.toContain('...');
		expect(quoted(81)).toBe(`"${'a'.repeat(76)}...`);
	});

	test('a range takes both its ends, and nothing beyond', () => {
		expect(() => requireRange('foilUm', 30, 30, 300)).not.toThrow();
		expect(() => requireRange('foilUm', 300, 30, 300)).not.toThrow();
		expect(() => requireRange('foilUm', 29.999, 30, 300, 'µm')).toThrow('foilUm: expected 30 to 300 µm, received 29.999');
		expect(() => requireRange('foilUm', 300.001, 30, 300)).toThrow('expected 30 to 300, received');
		expect(() => requireRange('foilUm', Infinity, 30, 300)).toThrow('a finite number');
	});
});

test('a quoted value: 60 letters whole, 61 cut to 59 and a dot of its own; what cannot be seen becomes a dot', () => {
	expect(quoteValue('a'.repeat(60))).toBe('a'.repeat(60));
	expect(quoteValue('a'.repeat(61))).toBe(`${'a'.repeat(59)}…`);
	expect(quoteValue('a\u0000b\u007fc')).toBe('a·b·c');
});

test('one error among warnings keeps a record out; warnings alone do not', () => {
	const issue = (severity: 'error' | 'warning') => ({ severity, code: 'c', field: 'f', value: '', message: '' });
	expect(hasErrors([issue('warning'), issue('error')])).toBe(true);
	expect(hasErrors([issue('warning'), issue('warning')])).toBe(false);
	expect(hasErrors([])).toBe(false);
});

test('every level has its word', () => {
	expect(LEVELS.map(levelWord)).toEqual(['Good', 'Watch', 'Act', 'Stopped', 'No data']);
});

test('the table of rights keeps its edges: nobody is no answer, the lead stays, a signature asks for a PIN', () => {
	const rule = DEFAULT_RIGHTS['rights.set'];
	expect(() => changeRights(DEFAULT_RIGHTS, 'run.end', { roles: [], approval: 'none' })).toThrow(
		'run.end.roles: expected at least one role'
	);
	expect(() => changeRights(DEFAULT_RIGHTS, 'rights.set', { roles: ['engineer'], approval: 'none' })).toThrow('the lead among them');
	expect(changeRights(DEFAULT_RIGHTS, 'rights.set', { roles: ['engineer', 'lead'], approval: 'none' })['rights.set'].roles).toContain(
		'engineer'
	);
	// Only that action needs the lead.
	expect(changeRights(DEFAULT_RIGHTS, 'run.end', { roles: ['operator'], approval: 'none' })['run.end'].roles).toEqual(['operator']);
	expect(() => changeRights(DEFAULT_RIGHTS, 'handOver.sign', { roles: ['lead'], approval: 'none' })).toThrow('a PIN');
	expect(changeRights(DEFAULT_RIGHTS, 'handOver.sign', { roles: ['lead'], approval: 'second' })['handOver.sign'].approval).toBe('second');
	expect(changeRights(DEFAULT_RIGHTS, 'run.end', { roles: ['lead'], approval: 'none' })['rights.set']).toBe(rule);
});
