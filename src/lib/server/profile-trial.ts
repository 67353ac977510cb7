import { sameBytes } from '../core/midi';
import { decodeDump, encodeDump, parseProfile, slotKey, type Profile, type Slot } from '../core/profile';
import type { DrawerTrial, ProfileTrial } from '../core/drawer';
import { Problem } from '../core/problem';
import type { Studio } from './db/connection';
import { listVersions, openVersion, type OpenVersion } from './drawer';
import { listDevices } from './gear';
import { profileOrNull } from './profiles';

/** So many dumps of a device are tried, the newest first. */
const DUMPS = 5;

const keyed = (slots: readonly Slot[]) =>
	new Map(slots.map((slot) => [slotKey(slot.area, slot.index), slot]));

/** What says of a version that it is damaged: _Check_ says how. */
const DAMAGED = ['version.not-whole', 'object.damaged'];

/** A version, or null where it is damaged. */
async function openOrDamaged(studio: Studio, id: string): Promise<OpenVersion | null> {
	try {
		return await openVersion(studio, id);
	} catch (error) {
		if (error instanceof Problem && DAMAGED.includes(error.code)) return null;
		throw error;
	}
}

async function tryOn(
	studio: Studio,
	profile: Profile,
	device: { id: string; name: string },
	isRaw: boolean
): Promise<DrawerTrial[]> {
	const versions = (await listVersions(studio, device.id)).filter(
		({ profileId }) => (profileId === null) === isRaw
	);
	const trials: DrawerTrial[] = [];
	for (const world of new Set(versions.map((version) => version.world))) {
		const trial: DrawerTrial = {
			device,
			world,
			firmware: null,
			damaged: 0,
			dumps: 0,
			messages: 0,
			read: 0,
			readNow: isRaw ? null : 0,
			rebuilt: 0,
			slots: 0,
			slotsNow: 0,
			renamed: 0,
			otherwise: 0
		};
		const own = versions.filter((version) => version.world === world);
		for (const { id, firmware } of own
			.toSorted((a, b) => b.takenAt.localeCompare(a.takenAt))
			.slice(0, DUMPS)) {
			const open = await openOrDamaged(studio, id);
			if (!open) {
				trial.damaged++;
				continue;
			}
			const { messages, slots, profile: before } = open;
			trial.firmware ??= firmware;
			const dump = decodeDump(profile, messages);
			const again = encodeDump(profile, dump);
			trial.dumps++;
			trial.messages += messages.length;
			dump.messages.forEach(({ read }, i) => {
				if (!read) return;
				trial.read++;
				if (sameBytes(again[i], messages[i])) trial.rebuilt++;
			});
			if (before)
				trial.readNow =
					trial.readNow! + decodeDump(before, messages).messages.filter(({ read }) => read).length;
			const fresh = keyed(dump.slots);
			trial.slots += fresh.size;
			trial.slotsNow += slots.length;
			for (const slot of slots) {
				const other = fresh.get(slotKey(slot.area, slot.index));
				if (other && other.name !== slot.name) trial.renamed++;
				if (other && !sameBytes(other.bytes, slot.bytes)) trial.otherwise++;
			}
		}
		trials.push(trial);
	}
	return trials;
}

/**
 * Tries a profile that is not saved yet on the newest dumps of the studio: what it reads of them, what it builds again, and
 * what would be read otherwise than now. Nothing is changed.
 * @throws Problem `profile.invalid` with each faulty part
 */
export async function tryOnStudio(studio: Studio, json: unknown): Promise<ProfileTrial> {
	const profile = parseProfile(json);
	const drawers: DrawerTrial[] = [];
	for (const { id, name, profileId } of await listDevices(studio)) {
		if (profileId !== null && profileId !== profile.id) continue;
		const trials = await tryOn(studio, profile, { id, name }, profileId === null);
		// Of what is kept raw only what it reads concerns it.
		drawers.push(...(profileId === null ? trials.filter(({ read }) => read > 0) : trials));
	}
	const sum = (of: (trial: DrawerTrial) => number) => drawers.reduce((all, trial) => all + of(trial), 0);
	const firmware = [...new Set(drawers.flatMap((trial) => trial.firmware ?? []))].sort();
	return {
		revision: profileOrNull(studio, profile.id)?.revision ?? null,
		drawers,
		report:
			sum(({ dumps }) => dumps) === 0
				? null
				: {
						at: studio.now().toISOString().slice(0, 10),
						firmware,
						bench: drawers.every(({ world }) => world === 'bench'),
						dumps: sum(({ dumps }) => dumps),
						messages: sum(({ messages }) => messages),
						read: sum(({ read }) => read),
						rebuilt: sum(({ rebuilt }) => rebuilt)
					}
	};
}
