import type { Clock } from '../core/transfer';
import { steadyAfter } from './steady-time';

/** Time as it passes, in hidden tabs too. */
export const realClock: Clock = {
	now: () => performance.now(),
	after: (ms, action) => steadyAfter(Math.max(0, ms), action)
};
