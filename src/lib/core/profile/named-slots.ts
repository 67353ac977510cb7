import { buildMessage } from './build';
import { placesOf, type Variables } from './carrier';
import { layoutOf } from './layout';
import { isMatch, matchAny, type Match } from './match';
import type { Profile } from './schema';
import { areaOf } from './slots';

/** The area whose slot a message names for the dump that follows it, or null. */
const areaNamedBy = (profile: Profile, messageId: string) =>
	profile.areas.find(({ panel }) => panel && (panel.says === messageId || panel.select === messageId)) ??
	null;

/**
 * Where dumps belong that name no slot: each to the one that the last message before it named. A name is good for one
 * dump: what follows without one is of a slot that nobody knows.
 */
export class NamedSlots {
	readonly #profile: Profile;
	readonly #named = new Map<string, number>();

	constructor(profile: Profile) {
		this.#profile = profile;
	}

	/** The message with its area and slot, where one was named for it; messages in the order in which they came. */
	place(match: Match): Match {
		const names = areaNamedBy(this.#profile, match.messageId);
		if (names) {
			const { slot } = match.variables;
			if (slot !== undefined && slot < names.slots) this.#named.set(names.id, slot);
			else this.#named.delete(names.id);
			return match;
		}
		const layout = layoutOf(this.#profile, match.messageId);
		if (!layout.ofPanel) return match;
		const area = layout.carrier!.area!;
		const slot = this.#named.get(area);
		this.#named.delete(area);
		return slot === undefined ? match : ofSlot(this.#profile, match, slot);
	}
}

/** A message that names no slot, as being of that one. */
export function ofSlot(profile: Profile, match: Match, slot: number): Match {
	const { carrier } = layoutOf(profile, match.messageId);
	const pieces = placesOf(profile, carrier!, { ...match.variables, slot }, match.contents, match.memory);
	return typeof pieces === 'string' ? match : { ...match, pieces };
}

/** What goes before a dump that names no slot, so that it is of that one; nothing where it says so itself. */
export function namesBefore(profile: Profile, messageId: string, to: Variables): Uint8Array[] {
	const layout = layoutOf(profile, messageId);
	if (!layout.ofPanel) return [];
	const { panel } = areaOf(profile, layout.carrier!.area!);
	return [buildMessage(profile, panel!.select ?? panel!.says, to)];
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
