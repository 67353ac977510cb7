import { describe, expect, it } from 'vitest';
import { readNameDocument } from '../core/drawer';
import { toHex } from '../core/midi';
import { decodeDump } from '../core/profile';
import { readDumpFile } from '../core/sysex';
import { createBank, getBank, listBanks, removeBank, saveBank } from './banks';
import { dryRunOf } from './dry-run';
import { touchDevice } from './gear';
import { bankFromVersion, importNames, importTable } from './bank-imports';
import { exportBank, exportVersion } from './exports';
import { hashOf } from './hash';
import { freshStudio } from './studio.fixture';
import { anUmbra, keep, renamed } from './heart.fixture';
import { applyMerge, mergeBank } from './merging';
import { abandonTransfer } from './unfinished';
import { beginTransfer, wantedOf } from './transfers';

const here = freshStudio();
const text = (bytes: Uint8Array) => new TextDecoder().decode(bytes);

async function begun() {
	const umbra = await anUmbra(here.studio);
	const version = await keep(here.studio, umbra.device, umbra.profile, umbra.slots);
	const bank = await bankFromVersion(here.studio, version.id, 'programs', 'Première');
	return { ...umbra, version, bank };
}

describe('banks', () => {
	it('are begun from a version, changed, listed and removed; two tabs do not overwrite each other', async () => {
		const { bank, slots, device } = await begun();
		expect(bank.document.entries.map((entry) => entry?.name)).toEqual(slots.map(({ name }) => name));
		const document = { ...bank.document, entries: bank.document.entries.toReversed() };
		const saved = await saveBank(here.studio, bank.id, bank.revision, document);
		expect(saved.revision).toBe(2);
		await expect(saveBank(here.studio, bank.id, 1, document)).rejects.toMatchObject({
			code: 'bank.conflict'
		});
		expect(await listBanks(here.studio, device.id)).toHaveLength(1);
		await removeBank(here.studio, bank.id);
		await expect(getBank(here.studio, bank.id)).rejects.toMatchObject({ code: 'bank.not-found' });
	});

	it('that do not fit the model are refused', async () => {
		const { bank, device } = await begun();
		const short = { ...bank.document, entries: bank.document.entries.slice(1) };
		await expect(createBank(here.studio, device.id, short)).rejects.toMatchObject({ code: 'bank.invalid' });
	});

	it('are sent as what they hold, and the dry run counts the fewest messages', async () => {
		const { bank, device } = await begun();
		const entries = bank.document.entries.with(3, { ...bank.document.entries[8]!, name: 'Opening' });
		await saveBank(here.studio, bank.id, 1, { ...bank.document, entries });
		const source = { from: 'bank' as const, bankId: bank.id };
		const run = await dryRunOf(here.studio, { deviceId: device.id, source });
		expect(run).toMatchObject({ messages: 1, alreadyThere: 49, unknown: 0, along: 0, impossible: [] });
		expect(run.overwritten).toMatchObject([{ index: 3, then: 'Opening' }]);
		const transfer = await beginTransfer(here.studio, {
			world: 'hardware',
			deviceId: device.id,
			direction: 'restore',
			scope: { kind: 'all' },
			source
		});
		const { slots } = await wantedOf(here.studio, transfer.id);
		expect(slots).toHaveLength(50);
		// What was begun stays what it was, even when the bank goes.
		await removeBank(here.studio, bank.id);
		expect((await wantedOf(here.studio, transfer.id)).slots).toEqual(slots);
	});

	it('are not taken to be there already once somebody changed sounds at the panel', async () => {
		const { bank, device } = await begun();
		const preview = { deviceId: device.id, source: { from: 'bank' as const, bankId: bank.id } };
		expect(await dryRunOf(here.studio, preview)).toMatchObject({ alreadyThere: 50, unknown: 0 });
		await touchDevice(here.studio, device.id);
		expect(await dryRunOf(here.studio, preview)).toMatchObject({
			alreadyThere: 0,
			unknown: 50,
			readAt: null
		});
	});

	it('a sound goes to another slot than it came from', async () => {
		const { device, bank, slots } = await begun();
		const { record } = bank.document.entries[7]!;
		const transfer = await beginTransfer(here.studio, {
			world: 'hardware',
			deviceId: device.id,
			direction: 'restore',
			scope: { kind: 'all' },
			source: { from: 'sounds', sounds: [{ area: 'programs', index: 40, record }] }
		});
		expect((await wantedOf(here.studio, transfer.id)).slots).toEqual([
			{ area: 'programs', index: 40, hex: toHex(slots[7].bytes) }
		]);
		await abandonTransfer(here.studio, transfer.id);
		await expect(
			beginTransfer(here.studio, {
				world: 'hardware',
				deviceId: device.id,
				direction: 'restore',
				scope: { kind: 'all' },
				source: { from: 'sounds', sounds: [{ area: 'programs', index: 90, record }] }
			})
		).rejects.toMatchObject({ code: 'restore.no-slot' });
	});
});

describe('files of a bank or a version', () => {
	it('a dump, names and a table, all of the same sounds', async () => {
		const { bank, version, slots, profile } = await begun();
		const dump = readDumpFile((await exportBank(here.studio, bank.id, 'syx')).bytes);
		expect(
			decodeDump(
				profile,
				dump.messages.map(({ bytes }) => bytes)
			).slots.map(({ bytes }) => toHex(bytes))
		).toEqual(slots.map(({ bytes }) => toHex(bytes)));
		const names = readNameDocument(text((await exportVersion(here.studio, version.id, 'midnam')).bytes));
		expect(names.banks[0].patches.map(({ name }) => name)).toEqual(slots.map(({ name }) => name));
		expect(text((await exportBank(here.studio, bank.id, 'csv')).bytes).split('\r\n')).toHaveLength(52);
	});

	it('a table changed in a spreadsheet becomes a bank; faults make none', async () => {
		const { version, slots } = await begun();
		const csv = text((await exportVersion(here.studio, version.id, 'csv')).bytes);
		const changed = csv.replace(slots[0].name!, 'Changed');
		const made = await importTable(here.studio, version.id, 'programs', changed);
		expect(made).toMatchObject({ changed: 1, faults: [] });
		expect(made.bank!.document.entries[0]!.name).toBe('Changed');
		const faulty = await importTable(
			here.studio,
			version.id,
			'programs',
			csv.replace(slots[0].name!, 'Ωmega')
		);
		expect(faulty).toMatchObject({ bank: null, faults: [{ row: 2, column: 'Name' }] });
	});

	it('names of a name document are put on the sounds', async () => {
		const { version, slots } = await begun();
		const xml = text((await exportVersion(here.studio, version.id, 'midnam')).bytes);
		const made = await importNames(
			here.studio,
			version.id,
			'programs',
			xml.replace(`"${slots[1].name}"`, '"Dusk"')
		);
		expect(made.changed).toBe(1);
		expect(made.bank!.document.entries[1]!.name).toBe('Dusk');
	});
});

describe('merging', () => {
	it('a bank that was changed on both sides: one conflict, decided, becomes the new common ground', async () => {
		const { bank, device, profile, slots } = await begun();
		let { entries } = bank.document;
		entries = entries
			.with(2, { ...entries[2]!, name: 'Drawer 2' })
			.with(9, { ...entries[9]!, name: 'Drawer 9' });
		const saved = await saveBank(here.studio, bank.id, 1, { ...bank.document, entries });
		const there = renamed(profile, renamed(profile, slots, 9, 'Device 9'), 4, 'Device 4');
		const newest = await keep(here.studio, device, profile, there);
		const merge = await mergeBank(here.studio, bank.id);
		expect(merge.readAt).toBe(newest.takenAt);
		expect(
			merge.slots.filter(({ state }) => state !== 'same').map(({ index, state }) => [index, state])
		).toEqual([
			[2, 'changed in the drawer'],
			[4, 'changed on the device'],
			[9, 'conflict']
		]);
		await expect(
			applyMerge(here.studio, bank.id, saved.revision, merge.deviceState, [])
		).rejects.toMatchObject({
			code: 'merge.open'
		});
		const merged = await applyMerge(here.studio, bank.id, saved.revision, merge.deviceState, [
			{ index: 9, choice: 'device' }
		]);
		expect([2, 4, 9].map((index) => merged.document.entries[index]!.name)).toEqual([
			'Drawer 2',
			'Device 4',
			'Device 9'
		]);
		expect(merged.base).toEqual(there.map(({ bytes }) => hashOf(bytes)));
		const again = await mergeBank(here.studio, bank.id);
		expect(again.slots.filter(({ state }) => state === 'conflict')).toEqual([]);
	});

	it('needs a common ground', async () => {
		const { bank, device } = await begun();
		const loose = await createBank(here.studio, device.id, bank.document);
		await expect(mergeBank(here.studio, loose.id)).rejects.toMatchObject({ code: 'merge.no-base' });
	});
});
