import { defineConfig, mergeConfig } from 'vitest/config';
import base from './vitest.config.ts';

/** For `npm run mutate`: the tests of the folder and the checks alone. Seeded studies take too long to be repeated for every change. */
export default mergeConfig(
	{ ...base, test: { ...base.test, include: [] } },
	defineConfig({
		test: { include: [`${process.env.MUTATE ?? 'core/src'}/**/*.test.ts`, 'checks/**/*.test.ts'], exclude: ['checks/studies.test.ts'] }
	})
);
