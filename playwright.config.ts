import { defineConfig } from '@playwright/test';
import { chromiumFlags, needChromium } from './scripts/browser.mjs';

const port = Number(process.env.E2E_PORT ?? 5391);

export default defineConfig({
	testDir: 'e2e',
	testMatch: '**/*.spec.ts',
	timeout: 60_000,
	expect: { timeout: 10_000 },
	workers: 1,
	// On a loaded machine one more try; a test that needed it is shown as flaky.
	retries: process.env.CI ? 1 : 0,
	reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
	use: {
		baseURL: `http://127.0.0.1:${port}`,
		viewport: { width: 1280, height: 800 },
		launchOptions: { executablePath: needChromium(), args: chromiumFlags },
		trace: 'off'
	},
	webServer: {
		command: `node scripts/demo.mjs --fresh`,
		url: `http://127.0.0.1:${port}/api/v1/profiles`,
		timeout: 180_000,
		env: { PORT: String(port), DRAWER_DATA: 'data/e2e' }
	}
});
