import { sameBytes } from '../midi';
import { bitsOfTexts, claimedBits, textFields } from './claims';
import { byteMap } from './byte-map';
import { decodeDump, encodeDump, type PartialSlot } from './dump';
import { slotsIn } from './match';
import type { Profile } from './schema';
import { areaOf, slotLabel } from './slots';

/** What a profile makes of one message. */
export interface MessageTrial {
	/** Its number in the dump, from 0. */
	index: number;
	/** The message of the profile that it is; null where it is not read. */
	title: string | null;
	/** Why it is not read, and the first byte that disagrees. */
	why: string | null;
	at: number | null;
	/** The slots of which it holds something, as the panel shows them. */
	slots: { area: string; label: string }[];
	/** Bytes of it that nothing of the profile claims. */
	unclaimed: number;
	/** Whether building it again gives the same bytes. */
	rebuilds: boolean;
}

/** What a profile makes of a dump. */
export interface Trial {
	messages: MessageTrial[];
	/** Slots that are whole, and those of which only a part came. */
	slots: number;
	partial: PartialSlot[];
	/** Bytes of a record, by area, of which no parameter and no text reads a single bit. */
	undescribed: { area: string; bytes: number; of: number }[];
}

/** Tries a profile on messages: what each is read as, what stays unclaimed, and whether it rebuilds. */
export function tryProfile(profile: Profile, messages: readonly Uint8Array[]): Trial {
	const dump = decodeDump(profile, messages);
	const again = encodeDump(profile, dump);
	return {
		messages: dump.messages.map((message, index): MessageTrial => {
			const map = byteMap(profile, messages[index]);
			return {
				index,
				title: message.read ? message.match.title : null,
				why: message.read ? null : message.why.says,
				at: message.read ? null : message.why.at,
				slots: message.read
					? slotsIn(message.match).map(({ area, slot }) => ({
							area,
							label: slotLabel(areaOf(profile, area).labels, slot)
						}))
					: [],
				unclaimed: map.total - map.claimed,
				rebuilds: sameBytes(again[index], messages[index])
			};
		}),
		slots: dump.slots.length,
		partial: dump.partial,
		undescribed: profile.areas.map(({ id, record }) => {
			const own = profile.records[record];
			const texts = bitsOfTexts(own.size, textFields(own));
			const bytes = claimedBits(own).filter((mask, i) => (mask | texts[i]) === 0).length;
			return { area: id, bytes, of: own.size };
		})
	};
}
