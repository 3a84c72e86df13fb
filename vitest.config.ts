import { svelte } from '@sveltejs/vite-plugin-svelte';
import { defineConfig } from 'vitest/config';

export default defineConfig({
	// State of pages is tested as it is compiled.
	plugins: [svelte({ configFile: false })],
	resolve: {
		alias: {
			$lib: new URL('./web/src/lib', import.meta.url).pathname,
			// Server code reads its settings from the process; under test it has none, and no database.
			'$env/dynamic/private': new URL('./web/test-env.ts', import.meta.url).pathname,
			'$app/environment': new URL('./web/test-env.ts', import.meta.url).pathname
		}
	},
	test: {
		// These machines are shared: a search that takes a second may take ten.
		testTimeout: 60_000,
		setupFiles: ['./vitest.setup.ts'],
		include: ['core/src/**/*.test.ts', 'checks/**/*.test.ts', 'devices/src/**/*.test.ts', 'demo/src/**/*.test.ts', 'web/src/**/*.test.ts']
	}
});
