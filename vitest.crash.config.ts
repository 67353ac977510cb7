import { defineConfig } from 'vitest/config';

/** Tests that need the built server. */
export default defineConfig({
	test: { include: ['e2e/**/*.test.ts'], testTimeout: 300_000, hookTimeout: 60_000, fileParallelism: false }
});
