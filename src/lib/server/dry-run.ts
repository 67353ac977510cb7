import { sameBytes } from '../core/midi';
import { slotKey, slotLabel, areaOf, type Profile, type Slot } from '../core/profile';
import { affectedSlots, planRestore, writeMs, type SlotSet } from '../core/transfer';
import type { Device } from '../core/gear';
import type { Studio } from './db/connection';
import { z } from 'zod';
import { getDevice } from './gear';
import { currentProfile } from './profiles';
import { knownSlots, slotsOfSource, sourceSchema } from './wanted';

/** What a restore would do, before anything is sent. */
export interface DryRun {
	messages: number;
	bytes: number;
	/** On the wire, with the device's own pauses; reading before and after comes on top. */
	ms: number;
	/** Slots whose content would change, as far as is known. */
	overwritten: { area: string; index: number; label: string; now: string | null; then: string | null }[];
	/** Slots that are written along unchanged, since the device takes only whole banks. */
	along: number;
	/** Slots that already hold what is wanted. */
	alreadyThere: number;
	/** Slots of which is not known what the device holds. */
	unknown: number;
	/** Areas that the device cannot take in this way. */
	impossible: string[];
}

/** Works out the fewest messages from what the device is known to hold to what is wanted. */
export async function dryRun(
	studio: Studio,
	device: Device,
	profile: Profile,
	wanted: readonly Slot[]
): Promise<DryRun> {
	const known = new Map(
		(await knownSlots(studio, profile, device.id)).map((slot) => [slotKey(slot.area, slot.index), slot])
	);
	const content = new Set(wanted.map((slot) => slotKey(slot.area, slot.index)));
	const differing: SlotSet = new Map();
	const overwritten: DryRun['overwritten'] = [];
	let unknown = 0;
	for (const slot of wanted) {
		const now = known.get(slotKey(slot.area, slot.index));
		if (now && sameBytes(now.bytes, slot.bytes)) continue;
		if (!now) unknown++;
		differing.set(
			slot.area,
			[...(differing.get(slot.area) ?? []), slot.index].sort((a, b) => a - b)
		);
		overwritten.push({
			area: slot.area,
			index: slot.index,
			label: slotLabel(areaOf(profile, slot.area).labels, slot.index),
			now: now?.name ?? null,
			then: slot.name
		});
	}
	const readable = (area: string) => profile.capture.some((way) => way.area === area);
	const { writes, impossible } = planRestore(
		profile,
		differing,
		(area, index) => content.has(slotKey(area, index)) || readable(area)
	);
	const touched = [...affectedSlots(writes)].flatMap(([area, slots]) =>
		slots.map((slot) => slotKey(area, slot))
	);
	return {
		messages: writes.length,
		bytes: writes.reduce((sum, write) => sum + write.bytes, 0),
		ms: writes.reduce((sum, write) => sum + writeMs(write), 0),
		overwritten,
		along: new Set(touched).size - overwritten.length,
		alreadyThere: wanted.length - overwritten.length,
		unknown,
		impossible: impossible.map((area) => areaOf(profile, area).name)
	};
}

export const previewSchema = z.strictObject({ deviceId: z.string(), source: sourceSchema });

/** The dry run of one device by what is wanted of it. */
export async function dryRunOf(
	studio: Studio,
	{ deviceId, source }: z.infer<typeof previewSchema>
): Promise<DryRun & { deviceId: string }> {
	const device = await getDevice(studio, deviceId);
	const profile = currentProfile(studio, device.profileId ?? '');
	return {
		deviceId,
		...(await dryRun(studio, device, profile, await slotsOfSource(studio, device, profile, source)))
	};
}
