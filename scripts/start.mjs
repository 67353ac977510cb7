// Serves the user's own studio.
import { build, install } from './setup.mjs';
import { serve } from './serve.mjs';

install();
build();
await serve({});
