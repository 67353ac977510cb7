import { describe, expect, it } from 'vitest';
import { bringMapBack, createMap, editMap, getMap, listMaps, moveMap, removeMap } from './maps';
import { editOrderSchema } from './edit-orders';
import { heard } from '../core/control/map.fixture';
import { freshStudio } from './studio.fixture';

const here = freshStudio();
const begin = async () =>
	(await createMap(here.studio, { from: 'surface', name: 'Dome', surface: 'osier-weir-9' })).id;
const named = (name: string) => ({ path: ['name'], value: name });
const learnt = (number: number) => ({ path: ['learnt'], value: [heard('fader-1', number)] });

describe('maps that are kept', () => {
	it('are changed in steps, undone and redone exactly', async () => {
		const id = await begin();
		const first = (await getMap(here.studio, id)).document;
		const one = await editMap(here.studio, id, { revision: 1, says: 'Named', edits: [named('Night')] });
		const two = await editMap(here.studio, id, {
			revision: one.revision,
			says: 'Learnt',
			edits: [learnt(20)]
		});
		expect(two.steps.undo?.says).toBe('Learnt');
		let now = await moveMap(here.studio, id, { move: 'undo', step: two.steps.undo!.id });
		expect(now.document).toEqual(one.document);
		now = await moveMap(here.studio, id, { move: 'undo', step: now.steps.undo!.id });
		expect(now.document).toEqual(first);
		expect(now.steps.undo).toBeNull();
		now = await moveMap(here.studio, id, { move: 'redo', step: now.steps.redo!.id });
		now = await moveMap(here.studio, id, { move: 'redo', step: now.steps.redo!.id });
		expect(now.document).toEqual(two.document);
		expect(now.revision).toBe(two.revision + 4);
	});

	it('refuse a step that was thought of on an older one, and one that is not the next', async () => {
		const id = await begin();
		await editMap(here.studio, id, { revision: 1, says: 'Named', edits: [named('Night')] });
		await expect(
			editMap(here.studio, id, { revision: 1, says: 'Named', edits: [named('Day')] })
		).rejects.toMatchObject({ code: 'map.conflict' });
		await expect(moveMap(here.studio, id, { move: 'undo', step: 4711 })).rejects.toMatchObject({
			code: 'map.step.conflict'
		});
		expect((await getMap(here.studio, id)).document.name).toBe('Night');
	});

	it('take nothing that would be no map', async () => {
		const id = await begin();
		const before = await getMap(here.studio, id);
		for (const edit of [
			named(''),
			{ path: ['surface'], value: {} },
			{ path: ['pages', 7, 'assignments', 0], value: 1 },
			{ path: ['name', 'length'], value: 3 },
			{ path: ['constructor', 'prototype', 'x'], value: 1 },
			{ path: ['toString'], value: 1 },
			{ path: ['walked', 0, 'at', 'x'], value: 3 }
		])
			await expect(
				editMap(here.studio, id, { revision: 1, says: 'Broken', edits: [edit] })
			).rejects.toMatchObject({ code: 'map.invalid' });
		expect(await getMap(here.studio, id)).toEqual(before);
		expect(
			editOrderSchema.safeParse({ revision: 1, says: 'x', edits: [{ path: ['__proto__', 'a'], value: 1 }] })
				.success
		).toBe(false);
	});

	it('count a page as walked no more when what it says has changed, and again after undo', async () => {
		const id = await begin();
		const walked = await editMap(here.studio, id, {
			revision: 1,
			says: 'Walked',
			edits: [
				learnt(20),
				{ path: ['walked'], value: [{ page: 1, at: '2026-11-01T20:00:00Z', world: 'bench' }] }
			]
		});
		expect(walked.document.walked).toHaveLength(1);
		const changed = await editMap(here.studio, id, {
			revision: walked.revision,
			says: 'Learnt again',
			edits: [learnt(21)]
		});
		expect(changed.document.walked).toEqual([]);
		const back = await moveMap(here.studio, id, { move: 'undo', step: changed.steps.undo!.id });
		expect(back.document).toEqual(walked.document);
	});

	it('are taken away and brought back', async () => {
		const id = await begin();
		await removeMap(here.studio, id);
		await expect(getMap(here.studio, id)).rejects.toMatchObject({ code: 'map.not-found' });
		expect((await listMaps(here.studio)).some((map) => map.id === id)).toBe(false);
		await bringMapBack(here.studio, id);
		expect((await listMaps(here.studio)).find((map) => map.id === id)).toMatchObject({
			name: 'Dome',
			surface: 'Osier & Pike Weir 9',
			walks: { pages: 1, walked: 0, bench: 0, since: null },
			walked: 'never walked',
			troubles: 0
		});
	});

	it('are two hundred steps deep, each by itself', async () => {
		const [id, other] = [await begin(), await begin()];
		await editMap(here.studio, other, { revision: 1, says: 'Other', edits: [named('Other')] });
		for (let i = 1; i <= 205; i++)
			await editMap(here.studio, id, { revision: i, says: `Step ${i}`, edits: [named(`N${i}`)] });
		let now = await getMap(here.studio, id);
		let undone = 0;
		for (; now.steps.undo; undone++)
			now = await moveMap(here.studio, id, { move: 'undo', step: now.steps.undo.id });
		expect([undone, now.document.name]).toEqual([200, 'N5']);
		expect((await getMap(here.studio, other)).steps.undo?.says).toBe('Other');
	});
});
