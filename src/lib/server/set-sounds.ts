import { lastSeen, recordChange, stateOf, type LiveWorld } from '../core/drawer';
import type { Device } from '../core/gear';
import { recallOf, slotLabel, type Profile } from '../core/profile';
import {
	followSound,
	instrumentsOf,
	soundsOf,
	type Followed,
	type FollowedSound,
	type ShowSet,
	type SlotSeen
} from '../core/scene';
import type { Studio } from './db/connection';
import { listDevices } from './gear';
import { profileOrNull } from './profiles';
import { readKnowledge } from './store/knowledge';
import { describeRecords } from './store/records';

/** Slots that a device's program changes select, without their names, and the profile that says how. */
export interface SeenSlots {
	profile: Profile;
	slots: SlotSeen[];
}

/** What is known of the slots that a device's program changes select. */
export async function slotsSeen(studio: Studio, device: Device, world: LiveWorld): Promise<SeenSlots | null> {
	const profile = profileOrNull(studio, device.profileId);
	if (!profile) return null;
	const knowledge = await readKnowledge(studio, device.id, world);
	const refs = profile.areas.flatMap((area) =>
		area.recall ? Array.from({ length: area.slots }, (_, index) => ({ area, index })) : []
	);
	return {
		profile,
		slots: refs.map(({ area, index }) => {
			const sight = lastSeen(knowledge, { area: area.id, index });
			return {
				area: area.id,
				index,
				label: slotLabel(area.labels, index),
				record: sight?.record ?? null,
				name: null,
				state: stateOf(knowledge, { area: area.id, index }),
				select: recallOf(area, index),
				at: sight?.at ?? null
			};
		})
	};
}

const recordsIn = (slots: readonly SlotSeen[]) => slots.flatMap(({ record }) => record ?? []);
const named = (slot: SlotSeen, records: ReadonlyMap<string, { name: string | null }>): SlotSeen => ({
	...slot,
	name: slot.record === null ? null : (records.get(slot.record)?.name ?? null)
});

/** The device of Gear that an instrument of a set is, if any. */
export function deviceOf(devices: readonly Device[], set: ShowSet, instrument: string): Device | undefined {
	const of = set.setup.instruments.find(({ id }) => id === instrument)?.device;
	return devices.find(({ id }) => id === of);
}

/** What is known of the instruments of a set that scenes name sounds of their drawers of, by instrument. */
export type SetSeen = ReadonlyMap<string, SeenSlots>;

export async function seenOfSet(studio: Studio, set: ShowSet): Promise<SetSeen> {
	const devices = await listDevices(studio);
	const seen = new Map<string, SeenSlots>();
	for (const id of instrumentsOf(soundsOf(set).filter(({ sound }) => sound.kept))) {
		const device = deviceOf(devices, set, id);
		const found = device && (await slotsSeen(studio, device, studio.world));
		if (found) seen.set(id, found);
	}
	return seen;
}

/** Where the sounds of a set are now, by what is known of each instrument's drawers. */
export async function followedSounds(studio: Studio, set: ShowSet, seen: SetSeen): Promise<FollowedSound[]> {
	const sounds = soundsOf(set);
	// Only what is no longer where it was has to be compared.
	const records = await describeRecords(studio, [
		...new Set(
			sounds.flatMap(({ instrument, sound: { kept } }) => {
				const slot = seen
					.get(instrument)
					?.slots.find(({ area, index }) => area === kept?.area && index === kept.index);
				return kept && slot?.record && slot.record !== kept.record ? [kept.record, slot.record] : [];
			})
		)
	]);
	const found = sounds.map((sound) => {
		const here = seen.get(sound.instrument);
		const { kept } = sound.sound;
		const likeness = (record: string): 'renamed' | 'edited' | null => {
			const [was, is] = [records.get(kept!.record), records.get(record)];
			if (!here || !was || !is) return null;
			const change = recordChange(here.profile, kept!.area, was.bytes, is.bytes);
			if (!change) return null;
			if (change.parameters.length === 0 && change.otherBytes === 0) return 'renamed';
			// A sound that kept its name is the same one, worked on; another name is another sound.
			return change.name === null ? 'edited' : null;
		};
		return { ...sound, followed: followSound(sound.sound, here?.slots ?? [], likeness) };
	});
	const told = found.flatMap(({ followed }) => [
		...(followed.slot ? [followed.slot] : []),
		...('to' in followed ? followed.to : [])
	]);
	const names = await describeRecords(studio, [...new Set(recordsIn(told))]);
	return found.map(({ followed, ...sound }): FollowedSound => {
		const slot = followed.slot && named(followed.slot, names);
		const to = 'to' in followed ? { to: followed.to.map((each) => named(each, names)) } : {};
		return { ...sound, followed: { ...followed, ...to, slot } as Followed };
	});
}

/** Slots with the names of what they hold. */
export async function withNames(studio: Studio, slots: readonly SlotSeen[]): Promise<SlotSeen[]> {
	const names = await describeRecords(studio, [...new Set(recordsIn(slots))]);
	return slots.map((slot) => named(slot, names));
}
