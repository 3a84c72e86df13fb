import svelte from 'eslint-plugin-svelte';
import ts from 'typescript-eslint';

export default ts.config(
	{ ignores: ['**/node_modules', '.data', 'web/build', 'web/.svelte-kit', 'test-results', 'web/src/lib/server/db/tables.ts'] },
	...ts.configs.recommended,
	...svelte.configs.recommended,
	{
		rules: {
			'@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
			'@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }]
		}
	},
	{
		files: ['**/*.svelte', '**/*.svelte.ts'],
		languageOptions: { parserOptions: { parser: ts.parser, extraFileExtensions: ['.svelte'] } },
		rules: {
			// Addresses here are built from numbers and fixed words, and the application is served at the root.
			'svelte/no-navigation-without-resolve': 'off',
			// Maps and sets in derived values are made anew, not mutated.
			'svelte/prefer-svelte-reactivity': 'off'
		}
	},
	{
		// "Now" and seeds come in as arguments.
		files: ['core/src/**/*.ts'],
		rules: {
			'no-restricted-properties': [
				'error',
				{ object: 'Math', property: 'random', message: 'Take a seeded Random as an argument.' },
				{ object: 'Date', property: 'now', message: 'Take the time as an argument.' }
			],
			// Control characters are what binary files are known by.
			'no-control-regex': 'off'
		}
	}
);
