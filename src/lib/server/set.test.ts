import { describe, expect, it } from 'vitest';
import { setSchema, soundIn, type ShowSet } from '../core/scene';
import { anUmbra, keep, renamed } from './heart.fixture';
import { editSet, getSet, moveSet, setDocument, soundsToChoose, takeSet } from './set';
import { forgetPlayed, forgetPlayedSchema, noteSent, sentSchema } from './set-held';
import { layOutLoad } from './set-loads';
import { paperRow } from './store/papers';
import { freshStudio } from './studio.fixture';
import { beginTransfer } from './transfers';
import { slotsOfSource } from './wanted';

const here = freshStudio();
const made = (device: string | null, more: object = {}): ShowSet =>
	setSchema.parse({
		setup: {
			players: [{ id: 'keys', name: 'Keys' }],
			instruments: [{ id: 'm', name: 'Module', device }],
			zones: [{ id: 'z', name: 'Lead', player: 'keys', to: [{ instrument: 'm', channel: 1 }] }]
		},
		...more
	});
const take = (document: ShowSet) => takeSet(here.studio, { revision: 0, document });
const sent = async (more: object) => {
	const order = sentSchema.parse({ world: 'bench', messages: [], ...more });
	await noteSent(here.studio, await setDocument(here.studio), order);
};

describe('the set', () => {
	it('is edited in steps that are undone, and refuses what is none', async () => {
		await take(made(null));
		const edited = await editSet(here.studio, {
			revision: 1,
			says: 'Octave up',
			edits: [{ path: ['setup', 'zones', 0, 'octaves'], value: 1 }]
		});
		expect(edited.document.setup.zones[0].octaves).toBe(1);
		const back = await moveSet(here.studio, { move: 'undo', step: edited.steps.undo!.id });
		expect(back.document.setup.zones[0].octaves).toBe(0);
		await expect(
			editSet(here.studio, {
				revision: 3,
				says: 'No',
				edits: [{ path: ['setup', 'zones', 0, 'octaves'], value: 99 }]
			})
		).rejects.toMatchObject({ code: 'set.invalid' });
		expect(edited.findings.map(({ rule }) => rule)).toContain('no sound');
	});
});

describe('what instruments hold', () => {
	const message = (bytes: string) => ({ instrument: 'm', channel: 1, bytes });
	const part = async () => (await getSet(here.studio)).held.bench.held.parts['["m",1]'];

	it('is what they were sent, in that world alone, until somebody says that it is not known', async () => {
		await take(made(null));
		await sent({ messages: [message('b00001'), message('c005'), message('b00764')] });
		expect(await part()).toEqual({
			msb: 1,
			lsb: null,
			selected: { msb: 1, lsb: null, program: 5 },
			volume: 100
		});
		expect((await getSet(here.studio)).held.hardware).toEqual({
			held: { parts: {}, local: {}, pages: {}, tempo: null },
			at: null
		});
		// What it says itself is believed before what it was sent.
		await sent({ says: [{ instrument: 'm', channel: 1, selected: { msb: null, lsb: null, program: 9 } }] });
		expect((await part()).selected).toMatchObject({ program: 9 });
		await sent({ forget: ['m'] });
		expect(await part()).toBeUndefined();
	});

	it('is kept of what the set has, and of nothing else, however often it is told', async () => {
		await take(made(null, { pages: [{ controller: 'Faders', page: 'Drums' }] }));
		await sent({
			messages: [message('c005'), { ...message('c006'), instrument: 'another' }],
			local: { keys: false, nobody: true },
			pages: { Faders: 'Drums', Elsewhere: 'Bass' },
			says: [{ instrument: 'a third', channel: 1, selected: { msb: null, lsb: null, program: 9 } }]
		});
		const { held } = (await getSet(here.studio)).held.bench;
		expect(Object.keys(held.parts)).toEqual(['["m",1]']);
		expect([held.local, held.pages]).toEqual([{ keys: false }, { Faders: 'Drums' }]);
		const row = await paperRow(here.studio, 'held-bench');
		expect(JSON.stringify(row!.document)).not.toMatch(/another|a third|nobody|Elsewhere/);
	});

	it.each(['c6', 'b007', 'c0ff', 'f07d', '4000'])(
		'“%s” is no whole message, and nothing of it is noted',
		async (bytes) => {
			await take(made(null));
			await sent({ messages: [message('c005')] });
			await expect(async () => sent({ messages: [message(bytes)] })).rejects.toThrow('One whole message');
			expect((await part()).selected).toEqual({ msb: null, lsb: null, program: 5 });
		}
	);

	it('is not known any more once a transfer wrote to its device, in that world', async () => {
		const { studio } = here;
		const { device, profile, slots } = await anUmbra(studio);
		const version = await keep(studio, device, profile, slots);
		await take(made(device.id));
		await sent({ messages: [message('c005')] });
		expect(await part()).toBeDefined();
		const restore = (world: 'bench' | 'hardware') =>
			beginTransfer(studio, {
				deviceId: device.id,
				direction: 'restore',
				scope: { kind: 'all' },
				world,
				sourceVersionId: version.id
			});
		await restore('hardware');
		expect(await part()).toBeDefined();
		await restore('bench');
		expect(await part()).toBeUndefined();
		// What is sent while it is being written to counts for nothing either.
		await sent({ messages: [message('c005')] });
		expect(await part()).toBeUndefined();
	});
});

describe('what else is sent', () => {
	it('makes an instrument unknown, by its device or its bench unit, and no other', async () => {
		const { studio } = here;
		const { device } = await anUmbra(studio);
		const message = { instrument: 'm', channel: 1, bytes: 'c005' };
		const known = async (world: 'bench' | 'hardware') =>
			Object.keys((await getSet(studio)).held[world].held.parts).length > 0;
		const forget = async (more: object) =>
			forgetPlayed(studio, await setDocument(studio), forgetPlayedSchema.parse({ world: 'bench', ...more }));
		await take(made(device.id));
		for (const world of ['bench', 'hardware']) await sent({ world, messages: [message] });
		await forget({ devices: ['another'], units: ['another'] });
		expect(await known('bench')).toBe(true);
		await forget({ devices: [device.id] });
		expect([await known('bench'), await known('hardware')]).toEqual([false, true]);
		await sent({ messages: [message] });
		await forget({ units: [device.benchUnit ?? 'none'], all: device.benchUnit === null });
		expect(await known('bench')).toBe(false);
	});
});

describe('sounds of a set', () => {
	it('are followed through the drawers of their instrument, and mended by what is there', async () => {
		const { studio } = here;
		const { device, profile, slots } = await anUmbra(studio);
		let month = 1;
		const hold = (held: typeof slots) =>
			keep(studio, device, profile, held, { takenAt: `2020-0${month++}-01T00:00:00.000Z` });
		const exchanged = (a: number, b: number) =>
			slots.map((slot) =>
				slot.index === a || slot.index === b
					? { ...slot, bytes: slots.find(({ index }) => index === (slot.index === a ? b : a))!.bytes }
					: slot
			);
		await take(made(device.id));
		expect((await soundsToChoose(studio, 'm')).every(({ record }) => record === null)).toBe(true);
		await hold(slots);
		const choices = await soundsToChoose(studio, 'm');
		const sound = soundIn(choices[4])!;
		expect(sound).toMatchObject({ from: 'drawer', kept: { area: choices[4].area, index: 4 } });
		await takeSet(studio, {
			revision: 1,
			document: made(device.id, { parts: [{ instrument: 'm', channel: 1, sound }] })
		});
		const followed = async () => (await getSet(studio)).sounds[0].followed;
		expect(await followed()).toMatchObject({ is: 'there' });
		await hold(exchanged(4, 9));
		expect(await followed()).toMatchObject({ is: 'moved', to: [{ index: 9 }] });
		await hold(renamed(profile, slots, 4, 'Another'));
		expect(await followed()).toMatchObject({ is: 'renamed' });
		await hold(slots.map((slot) => (slot.index === 4 ? { ...slot, bytes: slots[9].bytes } : slot)));
		expect(await followed()).toMatchObject({ is: 'lost', whole: true });
		await expect(soundsToChoose(studio, 'nobody')).rejects.toMatchObject({ code: 'instrument.not-found' });
	});
});

describe('loads of a set', () => {
	it('are laid out as banks, the same one again for the same load, and are none once the sounds are there', async () => {
		const { studio } = here;
		const { device, profile, slots } = await anUmbra(studio);
		const hold = (held: typeof slots, month: number) =>
			keep(studio, device, profile, held, { takenAt: `2020-0${month}-01T00:00:00.000Z` });
		const empty = made(device.id);
		await take(empty);
		await hold(slots, 1);
		const choices = await soundsToChoose(studio, 'm');
		const scene = (number: number, index: number) => ({
			number,
			name: `Scene ${number}`,
			zones: empty.setup.zones,
			parts: [{ instrument: 'm', channel: 1, sound: soundIn(choices[index])! }]
		});
		await takeSet(studio, {
			revision: 1,
			document: made(device.id, {
				scenes: [scene(1, 4), scene(2, 9)],
				songs: [
					{ id: 'one', name: 'One', scenes: [1] },
					{ id: 'two', name: 'Two', scenes: [2] }
				]
			})
		});
		const items = async () =>
			(await getSet(studio)).readiness.items.flatMap(({ says, cure }) => (cure.load ? [says] : []));
		const asked = { instrument: 'm', area: 'programs', before: null };
		expect(await items()).toEqual([]);
		await expect(layOutLoad(studio, await setDocument(studio), asked)).rejects.toMatchObject({
			code: 'load.not-found'
		});
		const written = slots.map((slot) => (slot.index === 4 ? { ...slot, bytes: slots[20].bytes } : slot));
		await hold(written, 2);
		expect(await items()).toEqual([
			expect.stringMatching(
				/^Module lacks a sound of its drawer: load .+ into .+ \(over .+\), about \d+ s\.$/
			)
		]);
		const { bank, device: of } = await layOutLoad(studio, await setDocument(studio), asked);
		expect(of).toBe(device.id);
		expect((await layOutLoad(studio, await setDocument(studio), asked)).bank).toBe(bank);
		const source = { from: 'bank' as const, bankId: bank };
		// What is sent is the sound that the scene means, byte by byte, and nothing else.
		expect((await slotsOfSource(studio, device, profile, source, studio.world)).slots).toMatchObject([
			{ area: 'programs', index: 4, bytes: slots[4].bytes }
		]);
		await hold(slots, 3);
		expect(await items()).toEqual([]);
	});
});
