import type { LiveWorld } from '../core/drawer';
import { call } from './api';

/** Notes, before it is sent, that something else than a scene goes to devices: what they play is not known any more. */
export const forgetPlayed = (
	world: LiveWorld,
	what: { devices?: string[]; units?: string[]; all?: boolean }
): Promise<unknown> => call('POST', '/set/forgotten', { world, ...what });
