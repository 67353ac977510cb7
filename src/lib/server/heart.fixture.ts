import { buffer } from 'node:stream/consumers';
import { factoryState, seededRandom } from '../core/bench';
import { deviceSchema, type Device } from '../core/gear';
import { joinBytes } from '../core/midi';
import { areaOf, makeSlot, messagesFor, writeName, type Profile, type Slot } from '../core/profile';
import type { Version } from '../core/drawer';
import { makeBundle } from './bundle/make';
import type { Studio } from './db/connection';
import { keepVersion, type NewVersion } from './drawer';
import { addDevice } from './gear';
import { shippedProfile } from './profiles';

/** An Umbra in the catalogue whose history is made version by version. */
export async function anUmbra(studio: Studio, name = 'Umbra hall', seed = 5) {
	const profile = shippedProfile('ternhill-umbra');
	const device = await addDevice(
		studio,
		deviceSchema.parse({ name, profileId: profile.id, deviceId: 1, place: 'rack' })
	);
	const slots = factoryState(profile, seededRandom(seed)).memory.programs.map((bytes, i) =>
		makeSlot(profile, 'programs', i, bytes)
	);
	return { profile, device, slots };
}

export const dumpOf = (profile: Profile, slots: readonly Slot[]): Uint8Array[] =>
	messagesFor(profile, slots, { deviceId: 1, channel: 1 });

/** Keeps messages as a verified version that was read from the device. */
export const keepDump = (
	studio: Studio,
	device: Device,
	profile: Profile,
	messages: readonly Uint8Array[],
	more: Partial<NewVersion> = {}
): Promise<Version> =>
	keepVersion(studio, {
		device,
		profile,
		messages,
		kind: 'routine',
		world: 'hardware',
		proof: 'checksum',
		...more
	});

/** The same of slots. */
export const keep = (
	studio: Studio,
	device: Device,
	profile: Profile,
	slots: readonly Slot[],
	more: Partial<NewVersion> = {}
): Promise<Version> => keepDump(studio, device, profile, dumpOf(profile, slots), more);

/** The studio's bundle as one file. */
export const bundleOf = async (studio: Studio): Promise<Uint8Array> =>
	new Uint8Array(await buffer((await makeBundle(studio)).stream));

/** The same bank with another name in one slot. */
export function renamed(profile: Profile, slots: readonly Slot[], index: number, name: string): Slot[] {
	const record = profile.records[areaOf(profile, 'programs').record];
	return slots.map((slot) =>
		slot.index === index
			? makeSlot(profile, 'programs', index, writeName(profile, record, slot.bytes, name))
			: slot
	);
}

export const asFile = (profile: Profile, slots: readonly Slot[]): Uint8Array =>
	joinBytes(dumpOf(profile, slots));
