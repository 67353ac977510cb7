import type { Transaction } from 'sequelize';
import { z } from 'zod';
import type { Version } from '../core/drawer';
import { Problem } from '../core/problem';
import { slotKey } from '../core/profile';
import type { Studio } from './db/connection';
import { getVersion, openVersion, type OpenVersion } from './drawer';
import { getDevice } from './gear';
import { neededVersions } from './store/retention';
import { keepRecords } from './store/records';
import { beginRuns, currentRuns, dropMoments } from './store/runs';
import { sealVersion } from './store/seals';
import { updateVersion } from './store/versions';

/** Another drawer for a version, or another day on which the device held it. */
export const moveVersionSchema = z.strictObject({
	deviceId: z.string().optional(),
	takenAt: z.iso.datetime().optional()
});

/** Notes where a file shows sounds that the device was not seen to hold there. */
export async function noteMoments(
	studio: Studio,
	deviceId: string,
	{ version, profile, seen }: Pick<OpenVersion, 'version' | 'profile' | 'seen'>,
	transaction: Transaction
): Promise<void> {
	if (!profile) return;
	const stays = await currentRuns(studio, deviceId, studio.world, transaction);
	const other = seen.filter(
		({ slot, record }) => stays.get(slotKey(slot.area, slot.index))?.record !== record
	);
	await keepRecords(studio, profile.id, other, transaction);
	await beginRuns(
		studio,
		{ deviceId, versionId: version.id, world: version.world, profileId: profile.id, moment: true },
		other,
		transaction
	);
}

/**
 * Moves a version that came from a file to another drawer, or gives it another date. What was read from a device stays
 * with it: what is known of the device rests on it.
 * @throws Problem `version.read-here`, `version.other-model`
 */
export async function moveVersion(
	studio: Studio,
	id: string,
	order: z.infer<typeof moveVersionSchema>
): Promise<Version> {
	const opened = await openVersion(studio, id);
	const { version, profile, seen } = opened;
	if (version.world !== 'file')
		throw new Problem(
			'version.read-here',
			'This version was read from its device at a time that is known.',
			'Only versions that came from files can be moved or dated. Export it, and keep the file elsewhere.'
		);
	const device = await getDevice(studio, order.deviceId ?? version.deviceId);
	if ((device.profileId ?? null) !== (profile?.id ?? null))
		throw new Problem(
			'version.other-model',
			`“${device.name}” is another model than this dump.`,
			'Choose a device of the same model.'
		);
	const takenAt = order.takenAt ? new Date(order.takenAt).toISOString() : version.takenAt;
	await studio.write(async (transaction) => {
		await dropMoments(studio, id, transaction);
		await updateVersion(studio, id, { deviceId: device.id, takenAt }, transaction);
		await sealVersion(studio, id, transaction);
		await noteMoments(
			studio,
			device.id,
			{ ...opened, seen: seen.map((entry) => ({ ...entry, at: takenAt })) },
			transaction
		);
	});
	return getVersion(studio, id);
}

/**
 * Lets a version go: it is no longer shown, and its contents go when old versions are tidied away; until then it can be
 * brought back.
 * @throws Problem `version.needed` with what needs it
 */
export async function letVersionGo(studio: Studio, id: string): Promise<void> {
	const version = await getVersion(studio, id);
	const why = (await neededVersions(studio)).get(id);
	if (why)
		throw new Problem(
			'version.needed',
			`This version is still needed: ${why}.`,
			'It stays until that is no longer so.'
		);
	await studio.write(async (transaction) => {
		await updateVersion(studio, id, { goneAt: studio.now().toISOString() }, transaction);
		// Sounds that only a file showed are no longer found by it; where a device held them stays known.
		if (version.world === 'file') await dropMoments(studio, id, transaction);
	});
}

/** Brings back a version that was let go and is still there. */
export async function bringVersionBack(studio: Studio, id: string): Promise<Version> {
	const opened = await openVersion(studio, id);
	const { version } = opened;
	await studio.write(async (transaction) => {
		await updateVersion(studio, id, { goneAt: null }, transaction);
		if (version.world !== 'file') return;
		await dropMoments(studio, id, transaction);
		await noteMoments(studio, version.deviceId, opened, transaction);
	});
	return getVersion(studio, id);
}
