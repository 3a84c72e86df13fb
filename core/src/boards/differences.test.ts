import { describe, expect, test } from 'vitest';
import type { Finding } from '../artwork/index.ts';
import { differenceLevel, differencesOf, holdsUp, isUnsettled, judgeDifferences } from './index.ts';

const finding = (code: Finding['code'], value: string, severity: Finding['severity'] = 'error'): Finding => ({
	code,
	value,
	severity,
	field: 'ref',
	message: `${value} differs.`,
	at: null
});
const FOUND = [
	finding('bom_ref_missing_in_centroid', 'R3'),
	finding('paste_without_part', '12', 'warning'),
	finding('dnp_has_paste', 'C1')
];
const said = (n: number, state: 'open' | 'accepted' | 'sentBack', reason = 'looked at') => ({ finding: n, state, reason, by: 'B. Rook' });
const states = (...of: Parameters<typeof differencesOf>) => differencesOf(...of).map((d) => d.state);

describe('differences between the files', () => {
	test('stand as somebody said of them, by their number', () => {
		expect(states(FOUND, [], null)).toEqual(['open', 'open', 'open']);
		expect(states(FOUND, [said(2, 'accepted'), said(0, 'sentBack')], null)).toEqual(['sentBack', 'open', 'accepted']);
		expect(differencesOf(FOUND, [said(2, 'accepted', 'plugged in the stencil')], null)[2]).toMatchObject({
			reason: 'plugged in the stencil',
			by: 'B. Rook'
		});
		expect(states(FOUND, [said(0, 'open')], null)).toEqual(['open', 'open', 'open']);
	});

	test('are corrected where a newer revision has them no more; what was said stays said', () => {
		const newer = { revision: 'C', findings: [FOUND[2]!, finding('bom_ref_missing_in_centroid', 'R4')] };
		expect(states(FOUND, [], newer)).toEqual(['corrected', 'corrected', 'open']);
		expect(differencesOf(FOUND, [], newer)[0]!.reason).toBe('in revision C');
		expect(states(FOUND, [said(0, 'sentBack')], newer)[0]).toBe('sentBack');
	});

	test('an error holds a side up until it is accepted: sent back or corrected elsewhere it still does; a warning never does', () => {
		expect(differencesOf(FOUND, [], null).map(holdsUp)).toEqual([true, false, true]);
		expect(differencesOf(FOUND, [said(0, 'sentBack'), said(2, 'accepted')], { revision: 'C', findings: [] }).map(holdsUp)).toEqual([
			true,
			false,
			false
		]);
		expect(holdsUp({ of: FOUND[0]!, state: 'corrected' })).toBe(true);
	});

	test('each has its level, and what is open or only corrected elsewhere is to be settled', () => {
		const newer = { revision: 'C', findings: [FOUND[2]!] };
		const all = [...differencesOf(FOUND, [], null), ...differencesOf(FOUND, [said(0, 'sentBack'), said(2, 'accepted')], newer)];
		expect(all.map(differenceLevel)).toEqual(['act', 'watch', 'act', 'act', 'good', 'good']);
		expect(all.map(isUnsettled)).toEqual([true, true, true, false, true, false]);
	});

	test('the verdict: held up, to be looked at, settled, none', () => {
		expect(judgeDifferences(differencesOf(FOUND, [], null))).toMatchObject({
			level: 'act',
			statement: '2 differences keep it from running: R3 differs.'
		});
		expect(judgeDifferences(differencesOf(FOUND, [said(0, 'accepted')], null)).statement).toBe(
			'1 difference keeps it from running: C1 differs.'
		);
		expect(judgeDifferences(differencesOf(FOUND, [said(0, 'accepted'), said(2, 'accepted')], null))).toMatchObject({
			level: 'watch',
			statement: '1 difference is to be looked at; none keeps it from running.'
		});
		expect(judgeDifferences(differencesOf(FOUND, [said(0, 'accepted'), said(1, 'accepted'), said(2, 'accepted')], null))).toMatchObject({
			level: 'good',
			statement: 'All 3 differences are settled.'
		});
		expect(judgeDifferences([])).toMatchObject({ level: 'good', statement: 'Parts list, positions and paste agree.' });
	});
});
