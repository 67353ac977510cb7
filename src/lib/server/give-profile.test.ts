import { expect, it } from 'vitest';
import { standingOf } from '../core/drawer';
import { deviceSchema } from '../core/gear';
import { keepVersion, listVersions } from './drawer';
import { findSounds } from './find';
import { addDevice } from './gear';
import { saveDevice } from './give-profile';
import { anUmbra, dumpOf, renamed } from './heart.fixture';
import { readableSlots } from './knowing';
import { readKnowledge } from './store/knowledge';
import { freshStudio } from './studio.fixture';

const here = freshStudio();

it('reads what was kept raw as soon as its device has a profile, and what it holds is known then', async () => {
	const { profile, slots } = await anUmbra(here.studio);
	const device = await addDevice(here.studio, deviceSchema.parse({ name: 'Raw hall' }));
	const first = renamed(profile, slots, 4, 'Before');
	const later = renamed(profile, slots, 4, 'Afterwards');
	const keepRaw = (messages: Uint8Array[], takenAt: string, world: 'hardware' | 'file' = 'hardware') =>
		keepVersion(here.studio, {
			device,
			profile: null,
			messages,
			kind: 'routine',
			world,
			proof: 'twice alike',
			takenAt
		});
	await keepRaw(dumpOf(profile, first), '2026-01-01T10:00:00.000Z');
	await keepRaw(dumpOf(profile, later), '2026-02-01T10:00:00.000Z');
	await keepRaw(dumpOf(profile, renamed(profile, slots, 4, 'On Disk')), '2025-01-01T10:00:00.000Z', 'file');
	await keepRaw([Uint8Array.of(0xf0, 0x7d, 1, 2, 0xf7)], '2026-03-01T10:00:00.000Z');
	const bytes = (await listVersions(here.studio, device.id)).map(({ bytes: each }) => each);
	expect((await findSounds(here.studio, 'Afterwards')).found).toEqual([]);

	const { again } = await saveDevice(
		here.studio,
		device.id,
		deviceSchema.parse({ name: 'Raw hall', profileId: profile.id })
	);
	expect(again).toMatchObject({ read: 3, raw: 1 });
	expect(again!.why).toContain('reads 0 of 1');
	expect((await listVersions(here.studio, device.id)).map(({ bytes: each }) => each)).toEqual(bytes);
	const placed = async (name: string) =>
		(await findSounds(here.studio, name)).found
			.filter(({ deviceId }) => deviceId === device.id)
			.map(({ world, toAt, fromAt }) => ({ world, fromAt, over: toAt !== null }));
	expect(await placed('Afterwards')).toEqual([
		{ world: 'hardware', fromAt: '2026-02-01T10:00:00.000Z', over: false }
	]);
	expect(await placed('Before')).toEqual([
		{ world: 'hardware', fromAt: '2026-01-01T10:00:00.000Z', over: true }
	]);
	expect((await placed('On Disk')).map(({ world }) => world)).toEqual(['file']);
	const known = standingOf(await readKnowledge(here.studio, device.id, 'hardware'), readableSlots(profile));
	expect(known.states.proved).toBe(50);
	// A second saving reads nothing again.
	expect(
		(
			await saveDevice(
				here.studio,
				device.id,
				deviceSchema.parse({ name: 'Raw hall, stage left', profileId: profile.id })
			)
		).again
	).toBeNull();
});
