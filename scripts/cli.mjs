// The command line as one piece of plain JavaScript: made anew when its sources change, so that a command answers at once.
import { existsSync, mkdirSync, readdirSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { cache, digest, root } from './setup.mjs';

/** The file to run. Two that make it at once each make their own, and one of them stays. */
export async function commandLine() {
	const made = `cli-${digest(['scripts/cli.mjs', 'src/cli', 'src/lib/core', 'src/lib/server', 'package-lock.json']).slice(0, 16)}`;
	const folder = join(cache, made);
	if (!existsSync(folder)) {
		const own = join(cache, `making-${process.pid}`);
		mkdirSync(own, { recursive: true });
		const { build } = await import('vite');
		await build({
			root,
			configFile: false,
			logLevel: 'error',
			publicDir: false,
			// Found once, while it is made, and not file by file at each command; what is large and seldom wanted stays outside.
			ssr: { noExternal: true, external: ['highs', 'sequelize', 'sqlite3', 'umzug'] },
			build: {
				ssr: 'src/cli/drawer.ts',
				outDir: own,
				target: 'node20',
				rolldownOptions: { output: { entryFileNames: 'drawer.mjs', chunkFileNames: '[name]-[hash].mjs' } }
			}
		});
		for (const name of readdirSync(cache))
			if (name.startsWith('cli-') && name !== made)
				rmSync(join(cache, name), { recursive: true, force: true });
		try {
			renameSync(own, folder);
		} catch (error) {
			if (!existsSync(folder)) throw error;
			rmSync(own, { recursive: true });
		}
	}
	return join(folder, 'drawer.mjs');
}
