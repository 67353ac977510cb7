import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { boxFromWords, wordsOfBox } from './box-words';
import { deputyChoices, deputyTroubles } from './deputies';
import { boxSchema, type Box } from './floor';

const box = (given: object): Box => boxSchema.parse({ id: 'b', name: 'Box', ...given });
const WRITTEN = `Show
1: Next song | First song
2: Song before
3:

Encore = Show`;

describe('what a box has, written by hand', () => {
	it('becomes pages, buttons, spares and menus', () => {
		const made = boxFromWords(box({}), {
			pages: WRITTEN,
			spares: 'left foot\nright foot\n',
			menus: 'Slot of a pedal: Hold Pages › Slots: two'
		});
		expect(made.pages).toEqual([
			{
				id: 'show',
				name: 'Show',
				follows: null,
				buttons: [
					{ id: '1', name: '1', short: 'Next song', long: 'First song' },
					{ id: '2', name: '2', short: 'Song before', long: '' },
					{ id: '3', name: '3', short: '', long: '' }
				]
			},
			{ id: 'encore', name: 'Encore', follows: 'show', buttons: [] }
		]);
		expect(made.spares.map(({ name }) => name)).toEqual(['left foot', 'right foot']);
		expect(made.menus).toEqual([{ setting: 'Slot of a pedal', path: 'Hold Pages › Slots: two' }]);
		expect(deputyChoices(made)).toHaveLength(2);
		expect(wordsOfBox(made).pages).toBe(WRITTEN);
	});

	it('keeps deputies by the names of their switch, page and button, and tells of those that lost theirs', () => {
		const first = boxFromWords(box({}), { pages: WRITTEN, spares: 'left\nright', menus: '' });
		const appointed = {
			...first,
			deputies: [
				{ spare: 'left', page: 'show', button: '2' },
				{ spare: 'right', page: 'show', button: '1' }
			]
		};
		const kept = boxFromWords(appointed, {
			...wordsOfBox(appointed),
			pages: WRITTEN.replace('2: Song before', '2: Song before last\n4: New').replace('1: Next', '9: Next'),
			spares: 'right\nleft'
		});
		expect(kept.deputies).toEqual(appointed.deputies);
		expect(kept.pages[0].buttons.map(({ id, short }) => [id, short])).toEqual([
			['9', 'Next song'],
			['2', 'Song before last'],
			['4', 'New'],
			['3', '']
		]);
		expect(deputyTroubles(kept).map(({ says }) => says)).toContain(
			'right stands in for a button that Show has not.'
		);
		expect(boxFromWords(appointed, { ...wordsOfBox(appointed), spares: 'left' }).deputies).toEqual([
			{ spare: 'left', page: 'show', button: '2' }
		]);
	});

	it('keeps two buttons apart that are written alike', () => {
		const twice = (of: Box) => boxFromWords(of, { pages: 'Show\n1: Tap\n1: Tap', spares: '', menus: '' });
		const made = twice(box({}));
		expect(made.pages[0].buttons.map(({ id }) => id)).toEqual(['1', '1-2']);
		expect(twice(made)).toEqual(made);
	});

	it.each([
		[{ pages: 'Show\nTap tempo' }, 'Line 2, “Tap tempo”, has no colon.'],
		[{ pages: 'Show = Doors' }, 'Line 1: there is no page “Doors” for Show to show.'],
		[
			{ pages: 'Show\n1: a\n\nEncore = Show\n1: b' },
			'Line 5: Encore shows the buttons of Show, and has none of its own.'
		],
		[{ menus: 'one: two\n\nthree' }, 'Line 3, “three”, has no colon.'],
		[{ spares: 'x'.repeat(61) }, 'something in it is too long: spares 0 name.']
	])('is refused with its line where it cannot be read: %j', (words, says) => {
		expect(() => boxFromWords(box({}), { pages: '', spares: '', menus: '', ...words })).toThrow(says);
	});

	it('comes back as it was, byte for byte, from every box that was written down', () => {
		const word = fc.stringMatching(/^[A-Za-z0-9|:=›,.]{1,6}( [A-Za-z0-9|:=›,.]{1,6}){0,2}$/);
		const named = fc.uniqueArray(word, { maxLength: 4 });
		fc.assert(
			fc.property(
				fc.uniqueArray(fc.tuple(word, named, word, fc.boolean()), { maxLength: 4, selector: ([n]) => n }),
				named,
				named,
				(pages, spares, menus) => {
					const written = box({
						pages: pages.map(([name, buttons, does, follows], i) => ({
							id: `p${i}`,
							name,
							follows: follows && i > 0 ? 'p0' : null,
							buttons:
								follows && i > 0
									? []
									: buttons.map((each, b) => ({
											id: `b${b}`,
											name: each,
											short: does,
											long: b % 2 ? does : ''
										}))
						})),
						spares: spares.map((name, i) => ({ id: `s${i}`, name })),
						menus: menus.map((setting) => ({ setting, path: 'Feel' }))
					});
					// A page that shows one that shows another is written as it stands.
					expect(boxFromWords(written, wordsOfBox(written))).toEqual(written);
				}
			),
			{ numRuns: 400 }
		);
	});
});
