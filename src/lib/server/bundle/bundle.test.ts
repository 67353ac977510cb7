import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import { strToU8, unzipSync, zipSync } from 'fflate';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { deviceSchema } from '../../core/gear';
import { fromHex } from '../../core/midi';
import { makeBundle } from './make';
import { takeBundle } from './take';
import { importCatalogue } from '../catalogue';
import { copyStudio } from '../copy';
import { openStudio } from '../db/connection';
import { checkStudio } from '../check';
import { getVersion, keepVersion, labelVersion, listVersions, openVersion } from '../drawer';
import { shippedProfile } from '../profiles';
import { readKnowledge } from '../store/knowledge';
import { addDevice, listDevices } from '../gear';
import { anotherStudio, count, freshStudio } from '../studio.fixture';
import { anUmbra, bundleOf, keep, renamed } from '../heart.fixture';

const here = freshStudio();

async function filled() {
	const umbra = await anUmbra(here.studio);
	const first = await keep(here.studio, umbra.device, umbra.profile, umbra.slots);
	await keep(here.studio, umbra.device, umbra.profile, renamed(umbra.profile, umbra.slots, 3, 'Later'));
	await labelVersion(here.studio, first.id, { title: 'First', note: 'Note', tags: ['show'], pinned: true });
	const raw = await addDevice(here.studio, deviceSchema.parse({ name: 'Raw thing / 2' }));
	await keepVersion(here.studio, {
		device: raw,
		profile: null,
		messages: [Uint8Array.of(0xf0, 0x7d, 1, 2, 3, 0xf7)],
		kind: 'imported',
		world: 'file',
		proof: 'none'
	});
	return umbra;
}

const story = async (studio: typeof here.studio) =>
	Promise.all(
		(await listDevices(studio)).map(async ({ id, name }) => ({
			name,
			versions: await Promise.all(
				(await listVersions(studio, id)).map(async (version) => {
					const { messages, takenAt, title, note, tags, pinned, verified, kind, slots } = await getVersion(
						studio,
						version.id
					);
					return { messages, takenAt, title, note, tags, pinned, verified, kind, slots };
				})
			)
		}))
	);

describe('a studio bundle', () => {
	it('gives the same history in another studio, hash for hash, and once more changes nothing', async () => {
		await filled();
		const bytes = await bundleOf(here.studio);
		await anotherStudio(async (other) => {
			expect(await takeBundle(other, bytes)).toEqual({
				devices: 2,
				versions: 3,
				known: 0,
				left: [],
				also: [],
				chosen: 0,
				differ: []
			});
			expect(await story(other)).toEqual(await story(here.studio));
			expect(await takeBundle(other, bytes)).toEqual({
				devices: 0,
				versions: 0,
				known: 3,
				left: [],
				also: [],
				chosen: 0,
				differ: []
			});
		});
	});

	it('holds plain .syx files that any unzip reads', async () => {
		await filled();
		const bytes = await bundleOf(here.studio);
		const folder = mkdtempSync(join(tmpdir(), 'unzip-'));
		try {
			writeFileSync(join(folder, 'b.zip'), bytes);
			try {
				execFileSync('unzip', ['-q', 'b.zip'], { cwd: folder });
			} catch (error) {
				if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
				console.warn('unzip is not installed here: not compared');
				return;
			}
			const files = unzipSync(bytes);
			for (const name of Object.keys(files))
				expect(new Uint8Array(readFileSync(join(folder, name)))).toEqual(files[name]);
			const [file] = readdirSync(join(folder, 'drawers', 'umbra-hall'));
			const syx = readFileSync(join(folder, 'drawers', 'umbra-hall', file));
			expect([syx[0], syx.at(-1)]).toEqual([0xf0, 0xf7]);
		} finally {
			rmSync(folder, { recursive: true, force: true });
		}
	});

	it('is given up when nobody reads it any more, and the studio goes on', async () => {
		await filled();
		const { stream } = await makeBundle(here.studio);
		for await (const _ of stream) break;
		expect(stream.destroyed).toBe(true);
		expect(Object.keys(unzipSync(await bundleOf(here.studio)))).toContain('manifest.json');
	});

	it('is taken over from a file on disk, and a truncated one is refused', async () => {
		await filled();
		const bytes = await bundleOf(here.studio);
		const [whole, short] = ['whole.zip', 'short.zip'].map((name) => join(here.folder, name));
		writeFileSync(whole, bytes);
		writeFileSync(short, bytes.subarray(0, bytes.length - 200));
		await anotherStudio(async (other) => {
			await expect(takeBundle(other, short)).rejects.toMatchObject({ code: 'bundle.invalid' });
			expect(await listDevices(other)).toEqual([]);
			expect(await takeBundle(other, whole)).toMatchObject({ versions: 3 });
		});
	});

	it.each([
		['no archive', () => Uint8Array.of(1, 2, 3), 'no .zip'],
		['no manifest', () => zipSync({ 'a.txt': strToU8('a') }), 'no manifest.json'],
		['a manifest of something else', () => zipSync({ 'manifest.json': strToU8('{"format":"x"}') }), 'format']
	])('with %s is refused', async (_, make, says) => {
		await expect(takeBundle(here.studio, make())).rejects.toThrow(says);
	});

	it('in which one version is damaged is taken over without it, which is named', async () => {
		await filled();
		const files = unzipSync(await bundleOf(here.studio));
		const name = Object.keys(files).find((file) => file.startsWith('drawers/umbra'))!;
		files[name][10] ^= 1;
		await anotherStudio(async (other) => {
			const taken = await takeBundle(other, zipSync(files));
			expect(taken).toMatchObject({ devices: 2, versions: 2, known: 0 });
			expect(taken.left).toMatchObject([
				{
					device: 'Umbra hall',
					says: `“${name}” does not hold what the manifest says of it: it was changed or damaged.`
				}
			]);
			// Once it is whole again, it comes.
			files[name][10] ^= 1;
			expect(await takeBundle(other, zipSync(files))).toEqual({
				devices: 0,
				versions: 1,
				known: 2,
				left: [],
				also: [],
				chosen: 0,
				differ: []
			});
			expect(new Set(JSON.stringify(await story(other)))).toEqual(
				new Set(JSON.stringify(await story(here.studio)))
			);
		});
	});

	it('in which ids are there twice takes each once, and names a version that is of another device here', async () => {
		const { device, profile, slots } = await filled();
		const files = unzipSync(await bundleOf(here.studio));
		const manifest = JSON.parse(new TextDecoder().decode(files['manifest.json'])) as {
			devices: { id: string }[];
		};
		const twice = { ...manifest, devices: [...manifest.devices, ...manifest.devices] };
		const bundle = zipSync({ ...files, 'manifest.json': strToU8(JSON.stringify(twice)) });
		await anotherStudio(async (other) => {
			expect(await takeBundle(other, bundle)).toMatchObject({ devices: 2, versions: 3, known: 3, left: [] });
		});
		const [version] = await listVersions(here.studio, device.id);
		await anotherStudio(async (other) => {
			const else_ = await addDevice(other, deviceSchema.parse({ name: 'Else', profileId: profile.id }));
			await keep(other, else_, profile, slots, { id: version.id });
			const { left, versions } = await takeBundle(other, bundle);
			expect(versions).toBe(2);
			expect(left.length).toBeGreaterThan(0);
			expect(left[0]).toMatchObject({
				device: 'Umbra hall',
				says: expect.stringContaining('of another device')
			});
			expect((await checkStudio(other)).damage).toEqual([]);
		});
	});

	it('carries values that a panel told as they were', async () => {
		const profile = shippedProfile('corrie-sallow');
		const device = await addDevice(
			here.studio,
			deviceSchema.parse({ name: 'Sallow', profileId: profile.id })
		);
		const told = ['b00740', 'b063016202060126', 'c005'].map((hex) => fromHex(hex));
		const { id } = await keepVersion(here.studio, {
			device,
			profile: null,
			messages: told,
			kind: 'routine',
			world: 'hardware',
			proof: 'none'
		});
		const bundle = await bundleOf(here.studio);
		await anotherStudio(async (other) => {
			expect(await takeBundle(other, bundle)).toMatchObject({
				versions: 1,
				left: [],
				also: [],
				chosen: 0,
				differ: []
			});
			expect((await openVersion(other, id)).messages).toEqual(told);
		});
	});

	/** What is known of every slot: content and when it was seen. */
	const known = async (studio: typeof here.studio, deviceId: string) => {
		const { slots } = await readKnowledge(studio, deviceId, 'hardware');
		return [...slots]
			.map(([key, { seen, proved }]) => [key, seen?.record, seen?.at, seen?.versionId, proved?.at])
			.sort();
	};

	it('brings two studios that grew apart together, whichever is taken first', async () => {
		await fc.assert(
			fc.asyncProperty(
				fc.array(fc.tuple(fc.boolean(), fc.integer({ min: 1, max: 60 }), fc.nat(40)), {
					minLength: 2,
					maxLength: 5
				}),
				async (readings) => {
					// A laptop on tour and a desktop at home begin as one.
					const studios = await Promise.all(
						[0, 1].map(async (n) => {
							const folder = mkdtempSync(join(tmpdir(), `apart-${n}-`));
							return { folder, studio: await openStudio(join(folder, 'studio.sqlite')) };
						})
					);
					try {
						const [one, two] = studios.map(({ studio }) => studio);
						const { device, profile, slots } = await anUmbra(one);
						await keep(one, device, profile, slots, { takenAt: '2026-01-01T00:00:00.000Z' });
						await takeBundle(two, await bundleOf(one));
						for (const [away, day, slot] of readings)
							await keep(
								away ? one : two,
								device,
								profile,
								renamed(profile, slots, slot, `Day ${day}`),
								// No two at the same moment.
								{ takenAt: new Date(Date.UTC(2026, 1, day, 0, slot, readings.length)).toISOString() }
							);
						const [first, second] = [await bundleOf(one), await bundleOf(two)];
						await takeBundle(one, second);
						await takeBundle(two, first);
						const latest = await known(one, device.id);
						expect(await known(two, device.id)).toEqual(latest);
						for (const order of [
							[first, second],
							[second, first]
						])
							await anotherStudio(async (third) => {
								for (const bundle of order) await takeBundle(third, bundle);
								expect(await known(third, device.id)).toEqual(latest);
								const ids = async (studio: typeof third) =>
									(await listVersions(studio, device.id)).map(({ id }) => id).sort();
								expect(await ids(third)).toEqual(await ids(one));
								expect((await checkStudio(third)).damage).toEqual([]);
							});
					} finally {
						for (const { studio, folder } of studios) {
							await studio.close();
							rmSync(folder, { recursive: true, force: true });
						}
					}
				}
			),
			{ numRuns: 6 }
		);
	});
});

describe('a copy of the studio', () => {
	it('is a studio', async () => {
		await filled();
		const bytes = await buffer((await copyStudio(here.studio)).stream);
		const folder = mkdtempSync(join(tmpdir(), 'copy-'));
		writeFileSync(join(folder, 'copy.sqlite'), bytes);
		const copy = await openStudio(join(folder, 'copy.sqlite'));
		expect(await story(copy)).toEqual(await story(here.studio));
		await copy.close();
		rmSync(folder, { recursive: true, force: true });
	});
});

describe('whatever goes wrong in the middle of an import', () => {
	/** Everything that is stored, but when. */
	const rows = async (studio: typeof here.studio) =>
		Promise.all(
			['devices', 'versions', 'objects', 'records', 'profiles', 'slot_runs'].map((table) =>
				count(studio, table)
			)
		);

	it.each([
		['versions', 2],
		['devices', 1],
		['slot_runs', 20]
	])(
		'of a bundle (storing in %s after %i rows fails): nothing of it is here, and the next try takes all',
		async (table, after) => {
			await filled();
			const bundle = await bundleOf(here.studio);
			await anotherStudio(async (studio) => {
				const before = await rows(studio);
				const sql = (text: string) => studio.sequelize.query(text);
				await sql(
					`CREATE TRIGGER broken BEFORE INSERT ON ${table} WHEN (SELECT COUNT(*) FROM ${table}) >= ${after}
				 BEGIN SELECT RAISE(ABORT, 'SQLITE_FULL'); END`
				);
				await expect(takeBundle(studio, bundle)).rejects.toThrow();
				expect(await rows(studio)).toEqual(before);
				await sql('DROP TRIGGER broken');
				expect(await takeBundle(studio, bundle)).toMatchObject({ devices: 2, versions: 3, known: 0 });
				expect(await story(studio)).toEqual(await story(here.studio));
				expect(await takeBundle(studio, bundle)).toEqual({
					devices: 0,
					versions: 0,
					known: 3,
					left: [],
					also: [],
					chosen: 0,
					differ: []
				});
			});
		}
	);

	it('of a table of devices: none is added', async () => {
		const csv = 'Name\nOne\nTwo\nThree\n';
		await here.studio.sequelize.query(
			`CREATE TRIGGER broken BEFORE INSERT ON devices WHEN NEW.name = 'Three' BEGIN SELECT RAISE(ABORT, 'SQLITE_FULL'); END`
		);
		await expect(importCatalogue(here.studio, csv, [2, 3, 4])).rejects.toThrow();
		expect(await listDevices(here.studio)).toEqual([]);
		await here.studio.sequelize.query('DROP TRIGGER broken');
		expect(await importCatalogue(here.studio, csv, [2, 3, 4])).toBe(3);
	});
});
