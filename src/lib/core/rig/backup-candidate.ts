import type { Device } from '../gear';
import type { Profile } from '../profile';
import type { Past } from '../transfer';
import type { WayEnd } from './host-ways';

/** What is known of a device before a backup of the whole studio. */
export interface Candidate {
	device: Device;
	profile: Profile | null;
	out: WayEnd | null;
	in: WayEnd | null;
	past: Past[];
	/** Why it should not be backed up now, though it could: a restore to it broke off. */
	torn: boolean;
}
