import { describe, expect, it } from 'vitest';
import { demoFloor } from '../../../demo/floor';
import { editFloor, getFloor, moveFloor, takeFloor } from './floor';
import { freshStudio } from './studio.fixture';

const here = freshStudio();
const taken = () => takeFloor(here.studio, { revision: 0, document: demoFloor(new Map()) });
const cable = { path: ['lines', 0, 'cable'], value: 'red' };

describe('the floor', () => {
	it('is there from the start, with nothing on it', async () => {
		expect(await getFloor(here.studio)).toMatchObject({
			revision: 0,
			document: { boxes: [], lines: [] },
			lines: [],
			steps: { undo: null, redo: null }
		});
	});

	it('tells what each line comes to, and a cure that is carried out mends it', async () => {
		const open = await taken();
		expect(open.lines.map(({ verdict }) => verdict?.kind)).toEqual([
			'one of two',
			'works',
			'cannot',
			'inverted',
			'works'
		]);
		const [twins] = open.lines;
		expect(twins.cures[0].says).toBe('Use “Red cable, two rings”, which nobody uses');
		const mended = await editFloor(here.studio, {
			revision: open.revision,
			says: twins.cures[0].says,
			edits: twins.cures[0].edits
		});
		expect(mended.lines[0]).toMatchObject({ verdict: { kind: 'works' }, cures: [] });
		const back = await moveFloor(here.studio, { move: 'undo', step: mended.steps.undo!.id });
		expect(back.document).toEqual(open.document);
		expect(back.steps.redo?.says).toBe(twins.cures[0].says);
	});

	it('is changed by one at a time, and only into a floor', async () => {
		const { revision } = await taken();
		const order = { revision, says: 'A cable', edits: [cable] };
		const both = await Promise.allSettled([editFloor(here.studio, order), editFloor(here.studio, order)]);
		expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
		const edit = (path: (string | number)[], value: unknown) =>
			editFloor(here.studio, { revision: revision + 1, says: 'x', edits: [{ path, value }] });
		await expect(edit(['lines', 0, 'cables'], 'red')).rejects.toMatchObject({
			code: 'floor.invalid',
			message: 'A floor has no field lines[0].cables.'
		});
		await expect(edit(['boxes', 0, 'jacks'], 'none')).rejects.toMatchObject({ code: 'floor.invalid' });
		await expect(edit(['boxes', 99, 'jacks', 3, 'name'], 'x')).rejects.toMatchObject({
			code: 'floor.invalid'
		});
		expect((await getFloor(here.studio)).revision).toBe(revision + 1);
	});

	it('says of a line whose pedal is gone that it is gone', async () => {
		const open = await taken();
		const after = await editFloor(here.studio, {
			revision: open.revision,
			says: 'Twin feet are gone',
			edits: [{ path: ['pedals', 2] }]
		});
		expect(after.lines[0]).toMatchObject({
			verdict: null,
			cures: [],
			name: 'Treadle Feet A – a pedal that is gone'
		});
	});

	it('is no floor where two things are called alike, or a line joins the jacks of two boxes', async () => {
		const { revision } = await taken();
		const edit = (path: (string | number)[], value: unknown) =>
			editFloor(here.studio, { revision, says: 'x', edits: [{ path, value }] });
		await expect(edit(['pedals', 0, 'id'], 'knob')).rejects.toMatchObject({
			code: 'floor.invalid',
			message: expect.stringContaining('Two pedals are called “knob”.')
		});
		const jacks = [
			{ box: 'treadle', jack: 'feet-a' },
			{ box: 'orrery', jack: 'hold' }
		];
		await expect(edit(['lines', 0, 'jacks'], jacks)).rejects.toMatchObject({
			message: expect.stringContaining('joins jacks of two boxes')
		});
	});
});
