// Prints what the product does, in figures measured in one run. Not a test.
import { build, install, root, tsx } from './setup.mjs';

install();
build();
tsx('scripts/bench.ts', process.argv.slice(2), { env: { ...process.env, DRAWER_HOME: root } });
