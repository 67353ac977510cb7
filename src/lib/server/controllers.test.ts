import { beforeEach, describe, expect, it } from 'vitest';
import { factoryState, seededRandom } from '../core/bench';
import { compilePage, type ControlMap } from '../core/control';
import { finishSchema } from '../core/drawer';
import { toHex } from '../core/midi';
import { makeSlot, type Profile } from '../core/profile';
import { addController, controllerMemory, preparePage, takeOver } from './controllers';
import { dumpOf, keep } from './heart.fixture';
import { addDevice, factsOfModel, touchDevice } from './gear';
import { settleWorld } from './indexing';
import { listVersions } from './drawer';
import { createMap, editMap, getMap, moveMap } from './maps';
import { shippedProfile } from './profiles';
import { freshStudio } from './studio.fixture';
import { checkTransfer } from './transfer-check';
import { beginTransfer, finishTransfer, keepSafetyCopy } from './transfers';

const here = freshStudio();
beforeEach(() => settleWorld(here.studio, 'bench'));
const profile = shippedProfile('osier-tarn');
const begin = async (surface = 'osier-tarn') =>
	(await createMap(here.studio, { from: 'surface', name: 'Cues', surface })).id;
const memory = (id: string, more: { slot?: number; device?: string; page?: number } = {}) =>
	controllerMemory(here.studio, id, { page: 1, world: 'bench', ...more });

/** Writes on the first button, and names the page. */
async function write(id: string, number: number): Promise<ControlMap> {
	const { revision, document } = await getMap(here.studio, id);
	const target = { id: 'cue', name: 'Cue', address: { kind: 'cc', number }, low: 0, high: 127 };
	const edits = [
		{
			path: ['lists'],
			value: [{ format: 'silent-drawer.targets', version: 1, id: 'host', name: 'Host', targets: [target] }]
		},
		{
			path: ['pages', 0],
			value: {
				...document.pages[0],
				name: 'Evening',
				assignments: [
					{
						control: 'button-1',
						gesture: 'push',
						way: 'momentary',
						links: [{ list: 'host', target: 'cue', channel: 16 }]
					}
				]
			}
		}
	];
	return (await editMap(here.studio, id, { revision, says: 'Cue', edits })).document;
}

/** A panel that was read while it held these. */
async function read(templates: Uint8Array[], of: Profile = profile) {
	const device = await addDevice(here.studio, factsOfModel(here.studio, of.id, `Panel ${templates.length}`));
	await keep(
		here.studio,
		device,
		of,
		templates.map((bytes, i) => makeSlot(of, 'templates', i, bytes)),
		{ world: 'bench' }
	);
	return device;
}
const factory = () => factoryState(profile, seededRandom(3)).memory.templates;

describe('a map and its controller', () => {
	it('which is in no catalogue comes into it with one to play on, each under a name of its own', async () => {
		const id = await begin();
		expect(await memory(id)).toMatchObject({ model: 'Tarn Panel', device: null, slots: [] });
		const [one, two] = [await addController(here.studio, id), await addController(here.studio, id)];
		expect([one.name, two.name]).toEqual(['Tarn Panel', 'Tarn Panel 2']);
		expect(new Set([one.benchUnit, two.benchUnit, null]).size).toBe(3);
		expect(one.ports).toMatchObject([{ connector: 'usb-device', direction: 'both' }]);
		const told = await memory(id, { device: two.id });
		expect(told.controllers.map(({ id: each }) => each)).toEqual([one.id, two.id]);
		expect([told.device, told.slot, told.slots.length]).toEqual([two.id, 0, 20]);
		expect(told.slots[3]).toEqual({
			slot: 3,
			label: 'T04',
			name: null,
			state: 'never',
			at: null,
			proof: null
		});
	});

	it('of a surface that no profile speaks for has no memory, and says so', async () => {
		const id = await begin('quillon-gantry-49');
		expect(await memory(id)).toMatchObject({ model: null, controllers: [] });
		await expect(addController(here.studio, id)).rejects.toMatchObject({ code: 'controller.not-found' });
	});

	it('are alike where a slot holds exactly what the page comes to', async () => {
		const id = await begin();
		const map = await write(id, 20);
		const templates = factory();
		templates[6] = compilePage(profile, map, 1, templates[6]).bytes;
		const device = await read(templates);
		const told = await memory(id);
		expect([told.exact, told.slot, told.unlike]).toEqual([[6], 6, []]);
		expect(told.slots[6]).toMatchObject({ name: 'Evening', state: 'proved', proof: 'checksum' });
		const other = await memory(id, { slot: 2 });
		expect(other.unlike[0]).toMatchObject({
			control: 'A1',
			here: 'CC 20 ch 16, 0–127, held',
			there: 'CC 14 ch 1, 0–127, held'
		});
		// One change of the map, or a hand at the panel, and it is said otherwise.
		await touchDevice(here.studio, device.id);
		expect((await memory(id)).slots[6].state).toBe('changed');
		await write(id, 21);
		expect((await memory(id, { slot: 6 })).unlike).toHaveLength(1);
		expect((await memory(id)).exact).toEqual([]);
	});
});

describe('one page for one slot', () => {
	it('is asked of the tray as what it comes to over what the slot held, and nothing else is', async () => {
		const id = await begin();
		const map = await write(id, 20);
		const templates = factory();
		const device = await read(templates);
		const { ask } = await preparePage(here.studio, id, {
			page: 1,
			device: device.id,
			slot: 11,
			world: 'bench'
		});
		const check = await checkTransfer(here.studio, new URLSearchParams(ask), 'bench');
		expect(check.slots).toMatchObject([
			{ area: 'templates', index: 11, label: 'T12', name: 'Evening', state: 'differs' }
		]);
		expect(check.check?.dry?.overwritten).toHaveLength(1);
		// What the map says nothing of stays: the record is not that of an empty slot.
		const again = await preparePage(here.studio, id, {
			page: 1,
			device: device.id,
			slot: 12,
			world: 'bench'
		});
		expect(again.ask.split(':')[2]).not.toBe(ask.split(':')[2]);
		expect(compilePage(profile, map, 1, templates[11]).bytes).not.toEqual(compilePage(profile, map, 1).bytes);
	});

	it('is refused for what is no slot, no page, or no such controller', async () => {
		const id = await begin();
		const device = await read(factory());
		const umbra = await addDevice(here.studio, factsOfModel(here.studio, 'ternhill-umbra', 'Hall'));
		const order = { page: 1, device: device.id, slot: 0, world: 'bench' } as const;
		for (const [wrong, code] of [
			[{ slot: 20 }, 'controller.slot.not-found'],
			[{ page: 2 }, 'map.page.not-found'],
			[{ device: umbra.id }, 'controller.other'],
			[{ device: 'nobody' }, 'device.not-found']
		] as const)
			await expect(preparePage(here.studio, id, { ...order, ...wrong })).rejects.toMatchObject({ code });
	});

	it('is taken over from a slot as a step that is undone, and not from one that was never read', async () => {
		const id = await begin();
		const before = await write(id, 20);
		const device = await read(factory());
		const order = { page: 1, device: device.id, slot: 4, world: 'bench' } as const;
		const { revision } = await getMap(here.studio, id);
		await expect(takeOver(here.studio, id, { ...order, revision: 1 })).rejects.toMatchObject({
			code: 'map.conflict'
		});
		await expect(takeOver(here.studio, id, { ...order, revision, world: 'hardware' })).rejects.toMatchObject({
			code: 'controller.unread'
		});
		const taken = await takeOver(here.studio, id, { ...order, revision });
		expect(taken.steps.undo?.says).toBe('template 1 as T05 holds it');
		expect((await memory(id)).exact).toEqual([4]);
		const back = await moveMap(here.studio, id, { move: 'undo', step: taken.steps.undo!.id });
		expect(back.document).toEqual(before);
	});
});

describe('a walk', () => {
	/** Pages of the map that count as walked. */
	const walks = async (id: string) =>
		(await getMap(here.studio, id)).document.walked.map(({ page, world }) => `${page} ${world}`);

	/** A map of three pages, each walked in both worlds, and a panel whose slots were read. */
	async function walked() {
		const id = await begin();
		const map = await write(id, 20);
		const templates = factory();
		const device = await read(templates);
		const { revision } = await getMap(here.studio, id);
		const pages = [1, 2, 3].map((number) => ({ ...map.pages[0], number }));
		const walks = pages.flatMap(({ number: page }) =>
			['bench', 'hardware'].map((world) => ({ page, at: '2031-01-01T00:00:00.000Z', world }))
		);
		const edited = await editMap(here.studio, id, {
			revision,
			says: 'Walked',
			edits: [
				{ path: ['pages'], value: pages },
				{ path: ['walked'], value: walks }
			]
		});
		return { id, edited, templates, device, map };
	}
	const hexOf = (templates: Uint8Array[]) =>
		dumpOf(
			profile,
			templates.map((bytes, i) => makeSlot(profile, 'templates', i, bytes))
		).map((bytes) => toHex(bytes));

	/** Sends the page to a slot, up to its safety copy. */
	async function sending({ id, device, templates }: Awaited<ReturnType<typeof walked>>, slot: number) {
		const { ask } = await preparePage(here.studio, id, { page: 1, device: device.id, slot, world: 'bench' });
		const record = ask.split('&')[0].split(':')[2];
		const transfer = await beginTransfer(here.studio, {
			world: 'bench',
			deviceId: device.id,
			direction: 'restore',
			scope: { kind: 'slots', slots: [{ area: 'templates', index: slot }] },
			kind: 'routine',
			title: 'T',
			source: { from: 'sounds', sounds: [{ area: 'templates', index: slot, record }] }
		});
		await keepSafetyCopy(here.studio, transfer.id, { messages: hexOf(templates), firmware: null });
		return transfer;
	}

	it('is noted at the server’s time, whatever a tablet’s clock says', async () => {
		const { edited } = await walked();
		for (const { at } of edited.document.walked) expect(at).toMatch(/^2026-01-01/);
	});

	it('counts no more once its page is written into the controller, also where that broke off, and undo brings none back', async () => {
		const made = await walked();
		const { id } = made;
		expect(await walks(id)).toHaveLength(6);
		// Slot 3 is what page 3 stands for by its number; page 1 is not in there before it was sent.
		await sending(made, 2);
		expect(await walks(id)).not.toContain('3 bench');
		expect(await walks(id)).toEqual(expect.arrayContaining(['3 hardware', '2 bench', '2 hardware']));
		// An older step is undone and made again: what it says of walks is no newer for that.
		const before = await getMap(here.studio, id);
		await moveMap(here.studio, id, { move: 'undo', step: before.steps.undo!.id });
		const again = await getMap(here.studio, id);
		await moveMap(here.studio, id, { move: 'redo', step: again.steps.redo!.id });
		expect(await walks(id)).not.toContain('3 bench');
	});

	it('of a page that a slot held or holds counts no more; one whose slot went along unchanged does', async () => {
		const made = await walked();
		const { id, map, templates } = made;
		const transfer = await sending(made, 6);
		const now = [...templates];
		now[6] = compilePage(profile, map, 1, templates[6]).bytes;
		await finishTransfer(
			here.studio,
			transfer.id,
			finishSchema.parse({
				status: 'verified',
				reason: null,
				readBack: hexOf(now),
				touched: now.map((_, index) => ({ area: 'templates', index }))
			})
		);
		// All three pages are alike here: the slot holds each of them now.
		expect(await walks(id)).toEqual(['1 hardware', '2 hardware', '3 hardware']);
	});

	it('stays where a slot was written with what it held', async () => {
		const made = await walked();
		const { id, device, templates } = made;
		const transfer = await beginTransfer(here.studio, {
			world: 'bench',
			deviceId: device.id,
			direction: 'restore',
			scope: { kind: 'all' },
			kind: 'routine',
			title: 'T',
			sourceVersionId: (await listVersions(here.studio, device.id))[0].id
		});
		await keepSafetyCopy(here.studio, transfer.id, { messages: hexOf(templates), firmware: null });
		await finishTransfer(
			here.studio,
			transfer.id,
			finishSchema.parse({
				status: 'verified',
				reason: null,
				readBack: hexOf(templates),
				touched: templates.map((_, index) => ({ area: 'templates', index }))
			})
		);
		expect(await walks(id)).toHaveLength(6);
	});
});
