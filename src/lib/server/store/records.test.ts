import { describe, expect, it } from 'vitest';
import { seededRandom, tweak } from '../../core/bench';
import { makeSlot, type Slot } from '../../core/profile';
import { hashOf } from '../hash';
import { anUmbra } from '../heart.fixture';
import { count, freshStudio } from '../studio.fixture';
import { countRecords, damagedRecords, getRecord, getRecords, keepRecords, recordsOf } from './records';
import { all, run } from './sql';

const here = freshStudio();
const sounds = (slots: readonly Slot[]) => slots.map((slot) => ({ slot, record: hashOf(slot.bytes) }));
const keepAll = (profileId: string, slots: readonly Slot[]) =>
	here.studio.write((transaction) => keepRecords(here.studio, profileId, sounds(slots), transaction));

/** One slot through many edits, each kept over what was in it before. */
async function edits(times: number) {
	const { profile, slots } = await anUmbra(here.studio);
	const random = seededRandom(3);
	let [slot] = slots;
	let like: number | undefined;
	const kept: Slot[] = [];
	for (let i = 0; i < times; i++) {
		await here.studio.write((transaction) =>
			keepRecords(here.studio, profile.id, [{ slot, record: hashOf(slot.bytes), like }], transaction)
		);
		kept.push(slot);
		const [{ id }] = await all<{ id: number }>(here.studio, 'SELECT MAX(id) AS id FROM records');
		like = id;
		// An edit may come back to what there was: the next one, then.
		while (kept.some(({ bytes }) => hashOf(bytes) === hashOf(slot.bytes)))
			slot = makeSlot(profile, 'programs', 0, tweak(profile, 'programs', slot.bytes, random));
	}
	return { profile, kept };
}

describe('sounds by themselves', () => {
	it('are read as they were kept, however many times one was edited, in fifteen steps at most', async () => {
		const { profile, kept } = await edits(70);
		const read = await getRecords(
			here.studio,
			kept.map(({ bytes }) => hashOf(bytes))
		);
		for (const { bytes } of kept) expect([...read.get(hashOf(bytes))!]).toEqual([...bytes]);
		const [{ steps, whole }] = await all<{ steps: number; whole: number }>(
			here.studio,
			`WITH RECURSIVE up(at, steps) AS (
				SELECT id, 0 FROM records UNION ALL
				SELECT k.base, u.steps + 1 FROM up u JOIN records k ON k.id = u.at WHERE k.base IS NOT NULL)
			 SELECT MAX(steps) AS steps, (SELECT COUNT(*) FROM records WHERE base IS NULL) AS whole FROM up`
		);
		expect(steps).toBe(15);
		expect(whole).toBeLessThan(10);
		expect(await countRecords(here.studio)).toEqual([{ profileId: profile.id, area: 'programs', n: 70 }]);
	});

	it('are kept once, also when told twice in one go, and each model has its own', async () => {
		const { profile, slots } = await anUmbra(here.studio);
		await keepAll(profile.id, [slots[0], slots[0], slots[1]]);
		await keepAll(profile.id, [slots[1], slots[2]]);
		expect(await count(here.studio, 'records')).toBe(3);
		await keepAll('another-model', [slots[0]]);
		expect(await count(here.studio, 'records')).toBe(4);
		const found: string[] = [];
		for await (const part of recordsOf(here.studio, profile.id, 'programs'))
			found.push(...part.map(({ name }) => name!));
		expect(found.sort()).toEqual([slots[0], slots[1], slots[2]].map(({ name }) => name!).sort());
	});

	it('are described by hash, and what is not kept is left out', async () => {
		const { profile, slots } = await anUmbra(here.studio);
		await keepAll(profile.id, slots.slice(0, 2));
		expect(await getRecord(here.studio, hashOf(slots[1].bytes))).toEqual({
			profileId: profile.id,
			area: 'programs',
			hash: hashOf(slots[1].bytes),
			name: slots[1].name,
			bytes: slots[1].bytes
		});
		const unknown = hashOf(slots[9].bytes);
		expect(await getRecord(here.studio, unknown)).toBeUndefined();
		expect([...(await getRecords(here.studio, [unknown, hashOf(slots[0].bytes)])).keys()]).toEqual([
			hashOf(slots[0].bytes)
		]);
	});

	it('damaged in the middle of a row are named, with all that build on them, and are whole when kept again', async () => {
		const { profile, kept } = await edits(12);
		await run(here.studio, 'UPDATE records SET data = ? WHERE id = 6', [Uint8Array.of(1, 1, 0x55)]);
		const named: string[] = [];
		let checked = 0;
		for await (const part of damagedRecords(here.studio)) {
			checked += part.checked;
			named.push(...part.damaged.map(({ hash }) => hash));
		}
		expect(checked).toBe(12);
		expect(named).toEqual(kept.slice(5).map(({ bytes }) => hashOf(bytes)));
		for (const { bytes } of kept.slice(5))
			await expect(getRecords(here.studio, [hashOf(bytes)])).rejects.toMatchObject({
				code: 'record.damaged'
			});
		expect((await getRecords(here.studio, [hashOf(kept[4].bytes)])).size).toBe(1);
		await keepAll(profile.id, [kept[5]]);
		const read = await getRecords(
			here.studio,
			kept.map(({ bytes }) => hashOf(bytes))
		);
		expect(read.size).toBe(12);
	});

	it('that an older app had not kept by themselves count as not kept, until they are', async () => {
		const { profile, slots } = await anUmbra(here.studio);
		await keepAll(profile.id, slots.slice(0, 3));
		await run(here.studio, 'UPDATE records SET data = NULL WHERE id = 2');
		expect(await getRecord(here.studio, hashOf(slots[1].bytes))).toBeUndefined();
		expect((await countRecords(here.studio))[0].n).toBe(2);
		await keepAll(profile.id, slots.slice(0, 3));
		expect((await getRecord(here.studio, hashOf(slots[1].bytes)))!.name).toBe(slots[1].name);
		expect(await count(here.studio, 'records')).toBe(3);
	});
});
