import { z } from 'zod';

/** What a schema says of itself, as people say it, to browser and server alike; what a schema was given to say stays. */
function inWords(issue: z.core.$ZodRawIssue): string | undefined {
	switch (issue.code) {
		case 'invalid_union':
			return 'is of no kind that is known';
		case 'too_big': {
			const counted = COUNTED[issue.origin];
			return `${counted || issue.inclusive ? 'at most' : 'less than'} ${issue.maximum}${counted ? ` ${counted}` : ''}`;
		}
		case 'too_small': {
			if (issue.origin === 'string' && issue.minimum === 1) return 'must not be empty';
			const counted = COUNTED[issue.origin];
			return `${counted || issue.inclusive ? 'at least' : 'more than'} ${issue.minimum}${counted ? ` ${counted}` : ''}`;
		}
		case 'invalid_type':
			return issue.input === undefined || issue.input === null ? 'is missing' : `must be ${TYPES[issue.expected] ?? issue.expected}`;
		case 'invalid_value':
			return `must be ${issue.values.length > 1 ? 'one of ' : ''}${issue.values.map(String).join(', ')}`;
		case 'unrecognized_keys':
			return `has what nobody asked for: ${issue.keys.join(', ')}`;
		default:
			return undefined;
	}
}

const COUNTED: Partial<Record<string, string>> = { string: 'characters', array: 'entries', set: 'entries', file: 'bytes' };
const TYPES: Partial<Record<string, string>> = {
	number: 'a number',
	int: 'a whole number',
	string: 'text',
	boolean: 'yes or no',
	array: 'a list',
	object: 'an object',
	date: 'a date'
};

z.config({ customError: inWords });
