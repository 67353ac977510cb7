// One command: installs what is missing, builds, makes the demo studio, serves it.
import { join } from 'node:path';
import { build, install, root, tsx } from './setup.mjs';
import { serve } from './serve.mjs';

install();
build();
const data = process.env.DRAWER_DATA || join(root, 'data', 'demo');
tsx(
	'demo/seed.ts',
	[join(data, 'studio.sqlite'), ...process.argv.slice(2).filter((flag) => flag === '--fresh')],
	{ env: { ...process.env, DRAWER_HOME: root } }
);
await serve({ data, demo: true });
