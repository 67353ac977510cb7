import { join } from 'node:path';
import { build, root, tsx } from '../scripts/setup.mjs';

/** The demo studio that every worker gets a copy of. */
export const template = join(root, 'data', 'e2e');

/** Builds the app and makes the demo studio, once for all workers. */
export default function prepare(): void {
	build();
	tsx('demo/seed.ts', [join(template, 'studio.sqlite'), '--fresh'], {
		env: { ...process.env, DRAWER_HOME: root }
	});
}
