import type { LineOrder } from '../line';
import type { Panel } from '../panel';
import type { Scope } from '../scope';

export interface CaptureOrder extends LineOrder {
	scope: Scope;
	/** Messages of an earlier, unfinished attempt: what they hold is not asked for again. */
	have?: readonly Uint8Array[];
	/** Damage was seen in the earlier attempt: what it holds is read a second time. */
	distrusted?: boolean;
	/** Skips asking who is there, because it was asked just now. */
	identified?: boolean;
	/** The device's panel, where whoever asks puts it back by themselves. */
	panel?: Panel;
}
