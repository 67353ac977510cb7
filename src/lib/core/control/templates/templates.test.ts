import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { factoryState, MODELS, seededRandom, type Touch } from '../../bench';
import { profileNamed } from '../../bench/bench.fixture';
import { putParameter, putText, writeParameter, writeText, type Profile } from '../../profile';
import { VirtualClock } from '../../transfer';
import { applyEdits } from '../../edit';
import { mapSchema, type ControlMap } from '../map';
import { assigned, LISTS, mapOf, shippedSurface } from '../map.fixture';
import { compilePage, memoryOf, readTemplate, takeTemplate, unlike, type Says } from '.';
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

/** Records that a controller could hold: each parameter anywhere in its range, texts in what its display can show. */
function anyRecord(profile: Profile) {
	const { record: described } = memoryOf(profile)!;
	const { parameters, texts, name } = described;
	return fc
		.array(fc.nat({ max: 0xffff }), { minLength: 64, maxLength: 64 })
		.chain((seeds) => fc.tuple(fc.constant(seeds), fc.nat({ max: 0xffff })))
		.map(([seeds, turn]) => {
			const random = (i: number) => (seeds[i % seeds.length] * 31 + i * turn) & 0xffff;
			const bytes = Uint8Array.from({ length: described.size }, (_, i) => random(i) & 255);
			parameters.forEach((parameter, i) => {
				const [low, high] = parameter.range;
				const most = /-(number|low|high)$/.test(parameter.id) ? [31, 127, 16382][random(i) % 3] : high;
				putParameter(parameter, bytes, low + (random(i + 7) % (Math.min(most, high) - low + 1)));
			});
			[...(name ? [name] : []), ...texts].forEach((field, i) => {
				const letters = Array.from({ length: random(i) % (field.length + 1) }, (_, n) =>
					String.fromCharCode(65 + (random(i + n) % 26))
				);
				putText(profile, field, bytes, letters.join(''));
			});
			return bytes;
		});
}

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

const MEMORIES = ['osier-tarn', 'osier-weir-9', 'fallow-larch-16', 'quillon-sluice-16'].map(profileNamed);
const START: Partial<Record<Says['kind'], (says: Says) => number[]>> = {
	cc: ({ channel, number }) => [0xaf + channel, number],
	'cc-14': ({ channel, number }) => [0xaf + channel, number],
	rpn: ({ channel, number }) => [0xaf + channel, 101, number >> 7],
	nrpn: ({ channel, number }) => [0xaf + channel, 99, number >> 7],
	note: ({ channel, number }) => [0x8f + channel, number],
	'program-change': ({ channel }) => [0xbf + channel],
	'pitch-bend': ({ channel }) => [0xdf + channel],
	'channel-pressure': ({ channel }) => [0xcf + channel]
};

describe.each(MEMORIES.map((profile) => [profile.id, profile] as const))(
	'the memory of a %s',
	(id, profile) => {
		const memory = memoryOf(profile)!;
		const area = memory.surface.area;
		const bare = mapOf(id, { pages: [{ number: 1 }] });
		const take = (map: ControlMap, held: Uint8Array) =>
			mapSchema.parse(applyEdits(map, takeTemplate(profile, map, 1, held)));

		it('has a cell for gestures that the body has, and for no others', () => {
			const body = shippedSurface(memory.surface.body);
			for (const { control, gesture } of memory.surface.cells)
				expect(body.controls.find((each) => each.id === control)?.gestures, control).toContain(gesture);
		});

		it('is read as the simulated one plays it', () => {
			fc.assert(
				fc.property(anyRecord(profile), (held) => {
					const state = factoryState(profile, seededRandom(4));
					state.memory[area][0] = held;
					const unit = new MODELS[id](profile, state, new VirtualClock(), () => undefined);
					for (const line of readTemplate(profile, held)) {
						const [first] = unit.touch(line.control, line.gesture, line.page - 1);
						if (line.odd) continue;
						expect(first !== undefined, `${line.control} ${line.gesture}`).toBe(line.says !== null);
						if (!line.says) continue;
						const begins = START[line.says.kind]!(line.says);
						expect(first.bytes.slice(0, begins.length), line.control).toEqual(begins);
					}
				}),
				{ numRuns: 12 }
			);
		});

		it('comes back the same from the page that was taken over from it, whatever it holds', () => {
			fc.assert(
				fc.property(anyRecord(profile), fc.boolean(), (held, listed) => {
					const map = take(listed ? bare : { ...bare, lists: [] }, held);
					const lines = readTemplate(profile, held);
					const odd = lines.filter((line) => line.odd).length;
					const compiled = compilePage(profile, map, 1, held);
					expect(unlike(profile, map, 1, held)).toHaveLength(odd);
					if (odd === 0) expect(compiled.bytes).toEqual(held);
					expect(compiled.lost.filter(({ control }) => control)).toEqual([]);
					for (const [i, line] of readTemplate(profile, compilePage(profile, map, 1).bytes).entries()) {
						if (lines[i].says?.way === 'value' || lines[i].says?.way === 'relative') continue;
						// A display that was silent shows what its control tells, in a slot that was never read.
						const text = lines[i].text || line.text;
						expect(line).toEqual({ ...lines[i], odd: false, text });
					}
				}),
				{ numRuns: memory.surface.pages ? 15 : 60 }
			);
		});

		it('holds a page of any shape, and gives it back', () => {
			const targets = LISTS[0].targets.map(({ name }) => name);
			const words = fc.oneof(
				fc
					.tuple(fc.constantFrom(...targets.slice(0, -1)), fc.integer({ min: 1, max: 16 }))
					.map(([name, ch]) => `${name} ch ${ch}`),
				fc.integer({ min: 0, max: 127 }).map((number) => `note ${number}`),
				fc.integer({ min: 0, max: 127 }).map((number) => `CC ${number}`),
				fc.constant('—')
			);
			const cells = memory.surface.cells.filter(({ gesture }) => gesture !== 'long');
			fc.assert(
				fc.property(fc.array(words, { minLength: 4, maxLength: cells.length }), (texts) => {
					const map = texts.reduce<ControlMap>((now, text, i) => {
						const { control, gesture } = cells[i];
						const line = { page: 1, control, gesture: gesture as 'push' };
						return mapSchema.parse(applyEdits(now, writeLine(now, line, meantBy(now, text))));
					}, bare);
					const { bytes } = compilePage(profile, map, 1);
					const back = take(bare, bytes);
					expect(compilePage(profile, back, 1).bytes).toEqual(bytes);
					expect(take(map, bytes).pages[0]).toEqual(map.pages[0]);
				}),
				{ numRuns: memory.surface.pages ? 15 : 60 }
			);
		});
	}
);

describe('names on a display', () => {
	const larch = profileNamed('fallow-larch-16');
	const page = (...assignments: object[]) =>
		mapOf('fallow-larch-16', { pages: [{ number: 1, name: 'Dome', assignments }] });
	const shows = (bytes: Uint8Array, control: string) =>
		readTemplate(larch, bytes).find((line) => line.control === control)!.text;

	it('go along: as they were given, by what is told, or cut, and that is said', () => {
		const map = page(
			{ ...assigned('turn-1', 'cutoff'), name: 'Dark' },
			assigned('turn-2', 'turn', { way: 'relative' }),
			assigned('turn-3', 'resonance')
		);
		const { bytes, lost } = compilePage(larch, map, 1);
		expect(['turn-1', 'turn-2', 'turn-3', 'turn-4'].map((control) => shows(bytes, control))).toEqual([
			'Dark',
			'Turn',
			'Reso',
			''
		]);
		expect(lost).toEqual([{ control: 'turn-3', says: '3: its name, “Resonance”, is shown as “Reso”.' }]);
	});

	it('come back as names of the lines; one that was only cut is not lost', () => {
		const map = page(assigned('turn-3', 'resonance'), { ...assigned('turn-1', 'cutoff'), name: 'Dark' });
		const { bytes } = compilePage(larch, map, 1);
		const text = memoryOf(larch)!.record.texts.find(({ id }) => id === 'e1-text')!;
		const renamed = writeText(larch, text, bytes, 'Dusk');
		expect(unlike(larch, map, 1, renamed)).toMatchObject([
			{ control: '1', there: expect.stringContaining('“Dusk”') }
		]);
		const back = mapSchema.parse(applyEdits(map, takeTemplate(larch, map, 1, renamed)));
		expect(back.pages[0].assignments.map(({ control, name }) => [control, name])).toEqual([
			['turn-3', ''],
			['turn-1', 'Dusk']
		]);
	});
});

describe('a slot that holds all pages', () => {
	const weir = profileNamed('osier-weir-9');
	const map = mapOf('osier-weir-9', {
		name: 'Star show',
		pages: [
			{ number: 1, name: 'Dusk', assignments: [assigned('fader-1', 'volume')] },
			{ number: 3, name: 'Dawn', assignments: [assigned('fader-2', 'cutoff')] }
		]
	});

	it('takes them together, whichever is shown; pages that the map has not stay as they were', () => {
		const base = factoryState(weir, seededRandom(3)).memory.setups[0];
		const made = compilePage(weir, map, 3, base).bytes;
		expect(compilePage(weir, map, 1, base).bytes).toEqual(made);
		const layer = (bytes: Uint8Array, n: number) => bytes.slice(16 + 720 * (n - 1), 16 + 720 * n);
		for (const n of [2, 4]) expect(layer(made, n)).toEqual(layer(base, n));
		const said = readTemplate(weir, made).filter(({ says, page }) => says && (page === 1 || page === 3));
		expect(said.map(({ page, control }) => [page, control])).toEqual([
			[1, 'fader-1'],
			[3, 'fader-2']
		]);
	});

	it('gives back pages that the map has not, with those that it has', () => {
		const base = factoryState(weir, seededRandom(3)).memory.setups[0];
		const back = mapSchema.parse(applyEdits(map, takeTemplate(weir, map, 1, base)));
		expect(back.pages.map(({ number, name }) => [number, name])).toEqual([
			[1, 'Dusk'],
			[2, ''],
			[3, 'Dawn'],
			[4, '']
		]);
		expect(unlike(weir, back, 1, base)).toEqual([]);
	});

	it('has no place for a fifth one, and says so', () => {
		const five = { ...map, pages: [...map.pages, { ...map.pages[0], number: 5, name: 'Night' }] };
		expect(compilePage(weir, five, 1).lost.map(({ says }) => says)).toContain(
			'layer 5: a setup has no place for it.'
		);
	});
});
