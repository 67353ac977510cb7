import { sameBytes } from '../midi';
import { decodeDump, encodeDump, slotKey, type Profile, type ProfileReport, type Slot } from '../profile';
import type { World } from './knowledge';

/** What a profile makes of dumps, beside what they are read as now. */
export interface DumpTrial {
	/** Dumps that were tried, and messages in them. */
	dumps: number;
	messages: number;
	/** Messages that it reads, and that are read now; null where these dumps are kept raw. */
	read: number;
	readNow: number | null;
	/** Messages that it reads and builds again to the same bytes. */
	rebuilt: number;
	/** Slots that it finds, and that are found now. */
	slots: number;
	slotsNow: number;
	/** Slots of both that would have another name, or another content. */
	renamed: number;
	otherwise: number;
}

/** The same of the newest dumps of one drawer. */
export interface DrawerTrial extends DumpTrial {
	device: { id: string; name: string };
	world: World;
	/** Firmware of the newest dump that says one. */
	firmware: string | null;
	/** Dumps that are damaged and could not be tried. */
	damaged: number;
}

/** What saving a profile would change. */
export interface ProfileTrial {
	/** The revision that the studio has of it; null where it has none. */
	revision: number | null;
	/** Drawers of its devices, and those without a profile whose dumps it reads. */
	drawers: DrawerTrial[];
	/** The same in one line, as a report that a profile can hold; null where no dump was tried. */
	report: ProfileReport | null;
}

/** A dump as it is kept, with what it is read as now. */
export interface KeptDump {
	messages: readonly Uint8Array[];
	/** Null where it is kept raw. */
	profile: Profile | null;
	slots: readonly Slot[];
}

/** Tries a profile on a dump. */
export function tryOnDump(profile: Profile, { messages, profile: before, slots }: KeptDump): DumpTrial {
	const dump = decodeDump(profile, messages);
	const again = encodeDump(profile, dump);
	const read = dump.messages.flatMap((message, i) => (message.read ? [i] : []));
	const fresh = new Map(dump.slots.map((slot) => [slotKey(slot.area, slot.index), slot]));
	const both = slots.flatMap((slot) => {
		const other = fresh.get(slotKey(slot.area, slot.index));
		return other ? [{ slot, other }] : [];
	});
	return {
		dumps: 1,
		messages: messages.length,
		read: read.length,
		readNow: before && decodeDump(before, messages).messages.filter((message) => message.read).length,
		rebuilt: read.filter((i) => sameBytes(again[i], messages[i])).length,
		slots: fresh.size,
		slotsNow: slots.length,
		renamed: both.filter(({ slot, other }) => slot.name !== other.name).length,
		otherwise: both.filter(({ slot, other }) => !sameBytes(slot.bytes, other.bytes)).length
	};
}

/** Trials of several dumps in one; `readNow` is null where none is read now. */
export const trialsTogether = (trials: readonly DumpTrial[]): DumpTrial => {
	const sum = (of: (trial: DumpTrial) => number) => trials.reduce((all, trial) => all + of(trial), 0);
	return {
		dumps: sum(({ dumps }) => dumps),
		messages: sum(({ messages }) => messages),
		read: sum(({ read }) => read),
		readNow: trials.some(({ readNow }) => readNow !== null) ? sum(({ readNow }) => readNow ?? 0) : null,
		rebuilt: sum(({ rebuilt }) => rebuilt),
		slots: sum(({ slots }) => slots),
		slotsNow: sum(({ slotsNow }) => slotsNow),
		renamed: sum(({ renamed }) => renamed),
		otherwise: sum(({ otherwise }) => otherwise)
	};
};
