import { buildMessage } from './build';
import { placesOf, type Variables } from './carrier';
import { layoutOf } from './layout';
import { isMatch, matchAny, type Match } from './match';
import type { Profile } from './schema';
import { areaOf } from './slots';

/** The area whose slot a message names for a dump beside it, and whether that came before; null where it names none. */
function namedBy(
	profile: Profile,
	messageId: string
): { area: Profile['areas'][number]; behind: boolean } | null {
	for (const area of profile.areas) {
		const { panel, called } = area;
		if (panel && (panel.says === messageId || panel.select === messageId)) return { area, behind: false };
		if (called?.store === messageId) return { area, behind: true };
	}
	return null;
}

/**
 * Where dumps belong that name no slot: each to the one that the message before it named, or, of an edit buffer, to the one
 * that the store command behind it names. A name is good for one dump: what has none is of a slot that nobody knows.
 * @param matches messages in the order in which they came; null where one is not read
 */
export function placeNamed(profile: Profile, matches: readonly (Match | null)[]): (Match | null)[] {
	const placed = [...matches];
	const named = new Map<string, number>();
	/** The last dump of an area that waits for a name. */
	const open = new Map<string, number>();
	matches.forEach((match, i) => {
		if (!match) return;
		const names = namedBy(profile, match.messageId);
		if (names) {
			const { slot } = match.variables;
			const { id, slots } = names.area;
			const there = slot !== undefined && slot < slots ? slot : undefined;
			const at = open.get(id);
			if (names.behind && at !== undefined && there !== undefined)
				placed[at] = ofSlot(profile, matches[at]!, there);
			open.delete(id);
			named.delete(id);
			if (!names.behind && there !== undefined) named.set(id, there);
			return;
		}
		const layout = layoutOf(profile, match.messageId);
		if (!layout.ofPanel) return;
		const area = layout.carrier!.area!;
		const slot = named.get(area);
		named.delete(area);
		if (slot !== undefined) placed[i] = ofSlot(profile, match, slot);
		else open.set(area, i);
	});
	return placed;
}

/** A message that names no slot, as being of that one. */
export function ofSlot(profile: Profile, match: Match, slot: number): Match {
	const { carrier } = layoutOf(profile, match.messageId);
	const pieces = placesOf(profile, carrier!, { ...match.variables, slot }, match.contents, match.memory);
	return typeof pieces === 'string' ? match : { ...match, pieces };
}

/** A dump with what goes before or behind it where it names no slot, so that it is of that one. */
export function withName(
	profile: Profile,
	messageId: string,
	to: Variables,
	bytes: Uint8Array
): Uint8Array[] {
	const layout = layoutOf(profile, messageId);
	if (!layout.ofPanel) return [bytes];
	const { panel, called } = areaOf(profile, layout.carrier!.area!);
	return panel
		? [buildMessage(profile, panel.select ?? panel.says, to), bytes]
		: [bytes, buildMessage(profile, called!.store, to)];
}

/**
 * Messages as they can be sent by anything that sends dumps: where a device said which slot a dump is of, it is told to call
 * that slot up instead. Where only a hand can, they are as they were.
 */
export function callingUp(profile: Profile, messages: readonly Uint8Array[]): Uint8Array[] {
	const panels = profile.areas.flatMap(({ panel }) => (panel?.select ? [panel] : []));
	if (panels.length === 0) return [...messages];
	return messages.map((bytes) => {
		const match = matchAny(profile, bytes);
		if (!isMatch(match)) return bytes;
		const panel = panels.find(({ says }) => says === match.messageId);
		return panel ? buildMessage(profile, panel.select!, match.variables) : bytes;
	});
}
