import { RULES, RULE_NAMES } from '$lib/rules/index.ts';
import { ruleNow, ruleSet } from '$lib/server/plant/rules.ts';
import { formOf } from '$lib/server/stations/forms.ts';

export async function load({ depends }) {
	depends('live:people');
	return {
		rules: await Promise.all(
			RULE_NAMES.map(async (name) => {
				const { title, about, source, schema, start } = RULES[name];
				return { name, title, about, source, start, form: formOf(schema), value: await ruleNow(name), set: await ruleSet(name) };
			})
		)
	};
}
