import { describe, expect, it } from 'vitest';
import type { Transaction } from 'sequelize';
import { newId } from '../new-id';
import { count, freshStudio } from '../studio.fixture';
import { all, one, run } from './sql';
import { numbersOf, told } from './words';

const here = freshStudio();
const say = (text: string, transaction?: Transaction) =>
	run(here.studio, 'INSERT INTO words (text) VALUES (?)', [text], transaction);

describe('write transactions', () => {
	it('happen one after the other, whole or not at all, whatever fails in them', async () => {
		const order: string[] = [];
		const results = await Promise.allSettled([
			here.studio.write(async (transaction) => {
				await say('one', transaction);
				order.push('one');
			}),
			here.studio.write(async (transaction) => {
				await say('two', transaction);
				order.push('two');
				throw new Error('no');
			}),
			here.studio.write(async (transaction) => {
				await say('three', transaction);
				await say('three', transaction);
			}),
			here.studio.write(async (transaction) => {
				await say('four', transaction);
				order.push('four');
			})
		]);
		expect(results.map(({ status }) => status)).toEqual(['fulfilled', 'rejected', 'rejected', 'fulfilled']);
		expect(order).toEqual(['one', 'two', 'four']);
		const rows = await all<{ text: string }>(here.studio, 'SELECT text FROM words ORDER BY id');
		expect(rows.map(({ text }) => text)).toEqual(['one', 'four']);
	});

	it('are not seen by others before they are over', async () => {
		await here.studio.write(async (transaction) => {
			await say('inside', transaction);
			expect(await count(here.studio, 'words')).toBe(0);
			expect(
				(await one<{ n: number }>(here.studio, 'SELECT COUNT(*) AS n FROM words', [], transaction))!.n
			).toBe(1);
		});
		expect(await count(here.studio, 'words')).toBe(1);
	});

	it('cannot be written to when they are over', async () => {
		let kept: Transaction | undefined;
		await here.studio.write((transaction) => Promise.resolve((kept = transaction)));
		await expect(say('late', kept)).rejects.toThrow('This transaction is over.');
		expect(await count(here.studio, 'words')).toBe(0);
	});

	it('go on with another connection where one could not be ended', async () => {
		await expect(
			here.studio.write(async (transaction) => {
				await say('lost', transaction);
				// As SQLite itself does on a full disk: it is rolled back already when the app would.
				await run(here.studio, 'ROLLBACK', [], transaction);
				throw new Error('full');
			})
		).rejects.toThrow('full');
		await here.studio.write((transaction) => say('next', transaction));
		const rows = await all<{ text: string }>(here.studio, 'SELECT text FROM words');
		expect(rows).toEqual([{ text: 'next' }]);
	});
});

it('a statement that is wrong says so, each time', async () => {
	for (let i = 0; i < 2; i++)
		await expect(all(here.studio, 'SELECT 1 FROM nowhere')).rejects.toThrow('nowhere');
});

describe('words', () => {
	it('are kept once, and told by number in rows', async () => {
		const first = await here.studio.write((transaction) =>
			numbersOf(here.studio, ['a', 'b', 'a'], transaction)
		);
		const again = await numbersOf(here.studio, ['b', 'a']);
		expect([again('a'), again('b')]).toEqual([first('a'), first('b')]);
		expect(
			await told(
				here.studio,
				[
					{ x: first('a'), y: 7 },
					{ x: first('b'), y: 8 }
				],
				['x']
			)
		).toEqual([
			{ x: 'a', y: 7 },
			{ x: 'b', y: 8 }
		]);
		expect(await count(here.studio, 'words')).toBe(2);
	});

	it('that were taken back leave no trace: their number may mean something else later', async () => {
		let lost = 0;
		await expect(
			here.studio.write(async (transaction) => {
				lost = (await numbersOf(here.studio, ['gone'], transaction))('gone');
				expect(await told(here.studio, [{ x: lost }], ['x'], transaction)).toEqual([{ x: 'gone' }]);
				throw new Error('no');
			})
		).rejects.toThrow('no');
		const other = (await here.studio.write((transaction) => numbersOf(here.studio, ['other'], transaction)))(
			'other'
		);
		expect(other).toBe(lost);
		expect(await told(here.studio, [{ x: other }], ['x'])).toEqual([{ x: 'other' }]);
		expect((await numbersOf(here.studio, ['gone']))('gone')).toBe(-1);
	});

	it('asked for side by side in one transaction are kept once', async () => {
		const [x, y] = await here.studio.write((transaction) =>
			Promise.all([
				numbersOf(here.studio, ['same'], transaction),
				numbersOf(here.studio, ['same'], transaction)
			])
		);
		expect(x('same')).toBe(y('same'));
		expect(await count(here.studio, 'words')).toBe(1);
	});
});

it('ids are nine letters that fit in an address, differ, and sort by the time at which they were made', async () => {
	const early = Array.from({ length: 500 }, newId);
	await new Promise((resolve) => setTimeout(resolve, 130));
	const late = Array.from({ length: 500 }, newId);
	for (const id of [...early, ...late]) expect(id).toMatch(/^[-\w]{9}$/);
	expect(new Set([...early, ...late]).size).toBe(1000);
	expect(early.toSorted().at(-1)! < late.toSorted()[0]).toBe(true);
	expect(encodeURIComponent(early[0])).toBe(early[0]);
});
