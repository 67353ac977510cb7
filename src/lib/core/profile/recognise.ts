import { finished, Pace, type Steps } from '../steps';
import { beginsAs } from './layout';
import { isMatch, matchAny, type Mismatch } from './match';
import type { Profile } from './schema';
import { slotsOfModel } from './variant';

export interface Recognition {
	profile: Profile;
	/** Messages that the profile reads exactly, with records in them. */
	read: number;
	/** Messages that begin as this model's and are damaged. */
	damaged: number;
	/** The first of them; of more nobody reads. */
	firstDamaged: { index: number; why: Mismatch }[];
	/** Messages that are none of this model's. */
	foreign: number;
	/** Device IDs that the messages carry. */
	deviceIds: number[];
}

/** So many messages of which something is wrong are told one by one. */
export const TOLD = 10;

/** Which profiles can read these messages, best first, of variants that read as much the one with fewest slots; profiles that recognise nothing are left out. */
export const recogniseDump = (profiles: readonly Profile[], messages: readonly Uint8Array[]): Recognition[] =>
	finished(recognising(profiles, messages));

/** The same with pauses. */
export function* recognising(
	profiles: readonly Profile[],
	messages: readonly Uint8Array[]
): Steps<Recognition[]> {
	const all: Recognition[] = [];
	const pace = new Pace();
	for (const profile of profiles) {
		const found: Recognition = { profile, read: 0, damaged: 0, firstDamaged: [], foreign: 0, deviceIds: [] };
		const ids = new Set<number>();
		for (const [index, bytes] of messages.entries()) {
			if (pace.due(bytes.length)) yield;
			const match = beginsAs(profile, bytes) ? matchAny(profile, bytes) : null;
			if (!match) found.foreign++;
			else if (!isMatch(match)) {
				if (match.why === 'other message') found.foreign++;
				else if (found.damaged++ < TOLD) found.firstDamaged.push({ index, why: match });
			} else {
				if (match.memory.length > 0) found.read++;
				if (match.variables.deviceId !== undefined) ids.add(match.variables.deviceId);
			}
		}
		found.deviceIds = [...ids].sort((a, b) => a - b);
		all.push(found);
	}
	return all
		.filter(({ read, damaged }) => read + damaged > 0)
		.sort(
			(a, b) => b.read - a.read || b.damaged - a.damaged || slotsOfModel(a.profile) - slotsOfModel(b.profile)
		);
}
