import { describe, expect, it } from 'vitest';
import { demoPairings } from '../../../demo/pairings';
import { pairingTable } from '../core/pairing';
import { addPairings, editPairings, getPairings, movePairings } from './pairings';
import { freshStudio } from './studio.fixture';

const here = freshStudio();
const table = pairingTable(demoPairings([]).records);

describe('pairings', () => {
	it('are added from a table as one step, all or nothing, with ids of their own', async () => {
		const first = await addPairings(here.studio, { revision: 0, text: table });
		expect(first.document.records).toHaveLength(4);
		const twice = await addPairings(here.studio, { revision: first.revision, text: table });
		expect(new Set(twice.document.records.map(({ id }) => id)).size).toBe(8);
		const back = await movePairings(here.studio, { move: 'undo', step: twice.steps.undo!.id });
		expect(back.document).toEqual(first.document);
		const lying = `${table}\nA,B,C,D,din,x,works,,manual,,,,\nA,B,C,D,smoke,x,works,,manual,,,,`;
		await expect(addPairings(here.studio, { revision: back.revision, text: lying })).rejects.toMatchObject({
			code: 'pairings.table',
			message: expect.stringMatching(/^Line 7: way/)
		});
		await expect(addPairings(here.studio, { revision: back.revision, text: '' })).rejects.toMatchObject({
			code: 'pairings.table'
		});
		await expect(addPairings(here.studio, { revision: 0, text: table })).rejects.toMatchObject({
			code: 'pairings.conflict'
		});
		expect((await getPairings(here.studio)).document).toEqual(first.document);
	});

	it('are edited only into pairings', async () => {
		const { revision } = await addPairings(here.studio, { revision: 0, text: table });
		const edit = (path: (string | number)[], value: unknown) =>
			editPairings(here.studio, { revision, says: 'x', edits: [{ path, value }] });
		await expect(edit(['records', 0, 'result'], 'perhaps')).rejects.toMatchObject({
			code: 'pairings.invalid'
		});
		await expect(edit(['records', 0, 'known', 'on'], 'today')).rejects.toMatchObject({
			code: 'pairings.invalid'
		});
	});
});
