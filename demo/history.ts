import { factoryState, seededRandom } from '../src/lib/core/bench';
import { messagesFor, makeSlot } from '../src/lib/core/profile';
import { joinBytes } from '../src/lib/core/midi';
import { putUnit } from '../src/lib/server/bench';
import type { Studio } from '../src/lib/server/db/connection';
import { storeFile } from '../src/lib/server/files';
import { addDevice, factsFromProfile, plugDevice, updateDevice, getDevice } from '../src/lib/server/gear';
import { deviceSchema } from '../src/lib/core/gear';
import { Performer } from './performer';
import { DEMO_DEVICES, SPARE_UNITS } from './studio';

const DAY_MS = 86_400_000;
const HISTORY_DAYS = 243;
const SEED = 20;

/** Fills an empty studio with the planetarium's gear and eight months of its drawers, ending at `end`. */
export async function makeHistory(studio: Studio, end: Date): Promise<void> {
	const onDay = (day: number, hour = 20) => {
		const at = new Date(end.getTime() + day * DAY_MS);
		at.setHours(hour, (Math.abs(day) * 17) % 60, 0, 0);
		studio.now = () => (at > end ? end : at);
	};
	onDay(-HISTORY_DAYS);
	await catalogue(studio, end);
	const performer = await Performer.prepare(studio, SEED);

	// Spring: everything is backed up for the first time.
	for (const name of ['Orrery', 'Parallax west', 'Parallax east', 'Umbra hall', 'Nadir drums']) await performer.back(name, { title: 'First backup', note: 'The day the catalogue was made.' });
	await oldFile(studio, performer, end);

	// Work on “The Slow Eclipse” goes on week by week.
	for (let day = -235; day < -6; day += 9) {
		onDay(day);
		await performer.play('Orrery', 3, day % 2 === 0 ? 1 : 0);
		await performer.back('Orrery', day === -172 ? { title: 'Slow Eclipse, mix' } : {});
		if (day % 2 === 0) {
			await performer.play('Umbra hall', 2);
			await performer.back('Umbra hall');
		}
		if (day % 3 === 0 && day !== -150) {
			await performer.play('Parallax east', 2, 1);
			await performer.back('Parallax east');
		}
		if (day % 4 === 0 && day < -70) {
			await performer.play('Nadir drums', 2);
			await performer.back('Nadir drums');
		}
		if (day === -100) await performer.back('Parallax west');
	}

	await firmwareAccident(studio, performer, onDay);
	await premiere(studio, performer, onDay);
	await pedals(studio, performer, onDay);

	// The last days: a drum machine that was worked on since, and a dump that broke off.
	onDay(-12);
	await performer.play('Nadir drums', 4, 2);
	onDay(-6);
	await performer.play('Orrery', 2);
	await performer.back('Orrery', { title: 'Before the school shows' });
	await performer.back('Umbra hall');
	await performer.back('Parallax west');
	onDay(-2, 22);
	await performer.play('Parallax east', 3);
	await performer.back('Parallax east', { faults: [{ kind: 'unplug', way: 'from device', times: 1, afterBytes: 1900, forMs: 600_000 }], title: 'Late, tired' });
	await performer.leave();
	studio.now = () => new Date();
}

async function catalogue(studio: Studio, end: Date): Promise<void> {
	for (const [i, { unit, ...device }] of DEMO_DEVICES.entries()) {
		const facts = deviceSchema.parse({ ...(device.profileId ? factsFromProfile(device.profileId, device.name) : {}), ...device });
		if (device.name === 'Orrery') facts.batteryFitted = new Date(end.getTime() - 7.3 * 365.25 * DAY_MS).toISOString().slice(0, 10);
		const added = await addDevice(studio, facts);
		if (!unit || !device.profileId) continue;
		const put = await putUnit(studio, device.profileId, device.name, SEED * 100 + i, unit, `unit-${String(i + 1).padStart(2, '0')}`);
		await plugDevice(studio, added.id, put.id);
	}
	for (const [i, { name, profileId, settings }] of SPARE_UNITS.entries()) await putUnit(studio, profileId, name, SEED * 200 + i, settings, `unit-spare-${i + 1}`);
}

/** A file from the years before the catalogue, found on an old disk. */
async function oldFile(studio: Studio, performer: Performer, end: Date): Promise<void> {
	const device = performer.device('Orrery');
	const { profile } = performer.station('Orrery').unit;
	const old = factoryState(profile, seededRandom(3));
	const slots = old.memory.programs.map((bytes, index) => makeSlot(profile, 'programs', index, bytes));
	await storeFile(studio, {
		bytes: joinBytes(messagesFor(profile, slots, { deviceId: 0 })), name: 'orrery_final2_REAL.syx', deviceId: device.id,
		takenAt: new Date(end.getTime() - 3.1 * 365.25 * DAY_MS).toISOString(), note: 'From the old laptop.'
	});
}

/** An update that wiped the memory, and the way back. */
async function firmwareAccident(studio: Studio, performer: Performer, onDay: (day: number, hour?: number) => void): Promise<void> {
	onDay(-88, 15);
	await performer.play('Parallax west', 3, 1);
	const before = await performer.back('Parallax west', { kind: 'before update', title: 'Before firmware 1.06', tags: ['update'], pinned: true });
	onDay(-88, 16);
	const { unit } = performer.station('Parallax west');
	const wiped = factoryState(unit.profile, seededRandom(77));
	unit.state.memory = wiped.memory;
	unit.state.firmware = [1, 6];
	await performer.back('Parallax west', { title: 'After the update: all sounds gone', tags: ['update'], note: 'The update started twice by itself and came up with factory sounds.' });
	onDay(-88, 17);
	await performer.bring('Parallax west', before.transfer.versionId!, { title: 'Everything back after 1.06' });
	const device = await getDevice(studio, performer.device('Parallax west').id);
	await updateDevice(studio, device.id, { ...deviceSchema.parse(device), notes: `Firmware 1.06 wiped the memory once. Back up first, always.` });
}

/** The show's programs in their order, at the front of the bank. */
async function premiere(studio: Studio, performer: Performer, onDay: (day: number, hour?: number) => void): Promise<void> {
	onDay(-52, 11);
	const { unit } = performer.station('Orrery');
	for (const [to, from] of [[0, 21], [1, 40], [2, 33], [3, 9], [4, 57]] as const) unit.swap('programs', to, from);
	unit.rename('programs', 0, 'First Light');
	unit.rename('programs', 1, 'Slow Eclipse');
	unit.rename('programs', 4, 'Corona Pad');
	await performer.back('Orrery', { title: 'Première bank', tags: ['show', 'Slow Eclipse'], pinned: true, note: 'Song order. Do not touch before the last show.' });
	onDay(-50, 23);
	await performer.play('Orrery', 6, 2);
	await performer.back('Orrery', { title: 'After the première party' });
	onDay(-49, 10);
	const versions = await studio.models.versions.findOne({ where: { title: 'Première bank' }, raw: true });
	const id = (versions as unknown as { id: string }).id;
	await performer.bring('Orrery', id, { title: 'Première bank again' });
}

/** A set of delay presets that lives in a file, since the pedal cannot be read. */
async function pedals(studio: Studio, performer: Performer, onDay: (day: number, hour?: number) => void): Promise<void> {
	onDay(-40, 18);
	const device = performer.device('Lantern delay');
	const { unit } = performer.station('Lantern delay');
	const made = factoryState(unit.profile, seededRandom(41));
	const slots = made.memory.presets.map((bytes, index) => makeSlot(unit.profile, 'presets', index, bytes));
	const version = await storeFile(studio, { bytes: joinBytes(messagesFor(unit.profile, slots, { deviceId: 0 })), name: 'lantern-dome-set.syx', deviceId: device.id });
	onDay(-40, 19);
	await performer.bring('Lantern delay', version.id, { title: 'Dome set' });
}
