import { describesItself } from './described';
import type { Profile } from './schema';
import { goesByChannel, tellsValues } from './told';

/**
 * Whether what a model says has no checksum and has to come twice alike before it is believed: values that are told one by one,
 * and properties of MIDI-CI.
 */
export const believedTwice = (profile: Profile): boolean => tellsValues(profile) || describesItself(profile);

/** Whether what came of a model may have come once only, of what has to come twice. */
export const mayLackSecond = (profile: Profile): boolean =>
	goesByChannel(profile) || describesItself(profile);
