import type { ProfileReport } from '../profile';
import type { LiveWorld } from './knowledge';
import type { Transfer } from './transfer-orders';

/** A trial of a profile on its device: a slot that was read is asked for again, written back to where it is, and read. */
export interface DeviceTrial {
	transferId: string;
	/** When it began, ISO 8601. */
	at: string;
	world: LiveWorld | 'unrecorded';
	status: Transfer['status'];
	/** The slot, as its panel shows it. */
	slot: string;
	name: string | null;
	/** The revision of the profile that it was tried with; null where nothing came. */
	revision: number | null;
	/** Why it did not end well. */
	reason: string | null;
	/** What a profile can keep of it; null where it did not end well. */
	report: ProfileReport | null;
}
