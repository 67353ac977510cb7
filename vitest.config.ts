import { defineConfig } from 'vitest/config';

const common = { testTimeout: 60_000, hookTimeout: 60_000 };
/** Files that change what all files of a process share: globals, clocks, the environment. */
const apart = ['src/lib/hardware/**/*.test.ts', 'src/lib/server/{guard,local-time}.test.ts'];

export default defineConfig({
	test: {
		maxWorkers: 2,
		projects: [
			// Modules are read once in each process, and not again for each file: half of the time went there.
			{ test: { ...common, name: 'shared', include: ['src/**/*.test.ts'], exclude: apart, isolate: false } },
			{ test: { ...common, name: 'apart', include: apart } }
		]
	}
});
