import type { Clock } from '../core/transfer';

/** Time as it passes. */
export const realClock: Clock = {
	now: () => performance.now(),
	after(ms, action) {
		const timer = setTimeout(action, Math.max(0, ms));
		return () => clearTimeout(timer);
	}
};
