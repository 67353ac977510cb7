import { describe, expect, it } from 'vitest';
import type { Slot } from '../../core/profile';
import { anUmbra, keep, renamed } from '../heart.fixture';
import { freshStudio } from '../studio.fixture';
import { sightingsByName, soundsByName } from './sightings';

const here = freshStudio();
const at = (day: number) => new Date(Date.UTC(2025, 0, day)).toISOString();

/** A bank in which one slot bears one name after the other, a day each. */
async function named(...names: string[]) {
	const umbra = await anUmbra(here.studio);
	let slots: Slot[] = umbra.slots;
	for (const [i, name] of names.entries()) {
		slots = renamed(umbra.profile, slots, 7, name);
		await keep(here.studio, umbra.device, umbra.profile, slots, { takenAt: at(i + 1) });
	}
	return { ...umbra, slots };
}
const found = async (query: string, limit = 50) =>
	(await sightingsByName(here.studio, query, limit)).map(({ name, current }) => [name, current]);

describe('sounds by their names', () => {
	it('are found by all of some words, in any order and case, what is there now first, then the newest', async () => {
		await named('Zyx Quill', 'Quill Zyx 2', 'Zyx Lamp', 'Quills Zyx');
		expect(await found('quill ZYX')).toEqual([
			['Quills Zyx', true],
			['Quill Zyx 2', false],
			['Zyx Quill', false]
		]);
		expect(await found('zyx', 2)).toEqual([
			['Quills Zyx', true],
			['Zyx Lamp', false]
		]);
		expect(await found('zyx nothing')).toEqual([]);
		expect(await found('   ')).toEqual([]);
	});

	it.each([
		['100%', '100% Wet'],
		['a_b', 'a_b'],
		['back\\slash', 'back\\slash']
	])('“%s” stands for itself alone', async (query, name) => {
		await named('100 Wet', 'axb', 'backslash', name);
		expect(await found(query)).toEqual([[name, true]]);
	});

	it('tell when and where each was there, by which version', async () => {
		const { device } = await named('First', 'Second');
		const [row] = await sightingsByName(here.studio, 'first', 5);
		expect(row).toMatchObject({
			deviceId: device.id,
			deviceName: 'Umbra hall',
			place: 'rack',
			area: 'programs',
			slot: 7,
			world: 'hardware',
			fromAt: at(1),
			toAt: at(2),
			current: false
		});
		expect(row.record).toMatch(/^[0-9a-f]{64}$/);
	});

	it('of one model are told once each, and without a word all of them', async () => {
		const { profile, device, slots } = await named('Once', 'Twice', 'Once');
		const once = await soundsByName(here.studio, profile.id, 'programs', 'once', 10);
		expect(once).toMatchObject([{ name: 'Once', deviceId: device.id, current: true, fromAt: at(3) }]);
		expect(await soundsByName(here.studio, profile.id, 'programs', '', 500)).toHaveLength(slots.length + 1);
		expect(await soundsByName(here.studio, 'another-model', 'programs', '', 500)).toEqual([]);
	});

	it('in a world that is not the studio’s own are not there now', async () => {
		const { profile, device, slots } = await anUmbra(here.studio);
		await keep(here.studio, device, profile, renamed(profile, slots, 3, 'On the bench'), { world: 'bench' });
		expect(await sightingsByName(here.studio, 'on the bench', 5)).toMatchObject([
			{ world: 'bench', current: false }
		]);
	});
});
