import { describe, expect, it } from 'vitest';
import { bankDocumentSchema, emptyBank } from '../core/drawer';
import { addToBank, createBank, saveBank } from './banks';
import { favourites, findSounds, findTexts } from './find';
import { hashOf } from './hash';
import { anUmbra, keep, renamed } from './heart.fixture';
import { markSound } from './sound-marks';
import { freshStudio } from './studio.fixture';
import { updateVersion } from './store/versions';

const here = freshStudio();

/** An Umbra with one sound that is called by a name of its own. */
async function aHall() {
	const { device, profile, slots } = await anUmbra(here.studio);
	const named = renamed(profile, slots, 7, 'Slow Eclipse');
	const version = await keep(here.studio, device, profile, named);
	return { device, profile, slots: named, version, hash: hashOf(named[7].bytes) };
}

describe('finding', () => {
	it('forgives one slip where nothing is called that, and says so', async () => {
		await aHall();
		expect(await findSounds(here.studio, 'slow eclipse')).toMatchObject({ nearly: false });
		const near = await findSounds(here.studio, 'slow eclpise');
		expect(near.nearly).toBe(true);
		expect(near.found.map(({ name }) => name)).toEqual(['Slow Eclipse']);
		expect(await findSounds(here.studio, 'slwo eclpise')).toMatchObject({ nearly: false, found: [] });
		expect(await findSounds(here.studio, '  ')).toMatchObject({ nearly: false, found: [] });
	});

	it('tells the category that a dump holds, and the one that somebody gave', async () => {
		const { profile, slots, hash } = await aHall();
		const values = profile.records.program.parameters.find(({ id }) => id === 'algorithm')!.values!;
		const [before] = (await findSounds(here.studio, 'slow eclipse')).found;
		expect(before).toMatchObject({
			category: values[slots[7].bytes[12] & 7],
			mark: { favourite: false, category: '' }
		});
		expect(values).toContain(before.category);
		await markSound(here.studio, hash, { favourite: true, category: 'Finale' });
		expect((await findSounds(here.studio, 'slow eclipse')).found[0].mark).toEqual({
			favourite: true,
			category: 'Finale'
		});
		expect((await favourites(here.studio)).found.map(({ name }) => name)).toEqual(['Slow Eclipse']);
		await markSound(here.studio, hash, { favourite: false, category: '' });
		expect((await favourites(here.studio)).found).toEqual([]);
		await expect(
			markSound(here.studio, 'f'.repeat(64), { favourite: true, category: '' })
		).rejects.toMatchObject({ code: 'sound.not-found' });
	});

	it('looks through titles, notes and tags of versions, and through banks and their songs', async () => {
		const { device, profile, version, hash } = await aHall();
		await here.studio.write((transaction) =>
			updateVersion(
				here.studio,
				version.id,
				{ title: 'Première', note: 'After the rain', tags: ['dome'] },
				transaction
			)
		);
		const bank = await createBank(here.studio, device.id, emptyBank(profile, 'programs', 'Comets'));
		const entries = bank.document.entries.with(3, {
			record: hash,
			name: 'Slow Eclipse',
			from: '',
			song: 'Perihelion'
		});
		await saveBank(
			here.studio,
			bank.id,
			bank.revision,
			bankDocumentSchema.parse({ ...bank.document, entries })
		);
		const titles = async (query: string) => (await findTexts(here.studio, query)).map(({ title }) => title);
		expect(await titles('premiere')).toEqual(['Umbra hall: Première']);
		expect(await titles('dome rain')).toEqual(['Umbra hall: Première']);
		expect(await titles('comets')).toEqual(['Bank: Comets']);
		expect((await findTexts(here.studio, 'perihelion'))[0].says).toBe('4 Slow Eclipse for “Perihelion”');
		expect(await titles('')).toEqual([]);
		expect(await titles('dome comets')).toEqual([]);
	});
});

describe('a sound for a bank', () => {
	it('goes into the first free slot, and nothing is overwritten', async () => {
		const { device, profile, slots, hash } = await aHall();
		const bank = await createBank(here.studio, device.id, emptyBank(profile, 'programs', 'Comets'));
		const other = hashOf(slots[2].bytes);
		const sounds = [
			{ record: hash, from: 'Umbra hall 8' },
			{ record: other, from: '' }
		];
		const added = await addToBank(here.studio, bank.id, { sounds });
		expect(added.labels).toEqual(['1', '2']);
		expect(added.bank.document.entries.slice(0, 3).map((entry) => entry?.record)).toEqual([
			hash,
			other,
			undefined
		]);
		expect(added.bank.document.entries[0]).toMatchObject({ name: 'Slow Eclipse', from: 'Umbra hall 8' });
		// Its undo brings back what was before.
		const undone = await saveBank(here.studio, bank.id, added.bank.revision, added.before);
		expect(undone.document).toEqual(bank.document);
	});

	it('is refused where the bank is full, or for another model; then nothing changed', async () => {
		const { device, profile, hash } = await aHall();
		const full = await createBank(here.studio, device.id, {
			...emptyBank(profile, 'programs', 'Full'),
			entries: Array.from({ length: 50 }, (_, i) =>
				i === 49 ? null : { record: hash, name: 'Slow Eclipse', from: '', song: '' }
			)
		});
		const sounds = [1, 2].map(() => ({ record: hash, from: '' }));
		await expect(addToBank(here.studio, full.id, { sounds })).rejects.toMatchObject({ code: 'bank.full' });
		await expect(
			addToBank(here.studio, full.id, { sounds: [{ record: 'f'.repeat(64), from: '' }] })
		).rejects.toMatchObject({ code: 'sound.not-found' });
		const one = await addToBank(here.studio, full.id, { sounds: sounds.slice(1) });
		expect(one.bank.revision).toBe(full.revision + 1);
		expect(one.labels).toEqual(['50']);
	});
});
