import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { joinBytes, sameBytes, toHex } from '../core/midi';
import { writeName, writeParameter } from '../core/profile';
import { checkStudio } from './check';
import { openStudio } from './db/connection';
import { compareVersions, getVersion, keepVersion, labelVersion, listVersions, openVersion } from './drawer';
import { exportVersion } from './exports';
import { findSounds } from './find';
import { inspectFile, storeFile } from './files';
import { keepDump } from './heart.fixture';
import { anOrrery, count, freshStudio } from './studio.fixture';
import { today } from './today';

const here = freshStudio();

describe('versions', () => {
	it('come back byte for byte, and equal content is stored once', async () => {
		const { device, profile, dump } = await anOrrery(here.studio);
		const keep = () => keepDump(here.studio, device, profile, dump());
		const [a, b] = [await keep(), await keep()];
		expect(a.messages).toEqual(b.messages);
		expect(await count(here.studio, 'objects')).toBe(2);
		expect((await openVersion(here.studio, b.id)).messages.map((bytes) => toHex(bytes))).toEqual(
			dump().map((bytes) => toHex(bytes))
		);
		expect([a.changed, b.changed]).toEqual([65, 0]);
	});

	it('that differ a little are kept as differences, and read back whole', async () => {
		const { device, profile, memory, dump } = await anOrrery(here.studio);
		const parameter = profile.records.program.parameters[10];
		const programs = [...memory.programs];
		const kept: { id: string; messages: Uint8Array[] }[] = [];
		for (let i = 0; i < 12; i++) {
			programs[i] = writeParameter(parameter, programs[i], parameter.range[i % 2]);
			const messages = dump(programs);
			kept.push({
				id: (await keepDump(here.studio, device, profile, messages)).id,
				messages
			});
		}
		const [rows] = await here.studio.sequelize.query(
			'SELECT base, size, length(data) AS kept FROM objects WHERE size > 1000'
		);
		const big = rows as { base: number | null; size: number; kept: number }[];
		const differences = big.filter(({ base }) => base !== null);
		expect(differences.length).toBeGreaterThanOrEqual(10);
		expect(differences.every(({ size, kept: bytes }) => bytes < size / 100)).toBe(true);
		for (const { id, messages } of kept)
			expect(
				(await openVersion(here.studio, id)).messages.every((bytes, i) => sameBytes(bytes, messages[i]))
			).toBe(true);
	});

	it('are compared slot by slot, and labels never touch the content', async () => {
		const { device, profile, memory, dump } = await anOrrery(here.studio);
		const first = await keepDump(here.studio, device, profile, dump());
		const programs = [...memory.programs];
		programs[3] = writeName(profile, profile.records.program, programs[3], 'Renamed');
		const second = await keepDump(here.studio, device, profile, dump(programs));
		const result = await compareVersions(here.studio, first.id, second.id);
		expect(
			result.by === 'slots' &&
				result.comparison.slots
					.filter(({ state }) => state !== 'same')
					.map(({ label, state }) => `${label} ${state}`)
		).toEqual(['14 renamed']);
		await labelVersion(here.studio, second.id, { title: 'New', note: '', tags: ['x'], pinned: true });
		expect(await getVersion(here.studio, second.id)).toMatchObject({
			title: 'New',
			tags: ['x'],
			pinned: true,
			messages: second.messages
		});
		expect((await listVersions(here.studio, device.id)).map(({ id }) => id)).toEqual([second.id, first.id]);
	});

	it('are whole or not there: a failure in the middle leaves nothing', async () => {
		const { device, profile, dump } = await anOrrery(here.studio);
		await expect(
			keepVersion(here.studio, {
				device: { ...device, id: 'nobody' },
				profile,
				messages: dump(),
				kind: 'routine',
				world: 'hardware',
				proof: 'checksum'
			})
		).rejects.toThrow();
		expect(await count(here.studio, 'versions')).toBe(0);
		expect(await count(here.studio, 'objects')).toBe(0);
	});
});

describe('finding a sound', () => {
	it('tells where it is and where it was', async () => {
		const { device, profile, memory, dump } = await anOrrery(here.studio);
		const name = (text: string) => writeName(profile, profile.records.program, memory.programs[0], text);
		const keep = (programs: Uint8Array[]) => keepDump(here.studio, device, profile, dump(programs));
		const rest = memory.programs.slice(1);
		await keep([name('Night Ferry'), ...rest]);
		await keep([name('Day Ferry'), ...rest]);
		const { found } = await findSounds(here.studio, 'FERRY');
		expect(found.map((sound) => [sound.name, sound.current, sound.label])).toEqual([
			['Day Ferry', true, '11'],
			['Night Ferry', false, '11']
		]);
		expect(found[1].toAt).not.toBeNull();
		expect((await findSounds(here.studio, '100%_')).found).toEqual([]);
		expect((await findSounds(here.studio, '  ')).found).toEqual([]);
	});

	it('an imported file never counts as what the device holds', async () => {
		const { device, dump } = await anOrrery(here.studio);
		await storeFile(here.studio, {
			bytes: joinBytes(dump()),
			name: 'old.syx',
			deviceId: device.id,
			takenAt: '2019-01-01T00:00:00.000Z'
		});
		const [row] = await today(here.studio);
		expect(row).toMatchObject({ versions: 1, lastVerifiedAt: null, state: 'attention' });
		expect(row.risk.parts[0].id).toBe('unproved');
	});
});

describe('files', () => {
	it('exports .syx and .mid that inspect as the same slots', async () => {
		const { device, profile, dump } = await anOrrery(here.studio);
		const { id } = await keepDump(here.studio, device, profile, dump());
		const syx = await exportVersion(here.studio, id, 'syx');
		expect(sameBytes(syx.bytes, joinBytes(dump()))).toBe(true);
		const mid = await exportVersion(here.studio, id, 'mid');
		const seen = await inspectFile(here.studio, mid.bytes, mid.name);
		expect(seen).toMatchObject({
			kind: 'mid',
			recognised: { profileId: profile.id, read: 2, damaged: 0, firstDamaged: [], deviceIds: [0] }
		});
		expect(seen.slots).toHaveLength(65);
		const again = await storeFile(here.studio, { bytes: mid.bytes, name: mid.name, deviceId: device.id });
		expect(again.messages).toEqual((await getVersion(here.studio, id)).messages);
	});
});

describe('check', () => {
	it('is clean, and names the versions of every damaged object', async () => {
		const { device, profile, dump } = await anOrrery(here.studio);
		const version = await keepDump(here.studio, device, profile, dump());
		expect(await checkStudio(here.studio)).toMatchObject({ objects: 2, versions: 1, damage: [] });
		await here.studio.sequelize.query(
			`UPDATE objects SET data = zeroblob(length(data)) WHERE hash = unhex('${version.messages[0]}')`
		);
		const { damage } = await checkStudio(here.studio);
		expect(damage).toHaveLength(1);
		expect(damage[0]).toMatchObject({ versionId: version.id, device: 'Orrery' });
		await expect(openVersion(here.studio, version.id)).rejects.toMatchObject({ code: 'object.damaged' });
		await here.studio.sequelize.query('DELETE FROM version_messages WHERE position = 0');
		expect((await checkStudio(here.studio)).damage.map(({ says }) => says)).toContain('a message is missing');
	});
});

it('a file that is no studio is refused, not overwritten', async () => {
	const file = join(here.folder, 'other.sqlite');
	writeFileSync(file, 'this is a letter, not a database, and long enough to look like something');
	await expect(openStudio(file)).rejects.toThrow(/does not begin as a studio does/);
});
