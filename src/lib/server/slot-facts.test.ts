import { expect, it } from 'vitest';
import { touchDevice } from './gear';
import { anUmbra, keep, renamed } from './heart.fixture';
import { saveProfile } from './profiles';
import { slotFacts } from './slot-facts';
import { freshStudio } from './studio.fixture';

const here = freshStudio();

it('tells how a slot is selected by the newest revision, whichever one read its version', async () => {
	const { device, profile, slots } = await anUmbra(here.studio);
	const [programs] = profile.areas;
	const silent = { ...profile, areas: [{ ...programs, recall: undefined }] };
	const before = await saveProfile(here.studio, silent);
	const version = await keep(here.studio, device, before, slots);
	expect((await slotFacts(here.studio, version.id, 'programs:4')).recall).toBeNull();
	await saveProfile(here.studio, {
		...profile,
		areas: [{ ...programs, recall: [{ from: 0, program: 1, lsb: 2 }] }]
	});
	const facts = await slotFacts(here.studio, version.id, 'programs:4');
	expect(facts.recall).toEqual({ msb: null, lsb: 2, program: 5 });
	expect(facts.editBuffer).toBe(false);
});

it('says what is known of the slot in each world, and never more', async () => {
	const { device, profile, slots } = await anUmbra(here.studio);
	const first = await keep(here.studio, device, profile, slots, { takenAt: '2020-01-01T00:00:00.000Z' });
	const now = async () => (await slotFacts(here.studio, first.id, 'programs:4')).now;
	expect(await now()).toEqual({
		bench: { state: 'never', same: null, name: null, at: null },
		hardware: { state: 'proved', same: true, name: slots[4].name, at: '2020-01-01T00:00:00.000Z' }
	});
	await keep(here.studio, device, profile, renamed(profile, slots, 4, 'Another'), {
		takenAt: '2020-02-01T00:00:00.000Z'
	});
	expect((await now()).hardware).toMatchObject({ state: 'proved', same: false, name: 'Another' });
	// Somebody changes sounds at the panel of what the studio's own world holds.
	await touchDevice(here.studio, device.id);
	expect((await now())[here.studio.world as 'bench' | 'hardware'].state).toBe(
		here.studio.world === 'hardware' ? 'changed' : 'never'
	);
	await expect(slotFacts(here.studio, first.id, 'programs:50')).rejects.toMatchObject({
		code: 'slot.not-found'
	});
});
