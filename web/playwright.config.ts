import { defineConfig } from '@playwright/test';

export default defineConfig({
	testDir: 'e2e',
	testMatch: '*.e2e.ts',
	workers: 1,
	timeout: 240_000,
	expect: { timeout: 30_000 },
	outputDir: '../test-results',
	use: {
		baseURL: process.env.BASE_URL,
		actionTimeout: 30_000,
		viewport: { width: 1280, height: 800 },
		screenshot: 'only-on-failure',
		launchOptions: {
			executablePath: process.env.CHROMIUM,
			args: [
				'--no-sandbox',
				'--disable-gpu',
				'--disable-quic',
				'--no-first-run',
				'--disable-background-networking',
				'--disable-component-update',
				'--disable-sync'
			]
		}
	}
});
