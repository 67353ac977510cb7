import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { factoryState, MODELS, seededRandom, type Touch } from '../../bench';
import { profileNamed } from '../../bench/bench.fixture';
import { writeParameter } from '../../profile';
import { VirtualClock } from '../../transfer';
import { applyEdits } from '../edit';
import { mapSchema, type ControlMap } from '../map';
import { assigned, LISTS, mapOf, shippedSurface } from '../map.fixture';
import { compilePage, memoryOf, readTemplate, takeTemplate, unlike } from '.';
import { meantBy } from '../target-words';
import { writeLine } from '../written';

const tarn = profileNamed('osier-tarn');
const { surface, record } = memoryOf(tarn)!;
const pageOf = (...assignments: object[]) =>
	mapOf('osier-tarn', { pages: [{ number: 1, name: 'Cues', assignments }] });
const push = { gesture: 'push', way: 'momentary' };
const taken = (map: ControlMap, held: Uint8Array) =>
	mapSchema.parse(applyEdits(map, takeTemplate(tarn, map, 1, held)));

/** What the simulated panel says when it holds this template; it was built without the profile. */
function said(template: Uint8Array, control: string, how: Touch): number[][] {
	const state = factoryState(tarn, seededRandom(4));
	state.memory.templates[6] = template;
	const unit = new MODELS['osier-tarn'](tarn, state, new VirtualClock(), () => undefined);
	return unit.touch(control, how, 6).map(({ bytes }) => bytes);
}

/** Records that a panel could hold: each parameter anywhere in its range. */
const anyRecord = fc
	.array(fc.nat({ max: 0xffff }), {
		minLength: record.parameters.length,
		maxLength: record.parameters.length
	})
	.map((raws) =>
		record.parameters.reduce<Uint8Array>(
			(bytes, parameter, i) => {
				const [low, high] = parameter.range;
				const most = /-(number|low|high)$/.test(parameter.id) ? [31, 127, 16382][raws[i] % 3] : high;
				return writeParameter(parameter, bytes, low + (raws[i] % (Math.min(most, high) - low + 1)));
			},
			// A name is letters, as a panel writes it.
			Uint8Array.from({ length: record.size }, (_, i) => (i < 16 ? 65 + (raws[i] % 26) : raws[i] & 255))
		)
	);

describe('a template made of a page', () => {
	const map = pageOf(
		assigned('button-1', 'kick', push, { channel: 10 }),
		assigned('button-2', 'cutoff', push, { channel: 3, from: 20_000, to: 20, inverted: false }),
		assigned('button-3', 'sustain', { gesture: 'push', way: 'toggle' }, { channel: 16 }),
		assigned('button-4', 'resonance', { gesture: 'push', way: 'value', value: 100 }, { channel: 2 }),
		assigned('button-4', 'morph', { gesture: 'long', way: 'momentary' }, { channel: 2 }),
		assigned('wheel-left', 'turn', { way: 'relative', encoding: 'offset-64' }, { channel: 5 }),
		assigned('wheel-right', 'volume', {}, { channel: 1, inverted: true })
	);
	const { bytes, lost } = compilePage(tarn, map, 1);

	it('makes the panel say what the page does', () => {
		expect(said(bytes, 'button-1', 'push')).toEqual([
			[0x99, 36, 127],
			[0x89, 36, 0]
		]);
		expect(said(bytes, 'button-2', 'push')).toEqual([
			[0xb2, 74, 0],
			[0xb2, 74, 127]
		]);
		expect(said(bytes, 'button-3', 'push')).toEqual([[0xbf, 64, 127]]);
		expect(said(bytes, 'button-4', 'push')).toEqual([[0xb1, 71, 127]]);
		expect(said(bytes, 'button-4', 'long').slice(0, 4)).toEqual([
			[0xb1, 99, 2],
			[0xb1, 98, 44],
			[0xb1, 6, 127],
			[0xb1, 38, 127]
		]);
		expect(said(bytes, 'wheel-left', 'move').map(([status, cc, value]) => [status, cc, value - 64])).toEqual(
			[1, 1, 2, 1, -1, -1, -2, -1].map((by) => [0xb4, 20, by])
		);
		const volume = said(bytes, 'wheel-right', 'move').map(([, , value]) => value);
		expect([volume[0], Math.min(...volume)]).toEqual([127, 0]);
		expect(said(bytes, 'button-5', 'push'), 'nothing is written on it').toEqual([]);
	});

	it('loses nothing that it can hold', () => {
		expect(lost).toEqual([]);
		expect(unlike(tarn, map, 1, bytes)).toEqual([]);
	});

	it('names what it cannot hold', () => {
		const much = pageOf(
			{ ...assigned('button-1', 'cutoff', push), name: 'Cut' },
			{ control: 'button-2', links: [LINK('cutoff'), LINK('resonance')], ...push },
			assigned('button-3', 'cutoff', push, { reach: 'song' }),
			assigned('button-4', 'cutoff', push, { reach: 'instance' }),
			assigned('button-5', 'cutoff', push, { curve: 'slow-start' }),
			assigned('button-6', 'cutoff', { gesture: 'shift-push', way: 'momentary' }),
			assigned('wheel-left', 'turn', { way: 'relative', encoding: 'sign-bit' }),
			assigned('wheel-right', 'turn', { way: 'relative', acceleration: 8 })
		);
		const long = { ...much, pages: [{ ...much.pages[0], name: 'Twenty-one letters ✱!' }] };
		const made = compilePage(tarn, long, 1);
		const says = made.lost.map((each) => `${each.control}: ${each.says}`).join('\n');
		for (const part of [
			/button-2: .*one thing a control: Resonance is left out/,
			/button-3: .*with the song only/,
			/button-4: .*one instance of a plug-in/,
			/button-5: .*counts evenly/,
			/button-6: .*no place for it/,
			/wheel-left: .*relative sign-bit/,
			/wheel-right: .*acceleration, 8/,
			/null: .*stay on paper/,
			/null: .*cut to “Twenty-one lette”/
		])
			expect(says).toMatch(part);
		expect(made.lost).toHaveLength(9);
		for (const silent of ['button-3', 'button-4', 'wheel-left'])
			expect(said(made.bytes, silent, silent.startsWith('wheel') ? 'move' : 'push')).toEqual([]);
	});

	it('leaves what a map says nothing of as the slot has it', () => {
		const base = factoryState(tarn, seededRandom(9)).memory.templates[2];
		const lamps = record.parameters.find(({ id }) => id === 'lamps')!;
		const lit = writeParameter(lamps, base, 3);
		lit[20] = 0xa5;
		const over = compilePage(tarn, map, 1, lit).bytes;
		expect([over[16], over[20]]).toEqual([lit[16], 0xa5]);
		const unnamed = { ...map, pages: [{ ...map.pages[0], name: '' }] };
		expect(compilePage(tarn, unnamed, 1, lit).bytes.slice(0, 16)).toEqual(lit.slice(0, 16));
	});
});

const LINK = (target: string) => ({ list: 'umbra', target, channel: 2 });

describe('a template taken over into a page', () => {
	it('is what was written, for every message that there is', () => {
		fc.assert(
			fc.property(anyRecord, fc.boolean(), (held, listed) => {
				const empty = pageOf();
				const map = taken(listed ? empty : { ...empty, lists: [] }, held);
				const lines = readTemplate(tarn, held);
				const odd = lines.filter((line) => line.odd).length;
				expect(unlike(tarn, map, 1, held)).toHaveLength(odd);
				if (odd === 0) expect(compilePage(tarn, map, 1, held).bytes).toEqual(held);
				expect(compilePage(tarn, map, 1, held).lost).toEqual([]);
				for (const [i, line] of readTemplate(tarn, compilePage(tarn, map, 1).bytes).entries()) {
					if (lines[i].says?.way !== 'value' && lines[i].says?.way !== 'relative')
						expect(line).toEqual({ ...lines[i], odd: false });
				}
			}),
			{ numRuns: 60 }
		);
	});

	it('says of damaged numbers that they make no message, and takes nothing from them', () => {
		const number = record.parameters.find(({ id }) => id === 'a1-number')!;
		const kind = record.parameters.find(({ id }) => id === 'a1-kind')!;
		let held: Uint8Array = factoryState(tarn, seededRandom(1)).memory.templates[0];
		held = writeParameter(kind, writeParameter(number, held, 300), surface.kinds.indexOf('cc'));
		const map = taken(pageOf(), held);
		expect(unlike(tarn, map, 1, held)).toEqual([
			{
				line: { page: 1, control: 'button-1', gesture: 'push' },
				control: 'A1',
				here: 'nothing',
				there: 'numbers that make no message'
			}
		]);
	});

	it('keeps the names of lines that say the same, and what is the same on every page', () => {
		const map = mapOf('osier-tarn', {
			globals: [assigned('wheel-left', 'turn', { way: 'relative' })],
			pages: [
				{
					number: 1,
					assignments: [
						assigned('button-1', 'cutoff', { ...push, name: 'Dark' }),
						assigned('button-2', 'resonance', { ...push, name: 'Edge' })
					]
				}
			]
		});
		const held = compilePage(tarn, map, 1).bytes;
		const high = record.parameters.find(({ id }) => id === 'a1-high')!;
		const kind = record.parameters.find(({ id }) => id === 'left-kind')!;
		const other = taken(map, writeParameter(kind, writeParameter(high, held, 64), 0));
		const line = (control: string) => other.pages[0].assignments.find((each) => each.control === control);
		expect(line('button-1')).toMatchObject({ name: 'Dark', links: [{ target: 'cutoff' }] });
		expect(line('button-1')!.links[0].to).toBeCloseTo(20 * 1000 ** (64 / 127), 6);
		expect(line('button-2')).toEqual(map.pages[0].assignments[1]);
		expect(line('wheel-left'), 'on this page it says nothing').toMatchObject({ empty: true });
		expect(other.globals).toEqual(map.globals);
	});
});

it('a page of any shape comes back the same from the template that it makes', () => {
	const targets = LISTS[0].targets.map(({ name }) => name);
	const words = fc.oneof(
		fc
			.tuple(fc.constantFrom(...targets), fc.integer({ min: 1, max: 16 }))
			.map(([name, ch]) => `${name} ch ${ch}`),
		fc.integer({ min: 0, max: 127 }).map((number) => `note ${number}`),
		fc.integer({ min: 0, max: 16382 }).map((number) => `NRPN ${number}`),
		fc.constant('—')
	);
	const cells = surface.cells.filter(({ gesture }) => gesture !== 'long');
	fc.assert(
		fc.property(fc.array(words, { minLength: 4, maxLength: cells.length }), (written) => {
			const map = written.reduce<ControlMap>((now, text, i) => {
				const { control, gesture } = cells[i];
				const line = { page: 1, control, gesture: gesture as 'push' };
				return mapSchema.parse(applyEdits(now, writeLine(now, line, meantBy(now, text))));
			}, pageOf());
			const { bytes } = compilePage(tarn, map, 1);
			const back = taken(pageOf(), bytes);
			expect(compilePage(tarn, back, 1).bytes).toEqual(bytes);
			expect(takeTemplate(tarn, map, 1, bytes).at(-1)!.value).toEqual(map.pages[0]);
		}),
		{ numRuns: 80 }
	);
});

it('every cell of the shipped profile is a gesture that the body has', () => {
	const body = shippedSurface(surface.body);
	for (const { control, gesture } of surface.cells)
		expect(body.controls.find(({ id }) => id === control)?.gestures, control).toContain(gesture);
});
