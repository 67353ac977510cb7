import { existsSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { checkStudio } from './check';
import { openStudio } from './db/connection';
import { anUmbra, keep, renamed } from './heart.fixture';
import { repairStudio } from './repair';
import { readKnowledge } from './store/knowledge';
import { currentRuns } from './store/runs';
import { all, run } from './store/sql';
import { count, freshStudio } from './studio.fixture';
import { noteTouched, noteWriting } from './knowing';

const here = freshStudio();

async function history() {
	const umbra = await anUmbra(here.studio);
	const { device, profile, slots } = umbra;
	await keep(here.studio, device, profile, slots);
	await keep(here.studio, device, profile, renamed(profile, slots, 3, 'Later'));
	const wiped = slots.map((slot) => ({ ...slot, bytes: slot.bytes.map(() => 0) }));
	await keep(here.studio, device, profile, wiped, { questioned: true });
	await keep(here.studio, device, profile, renamed(profile, slots, 9, 'Old file'), {
		world: 'file',
		kind: 'imported',
		proof: 'none'
	});
	await here.studio.write(async (transaction) => {
		await noteTouched(here.studio, device.id, 'hardware', transaction);
		await noteWriting(
			here.studio,
			device.id,
			'hardware',
			{ kind: 'sent', at: '2026-03-01T00:00:00.000Z', by: 't', slots: [{ area: 'programs', index: 5 }] },
			transaction
		);
	});
	return umbra;
}

/** Every stay, whatever its number: slot, content, since when, until when. */
const stays = async () =>
	(
		await all<object>(
			here.studio,
			`SELECT r.area, r.slot, r.label, r.world, hex(k.hash) AS hash, r.version, r.fromAt, r.toAt, r.current
			 FROM slot_runs r JOIN records k ON k.id = r.record`
		)
	)
		.map((row) => JSON.stringify(row))
		.sort();

describe('stays that say something else than the versions', () => {
	it.each([
		['are gone', 'DELETE FROM slot_runs'],
		[
			'name another sound',
			'UPDATE slot_runs SET record = (SELECT MIN(record) FROM slot_runs) WHERE slot = 3'
		],
		['are of another slot', 'UPDATE slot_runs SET slot = slot + 1 WHERE slot = 3 AND current = 1'],
		['last no more', 'UPDATE slot_runs SET current = 0 WHERE slot = 7'],
		['began at what is no time', 'UPDATE slot_runs SET fromAt = 9e15 WHERE slot = 7 AND current = 1']
	])(
		'%s: the check names the device, and they are rebuilt from the messages, with a copy first',
		async (_, sql) => {
			const { device } = await history();
			const [before, known] = [await stays(), await readKnowledge(here.studio, device.id, 'hardware')];
			expect(await repairStudio(here.studio)).toBeNull();
			await run(here.studio, sql);
			expect(await stays()).not.toEqual(before);
			const report = await checkStudio(here.studio);
			expect(report.stays).toEqual([{ id: device.id, name: 'Umbra hall' }]);
			expect(report.damage).toMatchObject([{ device: 'Umbra hall' }]);
			const repaired = await repairStudio(here.studio);
			expect(repaired).toMatchObject({ devices: [{ device: 'Umbra hall', versions: 4, left: 0 }] });
			expect(await stays()).toEqual(before);
			expect(await readKnowledge(here.studio, device.id, 'hardware')).toEqual(known);
			expect((await checkStudio(here.studio)).damage).toEqual([]);
			// The copy is of the studio as it was.
			expect(existsSync(repaired!.copy)).toBe(true);
			const copy = await openStudio(repaired!.copy);
			expect((await checkStudio(copy)).stays).toHaveLength(1);
			await copy.close();
		}
	);

	it('a damaged version is left out of it, and everything else is rebuilt', async () => {
		const { device } = await history();
		await run(here.studio, 'DELETE FROM slot_runs');
		await run(
			here.studio,
			"UPDATE versions SET bytes = bytes + 1 WHERE kind = (SELECT id FROM words WHERE text = 'imported')"
		);
		expect(await repairStudio(here.studio)).toMatchObject({ devices: [{ versions: 3, left: 1 }] });
		expect((await currentRuns(here.studio, device.id, 'hardware')).size).toBe(50);
		expect((await checkStudio(here.studio)).stays).toEqual([]);
	});

	it('where the copy cannot be made, nothing is rebuilt', async () => {
		await history();
		await run(here.studio, 'DELETE FROM slot_runs');
		const { file } = here.studio;
		Object.assign(here.studio, { file: `${file}.not-there/x` });
		await expect(repairStudio(here.studio)).rejects.toThrow();
		Object.assign(here.studio, { file });
		expect(await count(here.studio, 'slot_runs')).toBe(0);
	});
});
