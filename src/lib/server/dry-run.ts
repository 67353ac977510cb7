import { z } from 'zod';
import { dryRun, liveWorldSchema, sourceSchema, type DryRun, type LiveWorld } from '../core/drawer';
import type { Device } from '../core/gear';
import type { Conversion, Profile, Slot } from '../core/profile';
import type { Studio } from './db/connection';
import { getDevice } from './gear';
import { unchangedSlots } from './knowing';
import { currentProfile } from './profiles';
import { readKnowledge } from './store/knowledge';
import { slotsOfSource } from './wanted';

export const previewSchema = z.strictObject({
	deviceId: z.string(),
	source: sourceSchema,
	/** The world in which it would be restored; the studio's own, when left out. */
	world: liveWorldSchema.optional()
});

/** The dry run of one device by what is known of it in a world. */
export const dryRunIn = async (
	studio: Studio,
	device: Device,
	profile: Profile,
	world: LiveWorld,
	wanted: readonly Slot[]
): Promise<DryRun> =>
	dryRun(
		profile,
		await unchangedSlots(studio, profile, await readKnowledge(studio, device.id, world)),
		wanted
	);

/** The dry run of one device by what is wanted of it. */
export async function dryRunOf(
	studio: Studio,
	{ deviceId, source, world }: z.infer<typeof previewSchema>
): Promise<DryRun & { deviceId: string; converted: Conversion | null }> {
	const device = await getDevice(studio, deviceId);
	const profile = currentProfile(studio, device.profileId ?? '');
	const { slots: wanted, converted } = await slotsOfSource(
		studio,
		device,
		profile,
		source,
		world ?? studio.world
	);
	return {
		deviceId,
		converted,
		...(await dryRunIn(studio, device, profile, world ?? studio.world, wanted))
	};
}
