import type { Profile } from '../../profile';
import type { Target } from '../identify';
import type { Scope } from '../scope';

export interface CaptureOrder {
	profile: Profile;
	target: Target;
	scope: Scope;
	/** Messages of an earlier, unfinished attempt: what they hold is not asked for again. */
	have?: readonly Uint8Array[];
	/** Multiplies every pause; 1 is the profile's own pace. */
	paceFactor?: number;
	/** How long an unplugged port may stay away, in ms. */
	patienceMs?: number;
	/** Damage was seen in the earlier attempt: what it holds is read a second time. */
	distrusted?: boolean;
	/** Skips asking who is there, because it was asked just now. */
	identified?: boolean;
}
