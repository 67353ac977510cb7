import { layoutOf, type Profile } from '../profile';
import type { Proof } from './knowledge';

/** What a whole capture by this profile proves: that checksums were right, where all its messages have one. */
export const proofOf = (profile: Profile): Proof =>
	profile.capture.length > 0 &&
	profile.capture.every((way) =>
		layoutOf(profile, way.expect).parts.some(({ part }) => part.part === 'checksum')
	)
		? 'checksum'
		: 'none';
