import { defineConfig } from 'vitest/config';

export default defineConfig({
	test: { include: ['core/src/**/*.test.ts', 'checks/**/*.test.ts', 'devices/src/**/*.test.ts', 'demo/src/**/*.test.ts', 'web/src/**/*.test.ts'] }
});
