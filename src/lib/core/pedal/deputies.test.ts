import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
	deputyChoices,
	deputyTroubles,
	deputyWays,
	findChoices,
	pressOn,
	pressSpare,
	shownPage
} from './deputies';
import { boxSchema, type Box } from './floor';

const box = (more: object = {}): Box =>
	boxSchema.parse({
		id: 'box',
		name: 'Treadle',
		pages: [
			{
				id: 'show',
				name: 'Show',
				buttons: [
					{ id: 'a', name: 'A', short: 'Next song', long: 'First song' },
					{ id: 'b', name: 'B', short: 'Tap tempo' },
					{ id: 'c', name: 'C' }
				]
			},
			{ id: 'edit', name: 'Edit', buttons: [{ id: 'a', name: 'A', short: 'Delay', long: 'Tap tempo' }] },
			{ id: 'copy', name: 'Copy', follows: 'show' }
		],
		spares: [
			{ id: 'l', name: 'left foot' },
			{ id: 'r', name: 'right foot' }
		],
		...more
	});

describe('deputies', () => {
	it('stand in for buttons that do something, on pages of their own', () => {
		expect(deputyChoices(box()).map(({ page, button }) => `${page} ${button}`)).toEqual([
			'show a',
			'show b',
			'edit a'
		]);
		expect(findChoices(box(), 'tap').map(({ page, button }) => `${page} ${button}`)).toEqual([
			'show b',
			'edit a'
		]);
		expect(findChoices(box(), 'edit')).toHaveLength(1);
		expect(findChoices(box(), 'nothing like it')).toEqual([]);
	});

	it('do what their button does, whatever page is showing', () => {
		const set = box({ deputies: [{ spare: 'l', page: 'show', button: 'a' }] });
		expect(pressSpare(set, 'l', 'short').does).toBe('Next song');
		expect(pressSpare(set, 'l', 'long').does).toBe('First song');
		expect(pressSpare(set, 'r', 'short')).toMatchObject({ does: '', why: 'It stands in for no button.' });
		expect(pressOn(set, 'copy', 'b', 'short')).toMatchObject({ does: 'Tap tempo', of: 'Show B' });
		expect(pressOn(set, 'copy', 'b', 'long').why).toBe('Show B has no function for a long press.');
	});

	it('are counted as listing all of them counts', () => {
		fc.assert(
			fc.property(fc.integer({ min: 0, max: 3 }), fc.integer({ min: 0, max: 4 }), (spares, buttons) => {
				const some = box({
					pages: [
						{
							id: 'p',
							name: 'P',
							buttons: Array.from({ length: buttons }, (_, i) => ({ id: `${i}`, name: `${i}`, short: 'x' }))
						}
					],
					spares: Array.from({ length: spares }, (_, i) => ({ id: `${i}`, name: `${i}` }))
				});
				// Each spare has no button or one; some deputy at all; no button twice.
				let listed = 0;
				const list = (spare: number, taken: number[], any: boolean): void => {
					if (spare === spares) {
						if (any) listed++;
						return;
					}
					list(spare + 1, taken, any);
					for (let b = 0; b < buttons; b++) if (!taken.includes(b)) list(spare + 1, [...taken, b], true);
				};
				list(0, [], false);
				// One more: none of them is a deputy.
				expect(deputyWays(some)).toBe(BigInt(listed + 1));
			})
		);
	});

	it('conflict where two stand in for one, for an empty one, or on a page that follows another', () => {
		const says = (deputies: object[]) => deputyTroubles(box({ deputies })).map((trouble) => trouble.says);
		expect(says([{ spare: 'l', page: 'edit', button: 'a' }])).toEqual([]);
		expect(
			says([
				{ spare: 'l', page: 'edit', button: 'a' },
				{ spare: 'r', page: 'edit', button: 'a' }
			])
		).toEqual(['right foot and left foot stand in for the same button.']);
		expect(says([{ spare: 'l', page: 'show', button: 'c' }])[0]).toBe(
			'left foot stands in for Show C, which does nothing.'
		);
		expect(says([{ spare: 'l', page: 'copy', button: 'a' }])).toEqual([
			'left foot stands in for a button of Copy, which shows Show: choose the button there.'
		]);
		expect(says([{ spare: 'l', page: 'show', button: 'a' }])).toEqual([
			'Show is followed by Copy: a change of its button changes what left foot does, there, too.'
		]);
	});

	it('know that pages that follow one another in a ring show nothing', () => {
		const ring = box({
			pages: [
				{ id: 'x', name: 'X', follows: 'y' },
				{ id: 'y', name: 'Y', follows: 'x' }
			]
		});
		expect(shownPage(ring, 'x')).toBeNull();
		expect(pressOn(ring, 'x', 'a', 'short').why).toBe('There is no such button.');
	});
});
