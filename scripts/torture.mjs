// npm run torture -- MINUTES [SEED]: hurts a studio in every way, and tells what came of it.
import { build, install, root, tsx } from './setup.mjs';

install();
build();
tsx('torture/run.ts', process.argv.slice(2), { env: { ...process.env, DRAWER_HOME: root } });
