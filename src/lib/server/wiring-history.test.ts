import { describe, expect, it } from 'vitest';
import { deviceSchema } from '../core/gear';
import { rigPortId, type RigChange } from '../core/rig';
import { addDevice, archiveDevice, unarchiveDevice } from './gear';
import { changeStudioRig, readStudioRig } from './rig';
import { importRig } from './rig-import';
import { nextSteps } from './store/wiring-steps';
import { freshStudio } from './studio.fixture';
import { moveWiring } from './wiring-history';

const here = freshStudio();
const add = (name: string) =>
	addDevice(
		here.studio,
		deviceSchema.parse({
			name,
			ports: [
				{ id: '', name: 'In', direction: 'in', connector: 'din' },
				{ id: '', name: 'Out', direction: 'out', connector: 'din' }
			]
		})
	);
const change = (changes: RigChange[], says: string) => changeStudioRig(here.studio, changes, undefined, says);
const rig = async () => (await readStudioRig(here.studio)).rig;
const channel = async (id: string) =>
	(await rig()).settings.find(({ device }) => device === id)?.channel ?? null;
const undo = async () =>
	moveWiring(here.studio, { move: 'undo', step: (await nextSteps(here.studio)).undo!.id });
const redo = async () =>
	moveWiring(here.studio, { move: 'redo', step: (await nextSteps(here.studio)).redo!.id });

describe('the history of the wiring', () => {
	it('is undone step by step to the beginning, and made again to the end', async () => {
		const reed = await add('Reed');
		for (const n of [3, 5, 9]) await change([{ do: 'set', device: reed.id, channel: n }], `channel ${n}`);
		expect((await undo()).says).toBe('channel 9');
		expect(await channel(reed.id)).toBe(5);
		await undo();
		expect(await channel(reed.id)).toBe(3);
		const last = await undo();
		expect(await channel(reed.id)).toBeNull();
		expect(last).toMatchObject({ undo: null, redo: { says: 'channel 3' } });
		await redo();
		await redo();
		expect(await channel(reed.id)).toBe(5);
		// Something new takes the place of what was undone.
		await change([{ do: 'set', device: reed.id, channel: 12 }], 'channel 12');
		expect(await nextSteps(here.studio)).toMatchObject({ undo: { says: 'channel 12' }, redo: null });
		await undo();
		expect(await channel(reed.id)).toBe(5);
	});

	it('refuses the second of two tabs, and changes nothing then', async () => {
		const reed = await add('Reed');
		const { step } = await change([{ do: 'set', device: reed.id, channel: 3 }], 'channel 3');
		await moveWiring(here.studio, { move: 'undo', step: step! });
		const { revision } = await readStudioRig(here.studio);
		await expect(moveWiring(here.studio, { move: 'undo', step: step! })).rejects.toMatchObject({
			code: 'rig.step.conflict'
		});
		await expect(moveWiring(here.studio, { move: 'redo', step: step! + 50 })).rejects.toMatchObject({
			code: 'rig.step.not-found'
		});
		expect((await readStudioRig(here.studio)).revision).toBe(revision);
	});

	it('undoes an older step by itself, as a step that can be undone in its turn', async () => {
		const [reed, bell] = [await add('Reed'), await add('Bell')];
		const { step } = await change([{ do: 'set', device: reed.id, channel: 3 }], 'Reed to 3');
		await change([{ do: 'set', device: bell.id, channel: 4 }], 'Bell to 4');
		const moved = await moveWiring(here.studio, { move: 'undo', step: step! });
		expect([await channel(reed.id), await channel(bell.id)]).toEqual([null, 4]);
		expect(moved.undo!.says).toBe('Undone: Reed to 3');
		await undo();
		expect([await channel(reed.id), await channel(bell.id)]).toEqual([3, 4]);
	});

	it('says what does not fit any more, and goes on past it when it is left out', async () => {
		const [reed, bell, ferry] = [await add('Reed'), await add('Bell'), await add('Ferry')];
		await change([{ do: 'set', device: bell.id, channel: 4 }], 'Bell to 4');
		const plug = { from: rigPortId(ferry.id, 'out'), to: rigPortId(reed.id, 'in') };
		await change([{ do: 'plug', ...plug }], 'Reed plugged in');
		await archiveDevice(here.studio, reed.id);
		const top = (await nextSteps(here.studio)).undo!;
		await expect(undo()).rejects.toMatchObject({
			code: 'rig.step.gone.conflict',
			message: expect.stringContaining('Reed plugged in') as string,
			detail: { step: top.id }
		});
		expect(await channel(bell.id)).toBe(4);
		// Brought back, it fits again; left out, it is out of the way.
		await unarchiveDevice(here.studio, reed.id);
		await undo();
		expect((await rig()).cables).toEqual([]);
		await redo();
		await archiveDevice(here.studio, reed.id);
		await moveWiring(here.studio, { move: 'leave-out', step: top.id });
		await undo();
		expect(await channel(bell.id)).toBeNull();
	});

	it('brings back the wiring that a file replaced', async () => {
		const [reed, ferry] = [await add('Reed'), await add('Ferry')];
		const empty = await rig();
		await change(
			[
				{ do: 'plug', from: rigPortId(ferry.id, 'out'), to: rigPortId(reed.id, 'in') },
				{ do: 'set', device: reed.id, channel: 7 }
			],
			'wired'
		);
		const before = await rig();
		await importRig(here.studio, empty);
		expect((await rig()).cables).toEqual([]);
		expect((await importRig(here.studio, empty)).step, 'nothing new is no step').toBeNull();
		expect(await channel(reed.id)).toBeNull();
		await undo();
		expect(await rig()).toEqual(before);
	});

	it('keeps two hundred steps', async () => {
		const reed = await add('Reed');
		for (let i = 0; i < 205; i++)
			await change([{ do: 'set', device: reed.id, channel: 1 + (i % 16) }], `step ${i}`);
		let undone = 0;
		while ((await nextSteps(here.studio)).undo) {
			await undo();
			undone++;
		}
		expect(undone).toBe(200);
	});
});
