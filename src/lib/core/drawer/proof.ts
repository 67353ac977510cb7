import { believedTwice, layoutOf, mayLackSecond, messagesOf, type Profile } from '../profile';
import type { Proof } from './knowledge';

/** Whether a checksum covers what a message carries. */
const hasChecksum = (profile: Profile, id: string): boolean =>
	layoutOf(profile, id).parts.some(
		({ part }) => part.part === 'checksum' || ('eachSum' in part && part.eachSum !== undefined)
	);

/** What a whole capture by this profile proves: that checksums were right, where all its messages have one, or that it came twice alike. */
export const proofOf = (profile: Profile): Proof => {
	if (believedTwice(profile)) return 'twice alike';
	return profile.capture.length > 0 &&
		profile.capture.every(
			(way) => way.total !== undefined || messagesOf(way.expect).every((id) => hasChecksum(profile, id))
		)
		? 'checksum'
		: 'none';
};

/** What a capture proves that was left in the middle: nothing where what has to come twice may have come once. */
export const proofUnfinished = (profile: Profile): Proof =>
	mayLackSecond(profile) ? 'none' : proofOf(profile);
