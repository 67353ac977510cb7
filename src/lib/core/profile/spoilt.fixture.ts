import { parseProfile, type Profile } from '.';

/** What is said of a profile once it was spoilt, a line each; nothing where it is still one. */
export function faultsOfSpoilt(profile: Profile, spoil: (profile: Profile) => void): string[] {
	const spoilt = structuredClone(profile);
	spoil(spoilt);
	try {
		parseProfile(spoilt);
		return [];
	} catch (error) {
		return (error as { detail: { faults: { says: string }[] } }).detail.faults.map(({ says }) => says);
	}
}
