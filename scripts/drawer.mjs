// The command line. Quiet about anything but its answer.
import { resolve, join } from 'node:path';
import { existsSync } from 'node:fs';
import { pathToFileURL } from 'node:url';
import { install, root } from './setup.mjs';

if (!existsSync(join(root, 'node_modules/vite'))) install();
const { commandLine } = await import('./cli.mjs');
process.env.DRAWER_HOME = root;
process.env.DRAWER_CWD = resolve(process.env.INIT_CWD ?? process.cwd());
process.chdir(root);
await import(pathToFileURL(await commandLine()).href);
