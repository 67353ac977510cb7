// Builds the app, unless it is built already.
import { build } from './setup.mjs';

build();
