import { isMatch, matchAny } from './match';
import { recogniseDump } from './recognise';
import type { Profile } from './schema';
import { sameFamily } from './variant';

/** Messages of a file that belong together: one device’s, as far as they say. */
export interface DumpPart {
	/** Null where no profile knows them. */
	profile: Profile | null;
	/** As on the wire; null where the messages carry none. */
	deviceId: number | null;
	/** Their numbers in the file, from 0. */
	messages: number[];
}

/** Profiles in the order in which they are tried: of the variants of a model, the one that reads most before the others. */
function inOrder(profiles: readonly Profile[], messages: readonly Uint8Array[]): readonly Profile[] {
	const variants = profiles.filter(({ variant }) => variant);
	if (variants.length === 0) return profiles;
	const best = recogniseDump(variants, messages).map(({ profile }) => profile);
	return [...best, ...profiles.filter((profile) => !best.includes(profile))];
}

/**
 * Cuts the messages of a file by model and device ID, in the order in which each first appears. A damaged message goes
 * with the first part of its model, so that it is named there and not lost.
 */
export function splitDump(profiles: readonly Profile[], messages: readonly Uint8Array[]): DumpPart[] {
	const parts = new Map<string, DumpPart>();
	const damaged: { profile: Profile; index: number }[] = [];
	const tried = inOrder(profiles, messages);
	messages.forEach((bytes, index) => {
		let hurt: Profile | null = null;
		for (const profile of tried) {
			const match = matchAny(profile, bytes);
			if (!isMatch(match)) {
				if (match.why !== 'other message') hurt ??= profile;
				continue;
			}
			const deviceId = match.variables.deviceId ?? null;
			const key = `${profile.id} ${deviceId}`;
			const part = parts.get(key);
			if (part) part.messages.push(index);
			else parts.set(key, { profile, deviceId, messages: [index] });
			return;
		}
		if (hurt) damaged.push({ profile: hurt, index });
		else {
			const part = parts.get('unknown');
			if (part) part.messages.push(index);
			else parts.set('unknown', { profile: null, deviceId: null, messages: [index] });
		}
	});
	for (const { profile, index } of damaged) {
		const part = [...parts.values()].find((other) => other.profile && sameFamily(other.profile, profile));
		if (part) part.messages = [...part.messages, index].sort((a, b) => a - b);
		else parts.set(`${profile.id} damaged`, { profile, deviceId: null, messages: [index] });
	}
	return [...parts.values()];
}
