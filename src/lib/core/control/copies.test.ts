import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { asFirst, copiesFor, differencesOf, followFirst, mainChannel } from './copies';
import { applyEdits, type Edit } from '../edit';
import { mapSchema, type ControlMap } from './map';
import { assigned, mapOf } from './map.fixture';
import { channelsMeant, programsMeant, programsText, removePage, swapPages } from './page-edits';
import { meantBy } from './target-words';
import { writeLine } from './written';

const made = (map: ControlMap, edits: readonly Edit[]) => mapSchema.parse(applyEdits(map, edits));
/** A change as the server makes it: copies follow. */
const changed = (map: ControlMap, edits: readonly Edit[]) => {
	const after = made(map, edits);
	return made(after, followFirst(map, after));
};
const write = (map: ControlMap, page: number, control: string, text: string) =>
	changed(map, writeLine(map, { page, control, gesture: 'push' }, meantBy(map, text)));
const push = { gesture: 'push', way: 'momentary' };
const first = mapOf('osier-tarn', {
	pages: [
		{
			number: 1,
			name: 'Part',
			assignments: [
				assigned('button-3', 'volume', push, { channel: 16 }),
				assigned('button-1', 'cutoff', { ...push, name: 'Dark' }),
				assigned('button-2', 'resonance', push)
			]
		}
	]
});
const said = (map: ControlMap, page: number) =>
	map.pages
		.find(({ number }) => number === page)!
		.assignments.map(
			({ control, links }) => `${control} ${links.map((l) => `${l.target} ${l.channel}`).join()}`
		)
		.sort();

describe('copies of a page for other channels', () => {
	const map = made(first, copiesFor(first, 1, [2, 3, 4, 5, 6, 7]));

	it('differ in the channel alone, one for each channel but its own', () => {
		expect(mainChannel(first.pages[0])).toBe(2);
		expect(map.pages.map(({ number, name }) => `${number} ${name}`)).toEqual([
			'1 Part',
			'2 Ch 3 Part',
			'3 Ch 4 Part',
			'4 Ch 5 Part',
			'5 Ch 6 Part',
			'6 Ch 7 Part'
		]);
		expect(said(map, 3)).toEqual(['button-1 cutoff 4', 'button-2 resonance 4', 'button-3 volume 16']);
		for (const { number } of map.pages) expect(differencesOf(map, number)).toEqual([]);
		expect(copiesFor(map, 1, [2, 3, 7])).toEqual([]);
		expect(copiesFor(map, 2, [9]), 'a copy has none of its own').toEqual([]);
	});

	it('are as many as the surface has pages for', () => {
		const weir = mapOf('osier-weir-9');
		expect(made(weir, copiesFor(weir, 1, [5, 6, 7, 8, 9])).pages.map(({ number }) => number)).toEqual([
			1, 2, 3, 4
		]);
	});

	it('follow what they are copies of, but for what differs; that is named and made alike again', () => {
		let now = write(map, 3, 'button-2', 'Morph');
		expect(differencesOf(now, 3)).toEqual([{ page: 3, control: 'button-2', gesture: 'push' }]);
		now = write(now, 1, 'button-1', 'Kick');
		now = write(now, 1, 'button-2', '');
		now = write(now, 1, 'button-4', 'Data');
		expect(said(now, 2)).toEqual(['button-1 kick 3', 'button-3 volume 16', 'button-4 data 3']);
		expect(said(now, 3)).toEqual([
			'button-1 kick 4',
			expect.stringMatching(/^button-2 morph \d+$/),
			'button-3 volume 16',
			'button-4 data 4'
		]);
		now = made(now, asFirst(now, 3));
		expect(differencesOf(now, 3)).toEqual([]);
		expect(said(now, 3)).toEqual(['button-1 kick 4', 'button-3 volume 16', 'button-4 data 4']);
	});

	it('stand alone once what they are copies of is gone, and keep what they say', () => {
		const now = changed(map, removePage(map, 1));
		expect(now.pages.every(({ like }) => like === undefined)).toBe(true);
		expect(said(now, 4)).toEqual(said(map, 4));
	});

	it('follow it to another place, and themselves to theirs', () => {
		for (const [a, b] of [
			[1, 4],
			[2, 5],
			[6, 9]
		]) {
			const now = changed(map, swapPages(map, a, b));
			const places = (each: ControlMap) =>
				each.pages.map(({ number, like }) => [number, said(each, number), like && said(each, like.page)]);
			const number = (n: number) => (n === a ? b : n === b ? a : n);
			expect(places(now)).toEqual(
				places(map)
					.map(([n, ...rest]) => [number(n as number), ...rest])
					.sort(([one], [other]) => (one as number) - (other as number))
			);
			for (const page of now.pages) expect(differencesOf(now, page.number)).toEqual([]);
		}
	});

	it('are led by a change of the channel that they are for', () => {
		const now = changed(map, [{ path: ['pages', 2, 'like', 'to'], value: 12 }]);
		expect(said(now, 3)).toEqual(['button-1 cutoff 12', 'button-2 resonance 12', 'button-3 volume 16']);
	});

	it('whatever is written where, a line of a copy is what was written on it last, or what the first one says', () => {
		const words = fc.constantFrom('Cutoff', 'Resonance ch 2', 'Kick ch 16', 'Volume ch 9', '—', '');
		const writes = fc.array(fc.tuple(fc.integer({ min: 1, max: 3 }), fc.integer({ min: 1, max: 4 }), words), {
			maxLength: 14
		});
		fc.assert(
			fc.property(writes, (all) => {
				// By hand: a line of a copy differs from when something else was written on it until it says the same again.
				let now = map;
				for (const [page, button, text] of all) {
					const before = new Set(
						differencesOf(now, 2)
							.concat(differencesOf(now, 3))
							.map((l) => `${l.page} ${l.control}`)
					);
					const next = write(now, page, `button-${button}`, text);
					for (const copy of [2, 3])
						for (const each of [1, 2, 3, 4]) {
							const line = (of: ControlMap, number: number) =>
								of.pages
									.find((p) => p.number === number)!
									.assignments.find(({ control }) => control === `button-${each}`);
							if (page === copy && each === button) continue;
							const differed = before.has(`${copy} button-${each}`);
							if (differed) expect(line(next, copy)).toEqual(line(now, copy));
							else {
								const moved = line(next, 1);
								const channel = copy + 1;
								expect(line(next, copy)?.links).toEqual(
									moved?.links.map((l) => (l.channel === 2 ? { ...l, channel } : l))
								);
							}
						}
					now = next;
				}
			}),
			{ numRuns: 60 }
		);
	});
});

describe('what is written of a page', () => {
	const page = first.pages[0];

	it('programs are read as they are written, the page’s own channel where none is told', () => {
		expect(programsMeant(page, 'ch 1: 1–8, 12; 5')).toEqual([
			{ channel: 1, from: 0, to: 7 },
			{ channel: 1, from: 11, to: 11 },
			{ channel: 2, from: 4, to: 4 }
		]);
		expect(programsMeant(page, '')).toEqual([]);
		for (const wrong of ['0', '129', '8-1', 'ch 17: 1', 'one', '1,,2', 'ch 0: 3'])
			expect(programsMeant(page, wrong), wrong).toBeNull();
		const range = fc
			.tuple(fc.integer({ min: 1, max: 16 }), fc.nat({ max: 127 }), fc.nat({ max: 127 }))
			.map(([channel, a, b]) => ({ channel, from: Math.min(a, b), to: Math.max(a, b) }));
		fc.assert(
			fc.property(fc.array(range, { maxLength: 6 }), (programs) => {
				const read = programsMeant(page, programsText({ programs }))!;
				const sorted = (all: typeof programs) => all.map((p) => JSON.stringify(p)).sort();
				expect(sorted(read)).toEqual(sorted(programs));
			})
		);
	});

	it('channels are, too', () => {
		expect(channelsMeant('2–4, 9')).toEqual([2, 3, 4, 9]);
		for (const wrong of ['', '0', '17', '5-2', 'all']) expect(channelsMeant(wrong), wrong).toBeNull();
	});
});
