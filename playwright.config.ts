import { defineConfig } from '@playwright/test';
import { chromiumFlags, needChromium } from './scripts/browser.mjs';

export default defineConfig({
	testDir: 'e2e',
	testMatch: '**/*.spec.ts',
	timeout: 60_000,
	expect: { timeout: 10_000 },
	// Two files side by side, each worker on a server and a demo studio of its own; a file's tests share its studio.
	workers: Number(process.env.E2E_WORKERS ?? 2),
	globalSetup: './e2e/prepare.ts',
	// On a loaded machine one more try; a test that needed it is shown as flaky.
	retries: process.env.CI ? 1 : 0,
	reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
	use: {
		viewport: { width: 1280, height: 800 },
		launchOptions: { executablePath: needChromium(), args: chromiumFlags },
		trace: 'off'
	}
});
