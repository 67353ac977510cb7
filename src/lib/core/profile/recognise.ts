import { isMatch, matchAny, type Mismatch } from './match';
import type { Profile } from './schema';
import { slotsOfModel } from './variant';

export interface Recognition {
	profile: Profile;
	/** Messages that the profile reads exactly, with records in them. */
	read: number;
	/** Messages that begin as this model's and are damaged. */
	damaged: { index: number; why: Mismatch }[];
	/** Messages that are none of this model's. */
	foreign: number;
	/** Device IDs that the messages carry. */
	deviceIds: number[];
}

/** Which profiles can read these messages, best first, of variants that read as much the one with fewest slots; profiles that recognise nothing are left out. */
export function recogniseDump(profiles: readonly Profile[], messages: readonly Uint8Array[]): Recognition[] {
	const all = profiles.map((profile): Recognition => {
		const found: Recognition = { profile, read: 0, damaged: [], foreign: 0, deviceIds: [] };
		const ids = new Set<number>();
		messages.forEach((bytes, index) => {
			const match = matchAny(profile, bytes);
			if (!isMatch(match)) {
				if (match.why === 'other message') found.foreign++;
				else found.damaged.push({ index, why: match });
				return;
			}
			if (match.memory.length > 0) found.read++;
			if (match.variables.deviceId !== undefined) ids.add(match.variables.deviceId);
		});
		found.deviceIds = [...ids].sort((a, b) => a - b);
		return found;
	});
	return all
		.filter(({ read, damaged }) => read + damaged.length > 0)
		.sort(
			(a, b) =>
				b.read - a.read ||
				b.damaged.length - a.damaged.length ||
				slotsOfModel(a.profile) - slotsOfModel(b.profile)
		);
}
