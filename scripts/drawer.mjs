// The command line. Quiet about anything but its answer.
import { spawnSync } from 'node:child_process';
import { join, resolve } from 'node:path';
import { existsSync } from 'node:fs';
import { install, root } from './setup.mjs';

if (!existsSync(join(root, 'node_modules/tsx'))) install();
const result = spawnSync(
	process.execPath,
	['--import', 'tsx', join(root, 'src/cli/drawer.ts'), ...process.argv.slice(2)],
	{
		cwd: root,
		stdio: 'inherit',
		env: { ...process.env, DRAWER_HOME: root, DRAWER_CWD: resolve(process.env.INIT_CWD ?? process.cwd()) }
	}
);
process.exit(result.status ?? 1);
