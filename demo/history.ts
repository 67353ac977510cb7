import { factoryState, seededRandom } from '../src/lib/core/bench';
import { messagesFor, makeSlot } from '../src/lib/core/profile';
import { joinBytes } from '../src/lib/core/midi';
import { putUnit } from '../src/lib/server/bench';
import type { Studio } from '../src/lib/server/db/connection';
import { storeFile } from '../src/lib/server/files';
import { addDevice, factsOfModel, plugDevice, updateDevice, getDevice } from '../src/lib/server/gear';
import { deviceSchema } from '../src/lib/core/gear';
import { Performer } from './performer';
import { DEMO_DEVICES, SPARE_UNITS } from './studio';
import { noteDemoSettings, showBank, takeSnapshot } from './keeping';
import { beginBattery, makeCare } from './care';
import { makeFloor } from './floor';
import { makeMaps } from './maps';
import { makePairings } from './pairings';
import { makePower } from './power';
import { makeSet } from './set';
import { wireStudio } from './wiring';

const DAY_MS = 86_400_000;
const HISTORY_DAYS = 243;
const SEED = 20;

/** One entry of the diary: what was done on a day (0 is today, negative is past) at an hour. */
interface Entry {
	day: number;
	hour: number;
	act(): Promise<unknown>;
}

/** Fills an empty studio with the planetarium's gear and eight months of its drawers, ending at `end`. */
export async function makeHistory(studio: Studio, end: Date): Promise<void> {
	const clockAt = (day: number, hour: number) => {
		const at = new Date(end.getTime() + day * DAY_MS);
		at.setHours(hour, (Math.abs(day) * 17) % 60, 0, 0);
		studio.now = () => (at > end ? end : at);
	};
	clockAt(-HISTORY_DAYS, 18);
	await catalogue(studio, end);
	await wireStudio(studio);
	await makeMaps(studio);
	await makeFloor(studio);
	await makePower(studio);
	await makePairings(studio);
	await makeCare(studio, end);
	const performer = await Performer.prepare(studio, SEED);
	const diary = [
		...beginning(studio, performer, end),
		...weeks(performer),
		...firmwareAccident(studio, performer),
		...premiere(studio, performer),
		...snapshots(studio, performer),
		...pedals(studio, performer),
		...lastDays(studio, performer)
	];
	for (const { day, hour, act } of diary.sort((a, b) => a.day - b.day || a.hour - b.hour)) {
		clockAt(day, hour);
		await act();
	}
	await performer.leave();
	await makeSet(studio);
	studio.now = () => new Date();
}

/** Everything is backed up for the first time, and an old file turns up. */
function beginning(studio: Studio, performer: Performer, end: Date): Entry[] {
	return [
		...['Orrery', 'Parallax west', 'Parallax east', 'Umbra hall', 'Nadir drums'].map((name) => ({
			day: -HISTORY_DAYS,
			hour: 20,
			act: () => performer.back(name, { title: 'First backup', note: 'The day the catalogue was made.' })
		})),
		{ day: -HISTORY_DAYS, hour: 21, act: () => oldFile(studio, performer, end) }
	];
}

/** Work on “The Slow Eclipse” goes on week by week. */
function weeks(performer: Performer): Entry[] {
	const work = async (week: number) => {
		await performer.play('Orrery', 3, week % 2);
		await performer.back('Orrery', week === 7 ? { title: 'Slow Eclipse, mix' } : {});
		if (week % 2 === 0) {
			await performer.play('Umbra hall', 2);
			await performer.back('Umbra hall');
		}
		if (week % 3 === 0) {
			await performer.play('Parallax east', 2, 1);
			await performer.back('Parallax east');
		}
		if (week % 4 === 2 && week < 19) {
			await performer.play('Nadir drums', 2);
			await performer.back('Nadir drums');
		}
		if (week === 9) await performer.back('Parallax west');
	};
	return Array.from({ length: 26 }, (_, week) => ({ day: -235 + 9 * week, hour: 20, act: () => work(week) }));
}

/** Twice everything that answers is taken in one go; the drum machine needs a key pressed, and nobody was there. */
function snapshots(studio: Studio, performer: Performer): Entry[] {
	return [
		{ day: -60, hour: 10, act: () => noteDemoSettings(studio, performer, 0) },
		{ day: -52, hour: 14, act: () => takeSnapshot(studio, performer, 'Première of “The Slow Eclipse”') },
		{ day: -34, hour: 16, act: () => noteDemoSettings(studio, performer, 1) },
		{ day: -33, hour: 21, act: () => takeSnapshot(studio, performer, 'Before the autumn shows') },
		{ day: -30, hour: 18, act: () => showBank(studio, performer) }
	];
}

/** The last days: a drum machine that was worked on since, and a dump that broke off. */
function lastDays(studio: Studio, performer: Performer): Entry[] {
	return [
		{ day: -3, hour: 19, act: () => beginBattery(studio) },
		{ day: -12, hour: 20, act: () => performer.play('Nadir drums', 4, 2) },
		{
			day: -6,
			hour: 20,
			act: async () => {
				await performer.play('Orrery', 2);
				await performer.back('Orrery', { title: 'Before the school shows' });
				await performer.back('Umbra hall');
				await performer.back('Parallax west');
			}
		},
		{
			day: -2,
			hour: 22,
			act: async () => {
				await performer.play('Parallax east', 3);
				await performer.back('Parallax east', {
					faults: [{ kind: 'unplug', way: 'from device', times: 1, afterBytes: 1900, forMs: 600_000 }],
					title: 'Late, tired'
				});
			}
		}
	];
}

async function catalogue(studio: Studio, end: Date): Promise<void> {
	for (const [i, { unit, ...device }] of DEMO_DEVICES.entries()) {
		const facts = deviceSchema.parse({
			...(device.profileId ? factsOfModel(studio, device.profileId, device.name) : {}),
			...device
		});
		if (device.name === 'Orrery')
			facts.batteryFitted = new Date(end.getTime() - 7.3 * 365.25 * DAY_MS).toISOString().slice(0, 10);
		const added = await addDevice(studio, facts);
		if (!unit || !device.profileId) continue;
		const put = await putUnit(
			studio,
			device.profileId,
			device.name,
			SEED * 100 + i,
			unit,
			`unit-${String(i + 1).padStart(2, '0')}`
		);
		await plugDevice(studio, added.id, put.id);
	}
	for (const [i, { name, profileId, settings }] of SPARE_UNITS.entries())
		await putUnit(studio, profileId, name, SEED * 200 + i, settings, `unit-spare-${i + 1}`);
}

/** A file from the years before the catalogue, found on an old disk. */
async function oldFile(studio: Studio, performer: Performer, end: Date): Promise<void> {
	const device = performer.device('Orrery');
	const { profile } = performer.station('Orrery').unit;
	const old = factoryState(profile, seededRandom(3));
	const slots = old.memory.programs.map((bytes, index) => makeSlot(profile, 'programs', index, bytes));
	await storeFile(studio, {
		bytes: joinBytes(messagesFor(profile, slots, { deviceId: 0 })),
		name: 'orrery_final2_REAL.syx',
		deviceId: device.id,
		takenAt: new Date(end.getTime() - 3.1 * 365.25 * DAY_MS).toISOString(),
		note: 'From the old laptop.'
	});
}

/** An update that wiped the memory, and the way back. */
function firmwareAccident(studio: Studio, performer: Performer): Entry[] {
	let before = '';
	return [
		{
			day: -88,
			hour: 14,
			act: async () => {
				await performer.play('Parallax west', 3, 1);
				const { transfer } = await performer.back('Parallax west', {
					kind: 'before update',
					title: 'Before firmware 1.06',
					tags: ['update'],
					pinned: true
				});
				before = transfer.versionId!;
			}
		},
		{
			day: -88,
			hour: 16,
			act: async () => {
				const { unit } = performer.station('Parallax west');
				unit.state.memory = factoryState(unit.profile, seededRandom(77)).memory;
				unit.state.firmware = [1, 6];
				await performer.back('Parallax west', {
					title: 'After the update: all sounds gone',
					tags: ['update'],
					note: 'The update started twice by itself and came up with factory sounds.'
				});
			}
		},
		{
			day: -88,
			hour: 17,
			act: async () => {
				await performer.bring('Parallax west', before, { title: 'Everything back after 1.06' });
				const device = await getDevice(studio, performer.device('Parallax west').id);
				await updateDevice(studio, device.id, {
					...deviceSchema.parse(device),
					notes: 'Firmware 1.06 wiped the memory once. Back up first, always.'
				});
			}
		}
	];
}

/** The show's programs in their order, at the front of the bank. */
function premiere(studio: Studio, performer: Performer): Entry[] {
	let bank = '';
	return [
		{
			day: -52,
			hour: 11,
			act: async () => {
				const { unit } = performer.station('Orrery');
				for (const [to, from] of [
					[0, 21],
					[1, 40],
					[2, 33],
					[3, 9],
					[4, 57]
				] as const)
					unit.swap('programs', to, from);
				unit.rename('programs', 0, 'First Light');
				unit.rename('programs', 1, 'Slow Eclipse');
				unit.rename('programs', 4, 'Corona Pad');
				const { transfer } = await performer.back('Orrery', {
					title: 'Première bank',
					tags: ['show', 'Slow Eclipse'],
					pinned: true,
					note: 'Song order. Do not touch before the last show.'
				});
				bank = transfer.versionId!;
			}
		},
		{
			day: -50,
			hour: 23,
			act: async () => {
				await performer.play('Orrery', 6, 2);
				await performer.back('Orrery', { title: 'After the première party' });
			}
		},
		{ day: -49, hour: 10, act: () => performer.bring('Orrery', bank, { title: 'Première bank again' }) }
	];
}

/** A set of delay presets that lives in a file, since the pedal cannot be read. */
function pedals(studio: Studio, performer: Performer): Entry[] {
	let set = '';
	return [
		{
			day: -40,
			hour: 18,
			act: async () => {
				const { unit } = performer.station('Lantern delay');
				const made = factoryState(unit.profile, seededRandom(41));
				const slots = made.memory.presets.map((bytes, index) =>
					makeSlot(unit.profile, 'presets', index, bytes)
				);
				const bytes = joinBytes(messagesFor(unit.profile, slots, { deviceId: 0 }));
				({ id: set } = await storeFile(studio, {
					bytes,
					name: 'lantern-dome-set.syx',
					deviceId: performer.device('Lantern delay').id
				}));
			}
		},
		{ day: -40, hour: 19, act: () => performer.bring('Lantern delay', set, { title: 'Dome set' }) }
	];
}
