import { error } from '@sveltejs/kit';
import { bodies } from '$lib/api/bodies.ts';
import { RULES, type RuleName } from '$lib/rules/index.ts';
import { ruleNow, ruleSet, setRuleValue } from '$lib/server/plant/rules.ts';
import { route } from '$lib/server/route.ts';

const named = (name: string): RuleName => (name in RULES ? (name as RuleName) : error(404, `There is no rule ${name}.`));

export const GET = route({
	who: 'signedIn',
	does: 'A rule that the plant sets for itself, as it holds now.',
	run: async ({ part }) => {
		const name = named(part('name'));
		return { value: await ruleNow(name), set: await ruleSet(name) };
	}
});

export const PUT = route({
	who: 'rules.set',
	does: 'Sets a rule of the plant; startedFrom is the revision that the edit began with.',
	body: bodies.plantRule,
	example: { value: { ledgerDays: 60 }, startedFrom: null },
	run: ({ actor, body, part }) => setRuleValue(actor, named(part('name')), body.value, body.startedFrom)
});
