import { layoutOf, messageLength, slotsTogether, type Parcel, type Profile } from '../profile';
import type { Stretch } from './cover';

/** Something to ask for or to write, with its place on the line of units. */
export type Offer<T> = Stretch & { items: T[] };

/** Slot numbers of the groups of `records` that hold `slots`. */
export const groupsOf = (slots: readonly number[], records: number): number[] => [
	...new Set(slots.map((slot) => Math.floor(slot / records) * records))
];

/** Bytes of the message that a parcel becomes. */
export const bytesOf = (profile: Profile, { messageId, holds, contents }: Parcel): number =>
	messageLength(
		layoutOf(profile, messageId),
		holds.reduce((sum, { size }) => sum + size, 0),
		contents.length
	);

/** Slots that travel together in these messages. */
export const togetherIn = (profile: Profile, ids: readonly string[]): number =>
	Math.max(...ids.map((id) => slotsTogether(profile, id)));
