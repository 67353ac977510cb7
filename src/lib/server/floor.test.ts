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

	it('keeps a calibration with the time of the server, as long as it hangs where it was heard', async () => {
		const { revision } = await taken();
		const calibration = {
			line: 'old',
			controller: 11,
			channel: 16,
			at: '1999-01-01T00:00:00.000Z',
			world: 'bench',
			heel: 7,
			toe: 106,
			deadHeel: 9,
			deadToe: 104,
			noise: 4,
			worn: []
		};
		const kept = await editFloor(here.studio, {
			revision,
			says: 'calibrated',
			edits: [{ path: ['calibrations'], value: [calibration] }]
		});
		expect(kept.document.calibrations[0].at).not.toBe(calibration.at);
		// Another preset, another name: it still counts.
		const named = await editFloor(here.studio, {
			revision: kept.revision,
			says: 'named',
			edits: [{ path: ['pedals', 3, 'name'], value: 'Sweep of old' }]
		});
		expect(named.document.calibrations).toEqual(kept.document.calibrations);
		// The jack reads the other contact: what was heard says nothing of that.
		const turned = await editFloor(here.studio, {
			revision: named.revision,
			says: 'wiper on the ring',
			edits: [{ path: ['boxes', 0, 'jacks', 1, 'set', 'mode'], value: 'expression-ring' }]
		});
		expect(turned.document.calibrations).toEqual([]);
		const back = await moveFloor(here.studio, { move: 'undo', step: turned.steps.undo!.id });
		expect(back.document).toEqual(named.document);
		// Two lines change jacks: what their boxes send for them is to be heard anew.
		const [old, slim] = back.document.lines.slice(1, 3);
		const exchanged = await editFloor(here.studio, {
			revision: back.revision,
			says: 'exchanged',
			edits: [
				{ path: ['lines', 1, 'jacks'], value: slim.jacks },
				{ path: ['lines', 2, 'jacks'], value: old.jacks }
			]
		});
		expect(exchanged.document.calibrations).toEqual([]);
		expect(exchanged.document.lines.slice(1, 3).map(({ sends }) => sends)).toEqual([null, null]);
	});
});
