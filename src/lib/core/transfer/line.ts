import type { Profile } from '../profile';
import type { Conversation } from './conversation';
import { PATIENCE_MS, identify, type Target } from './identify';
import type { Reason } from './outcome';
import { CANCELLED, UNPLUGGED } from './reasons';

/** Whom a conversation is with, and how. */
export interface LineOrder {
	profile: Profile;
	target: Target;
	/** Multiplies every pause; 1 is the profile's own pace. */
	paceFactor?: number;
	/** How long an unplugged port may stay away, in ms. */
	patienceMs?: number;
}

/** Stops a conversation for good. */
export class Stop {
	constructor(readonly reason: Reason) {}
}

/** Waits. @throws Stop where it is cancelled */
export function* rest(ms: number): Conversation<void> {
	const heard = yield { do: 'sleep', ms };
	if (heard.heard === 'cancelled') throw new Stop(CANCELLED);
}

/** Waits for the port and makes sure that the same device is behind it. @throws Stop where it does not come back */
export function* comeBack({ profile, target, patienceMs }: LineOrder): Conversation<void> {
	const heard = yield { do: 'await port', patienceMs: patienceMs ?? PATIENCE_MS };
	if (heard.heard === 'cancelled') throw new Stop(CANCELLED);
	if (heard.heard !== 'done') throw new Stop(UNPLUGGED);
	const found = yield* identify(profile, target, patienceMs);
	if (found.reason) throw new Stop(found.reason);
}

/** Sends; true when it left, false when the port had to come back first. */
export function* say(order: LineOrder, bytes: Uint8Array): Conversation<boolean> {
	const heard = yield { do: 'send', bytes };
	if (heard.heard === 'cancelled') throw new Stop(CANCELLED);
	if (heard.heard !== 'unplugged') return true;
	yield* comeBack(order);
	return false;
}
