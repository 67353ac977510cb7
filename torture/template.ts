import { cpSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import { factoryState, seededRandom } from '../src/lib/core/bench';
import { deviceSchema } from '../src/lib/core/gear';
import { joinBytes } from '../src/lib/core/midi';
import { areaOf, makeSlot, messagesFor, writeName, type Slot } from '../src/lib/core/profile';
import { makeBundle } from '../src/lib/server/bundle/make';
import { openStudio, type Studio } from '../src/lib/server/db/connection';
import { exportVersion } from '../src/lib/server/exports';
import { keepVersion, listVersions } from '../src/lib/server/drawer';
import { addDevice, listDevices } from '../src/lib/server/gear';
import { loadProfiles, shippedProfile } from '../src/lib/server/profiles';
import { oldStudio } from './old-studio';

/** A studio to be hurt, and what is imported into it. */
export interface Template {
	folder: string;
	/** The studio, closed: one file. */
	file: string;
	/** A studio of the first version of the app. */
	old: string;
	/** The bundle of another studio, on disk. */
	bundle: string;
}

const MODELS = ['ternhill-umbra', 'tarnow-parallax', 'vellbrook-orrery'];

/** Fills a studio: each model's history over some months, one sound changed each time. */
async function fill(studio: Studio, versions: number, seed: number): Promise<void> {
	for (const [i, id] of MODELS.entries()) {
		const profile = shippedProfile(id);
		const device = await addDevice(
			studio,
			deviceSchema.parse({ name: `${profile.model} ${seed}`, profileId: id, deviceId: 1 })
		);
		const { memory } = factoryState(profile, seededRandom(seed + i));
		let slots: Slot[] = profile.areas
			.filter(({ id: area }) => profile.capture.some((way) => way.area === area))
			.flatMap(({ id: area }) => memory[area].map((bytes, index) => makeSlot(profile, area, index, bytes)));
		for (let version = 0; version < versions; version++) {
			await keepVersion(studio, {
				device,
				profile,
				messages: messagesFor(profile, slots, { deviceId: 1, channel: 1 }),
				kind: 'routine',
				world: 'hardware',
				proof: 'checksum',
				takenAt: new Date(Date.UTC(2024, version, 1 + i)).toISOString(),
				label: { title: `Month ${version}` }
			});
			slots = slots.map((slot, index) => {
				const record = profile.records[areaOf(profile, slot.area).record];
				return index === version && record.name
					? makeSlot(
							profile,
							slot.area,
							slot.index,
							writeName(profile, record, slot.bytes, `Take ${version}`)
						)
					: slot;
			});
		}
	}
}

/** Makes a studio of its own in a folder, gives what `work` makes of it, and closes it. */
async function made<T>(file: string, seed: number, work: (studio: Studio) => Promise<T>): Promise<T> {
	mkdirSync(dirname(file));
	return within(file, async (studio) => {
		await fill(studio, 5, seed);
		return work(studio);
	});
}

export async function makeTemplate(): Promise<Template> {
	const folder = mkdtempSync(join(tmpdir(), 'drawer-torture-'));
	const file = join(folder, 'studio', 'studio.sqlite');
	const bundle = join(folder, 'other.zip');
	await made(join(folder, 'other', 'studio.sqlite'), 40, async (other) =>
		writeFileSync(bundle, await buffer((await makeBundle(other)).stream))
	);
	await made(file, 10, () => Promise.resolve());
	return { folder, file, old: await oldStudio(folder), bundle };
}

/** The template's studio in a folder of its own. */
export function freshCopy({ folder, file }: Template, name: string): string {
	const own = join(folder, name);
	rmSync(own, { recursive: true, force: true });
	mkdirSync(own);
	cpSync(file, join(own, 'studio.sqlite'));
	return join(own, 'studio.sqlite');
}

/** Opens a studio, does something, and closes it whatever comes of it. */
export async function within<T>(file: string, work: (studio: Studio) => Promise<T>): Promise<T> {
	const studio = await openStudio(file);
	try {
		await loadProfiles(studio);
		return await work(studio);
	} finally {
		await studio.close();
	}
}

/** How many rows every table of a studio has, in words: two studios of one story say the same. */
export async function tally(studio: Studio): Promise<string> {
	const [tables] = (await studio.sequelize.query(
		`SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%' ORDER BY name`
	)) as unknown as [{ name: string }[]];
	const counts: string[] = [];
	for (const { name } of tables) {
		const [[{ n }]] = (await studio.sequelize.query(`SELECT COUNT(*) AS n FROM "${name}"`)) as unknown as [
			[{ n: number }]
		];
		counts.push(`${name} ${n}`);
	}
	return counts.join(', ');
}

/** Files of every kind that a studio writes: to be read whole, and hurt. */
export const filesOf = (template: Template): Promise<Uint8Array[]> =>
	within(template.file, async (studio) => {
		const files: Uint8Array[] = [];
		for (const device of await listDevices(studio)) {
			const [version] = await listVersions(studio, device.id);
			for (const format of ['syx', 'mid', 'midnam', 'csv'] as const) {
				const { bytes } = await exportVersion(studio, version.id, format);
				files.push(typeof bytes === 'string' ? Buffer.from(bytes) : bytes);
			}
		}
		files.push(new Uint8Array(await buffer((await makeBundle(studio)).stream)));
		files.push(joinBytes(files.slice(0, 2)));
		return files;
	});
