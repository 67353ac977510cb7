import { finished, Pace, type Steps } from '../steps';
import { beginsAs } from './layout';
import { isMatch, matchAny } from './match';
import { recognising, type Recognition } from './recognise';
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
function* inOrder(
	profiles: readonly Profile[],
	messages: readonly Uint8Array[],
	recognised?: readonly Recognition[]
): Steps<readonly Profile[]> {
	const variants = profiles.filter(({ variant }) => variant);
	if (variants.length === 0) return profiles;
	const best = (recognised ?? (yield* recognising(variants, messages)))
		.map(({ profile }) => profile)
		.filter(({ variant }) => variant);
	return [...best, ...profiles.filter((profile) => !best.includes(profile))];
}

/**
 * Cuts the messages of a file by model and device ID, in the order in which each first appears. A damaged message goes
 * with the first part of its model, so that it is named there and not lost.
 */
export const splitDump = (profiles: readonly Profile[], messages: readonly Uint8Array[]): DumpPart[] =>
	finished(splitting(profiles, messages));

/** The same with pauses. @param recognised what of these profiles is in the messages, where somebody looked already */
export function* splitting(
	profiles: readonly Profile[],
	messages: readonly Uint8Array[],
	recognised?: readonly Recognition[]
): Steps<DumpPart[]> {
	const parts = new Map<string, DumpPart>();
	const pace = new Pace();
	const damaged: { profile: Profile; index: number }[] = [];
	const tried = yield* inOrder(profiles, messages, recognised);
	const put = (key: string, index: number, part: Omit<DumpPart, 'messages'>) => {
		const there = parts.get(key);
		if (there) there.messages.push(index);
		else parts.set(key, { ...part, messages: [index] });
	};
	for (const [index, bytes] of messages.entries()) {
		if (pace.due(bytes.length)) yield;
		let [hurt, known]: [Profile | null, boolean] = [null, false];
		for (const profile of tried) {
			if (!beginsAs(profile, bytes)) continue;
			const match = matchAny(profile, bytes);
			if (isMatch(match)) {
				const deviceId = match.variables.deviceId ?? null;
				put(`${profile.id} ${deviceId}`, index, { profile, deviceId });
				known = true;
				break;
			}
			if (match.why !== 'other message') hurt ??= profile;
		}
		if (known) continue;
		if (hurt) damaged.push({ profile: hurt, index });
		else put('unknown', index, { profile: null, deviceId: null });
	}
	for (const { profile, index } of damaged) {
		if (pace.due()) yield;
		const part = [...parts.values()].find((other) => other.profile && sameFamily(other.profile, profile));
		if (part) part.messages.push(index);
		else parts.set(`${profile.id} damaged`, { profile, deviceId: null, messages: [index] });
	}
	for (const { messages: own } of parts.values()) own.sort((a, b) => a - b);
	return [...parts.values()];
}
