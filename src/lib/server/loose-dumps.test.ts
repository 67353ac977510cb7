import { expect, it, beforeEach } from 'vitest';
import { factoryState, seededRandom } from '../core/bench';
import { finishSchema, stateOf } from '../core/drawer';
import { joinBytes, toHex } from '../core/midi';
import { buildMessage, makeSlot } from '../core/profile';
import { readDumpFile } from '../core/sysex';
import { openVersion } from './drawer';
import { exportVersion } from './exports';
import { inspectFile, storeFile, storeParts } from './files';
import { addDevice, factsOfModel } from './gear';
import { dumpOf, keep, keepDump } from './heart.fixture';
import { settleWorld } from './indexing';
import { shippedProfile } from './profiles';
import { readKnowledge } from './store/knowledge';
import { freshStudio } from './studio.fixture';
import { beginTransfer, finishTransfer, keepSafetyCopy } from './transfers';

const here = freshStudio();
beforeEach(() => settleWorld(here.studio, 'bench'));
const weir = shippedProfile('osier-weir-9');
const setups = factoryState(weir, seededRandom(3)).memory.setups;
const slot = (index: number, of = index) => makeSlot(weir, 'setups', index, setups[of]);
const desk = () => addDevice(here.studio, factsOfModel(here.studio, weir.id, 'Desk'));
/** A dump as it stands in a file that was saved by hand: it says not which setup it is. */
const bare = (of: number) => buildMessage(weir, 'setup', { deviceId: 0 }, setups[of]);
const order = (deviceId: string, ...dumps: Uint8Array[]) => ({
	bytes: joinBytes(dumps),
	name: 'desk.syx',
	deviceId
});

it('a file whose dump names no slot is kept for the one that was said, and goes back there', async () => {
	const { id } = await desk();
	await expect(storeFile(here.studio, order(id, bare(5)))).rejects.toMatchObject({
		code: 'file.no-slot',
		message: 'Message 1 of “desk.syx” is a setup, and does not say which.'
	});
	const version = await storeFile(here.studio, { ...order(id, bare(5)), places: [{ message: 0, slot: 2 }] });
	expect(version.note).toContain('does not say which slot');
	const opened = await openVersion(here.studio, version.id);
	expect(opened.seen.map(({ slot: { label, bytes } }) => [label, bytes])).toEqual([['S03', setups[5]]]);
	const { bytes } = await exportVersion(here.studio, version.id, 'syx');
	expect(toHex(Uint8Array.from(bytes).subarray(0, 7))).toBe('f07d5c002202f7');
});

it('what was read from a desk is exported so that each dump calls its setup up, and comes back the same', async () => {
	const device = await desk();
	const { studio } = here;
	const said = [4, 9].flatMap((index) => [
		buildMessage(weir, 'shown', { deviceId: 0, slot: index }),
		bare(index)
	]);
	const read = await keepDump(studio, device, weir, said);
	const { bytes } = await exportVersion(studio, read.id, 'syx');
	const commands = [0x22, 0x11, 0x22, 0x11];
	const messages = readDumpFile(Uint8Array.from(bytes)).messages.map((message) => message.bytes);
	expect(messages.map((message) => message[4])).toEqual(commands);
	expect(messages.filter((_, i) => i % 2 === 0).map((message) => message[5])).toEqual([4, 9]);
	const again = await storeFile(studio, {
		bytes: Uint8Array.from(bytes),
		name: 'desk.syx',
		deviceId: device.id
	});
	const held = async (id: string) =>
		(await openVersion(studio, id)).seen.map(({ slot: { label, bytes: record } }) => [label, toHex(record)]);
	expect(await held(again.id)).toEqual(await held(read.id));
	// In the drawer itself stands what the desk said, byte for byte.
	expect((await openVersion(studio, read.id)).messages.map((message) => toHex(message))).toEqual(
		said.map((message) => toHex(message))
	);
});

it('is found where the device was last seen to hold exactly that, for each device by itself', async () => {
	const [one, other] = [await desk(), await desk()];
	const { studio } = here;
	await keep(studio, one, weir, [slot(0), slot(4), slot(7, 4)], { world: 'bench' });
	await keep(studio, other, weir, [slot(9, 0)], { world: 'bench' });
	const { loose, slots } = await inspectFile(studio, joinBytes([bare(0), bare(4), bare(6)]), 'desk.syx');
	expect(slots).toEqual([]);
	expect(loose.map(({ message, name, found }) => [message, name, found[one.id], found[other.id]])).toEqual([
		[0, slot(0).name, [0], [9]],
		[1, slot(4).name, [4, 7], []],
		[2, slot(6).name, [], []]
	]);
	expect(loose[0].labels).toHaveLength(16);
	expect(loose[0].slotWord).toBe('setup');
});

it('lies about places are refused: one twice, one beyond the last, one for a dump that has its own', async () => {
	const { id } = await desk();
	const { studio } = here;
	const place = (message: number, at: number) => ({ message, slot: at });
	const [named] = [dumpOf(weir, [slot(3)])];
	await expect(
		storeFile(studio, { ...order(id, bare(1), bare(2)), places: [place(0, 4), place(1, 4)] })
	).rejects.toMatchObject({ code: 'file.slot-twice' });
	await expect(
		storeFile(studio, { ...order(id, ...named, bare(2)), places: [place(2, 3)] })
	).rejects.toMatchObject({ code: 'file.slot-twice' });
	await expect(storeFile(studio, { ...order(id, bare(1)), places: [place(0, 16)] })).rejects.toMatchObject({
		code: 'file.no-slot'
	});
	await expect(storeFile(studio, { ...order(id, ...named), places: [place(0, 1)] })).rejects.toMatchObject({
		code: 'file.slot-named'
	});
	await expect(storeFile(studio, { ...order(id, bare(1)), slot: 'S99' })).rejects.toMatchObject({
		code: 'file.no-slot'
	});
	const kept = await storeFile(studio, { ...order(id, bare(1)), slot: 'S12' });
	expect((await openVersion(studio, kept.id)).seen.map(({ slot: { label } }) => label)).toEqual(['S12']);
});

it('a part of a file that holds several devices’ dumps says that it has to be opened by itself', async () => {
	const { id } = await desk();
	const bytes = joinBytes([bare(1), Uint8Array.of(0xf0, 0x7d, 0x01, 0x02, 0xf7)]);
	const { parts } = await inspectFile(here.studio, bytes, 'two.syx');
	expect(parts[0].fault).toBe('Message 1 does not say which setup it is of: open the file by itself.');
	await expect(
		storeParts(here.studio, [{ bytes, name: 'two.syx', deviceId: id, messages: [0] }])
	).rejects.toMatchObject({ code: 'file.no-slot' });
});

it('what a panel that was moved may have got is not known any more, unless it was read', async () => {
	const device = await desk();
	const { studio } = here;
	await keep(studio, device, weir, [slot(2), slot(8), slot(11)], { world: 'bench' });
	const { id } = await beginTransfer(studio, {
		deviceId: device.id,
		direction: 'restore',
		world: 'bench',
		kind: 'routine',
		title: 'Desk',
		scope: { kind: 'slots', slots: [{ area: 'setups', index: 2 }] },
		source: {
			from: 'sounds',
			sounds: [{ area: 'setups', index: 2, record: (await knownRecord(device.id, 8))! }]
		}
	});
	await keepSafetyCopy(studio, id, {
		messages: dumpOf(weir, [slot(2)]).map((bytes) => toHex(bytes)),
		firmware: null
	});
	await finishTransfer(
		studio,
		id,
		finishSchema.parse({
			status: 'incomplete',
			reason: { code: 'panel moved', says: 'It was moved.', remedy: 'Send again.' },
			readBack: dumpOf(weir, [slot(8)]).map((bytes) => toHex(bytes)),
			touched: [2, 8, 11].map((index) => ({ area: 'setups', index }))
		})
	);
	const knowledge = await readKnowledge(studio, device.id, 'bench');
	const state = (index: number) => stateOf(knowledge, { area: 'setups', index });
	expect([2, 8, 11, 3].map(state)).toEqual(['unknown', 'proved', 'unknown', 'never']);
});

const knownRecord = async (deviceId: string, index: number) =>
	(await readKnowledge(here.studio, deviceId, 'bench')).slots.get(`setups:${index}`)?.seen?.record;
