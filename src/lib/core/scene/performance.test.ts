import { describe, expect, it } from 'vitest';
import { pick, seededRandom } from '../bench';
import { naiveSounding, type Step } from './naive-performance.fixture';
import { Performance, type Heard } from './performance';
import { setupSchema, type Setup } from './setup';
import { Voices } from './voices';

const setup = (given: object): Setup => setupSchema.parse(given);
const names = (heard: Heard) =>
	heard.told.map(
		({ instrument, channel, message }) =>
			`${instrument}/${channel} ${[...message].map((b) => b.toString(16)).join(' ')}`
	);
const ON = (key: number, velocity = 100): Uint8Array => Uint8Array.of(0x90, key, velocity);
const OFF = (key: number): Uint8Array => Uint8Array.of(0x80, key, 0);
const CC = (controller: number, value: number): Uint8Array => Uint8Array.of(0xb0, controller, value);

/** Strings over bass below, a lead above, on one keyboard. */
const SPLIT = {
	players: [{ id: 'p', name: 'Upper' }],
	instruments: [
		{ id: 'm', name: 'Module' },
		{ id: 'b', name: 'Bass', keys: [24, 60] }
	],
	zones: [
		{ id: 'strings', name: 'Strings', player: 'p', keys: [0, 59], to: [{ instrument: 'm', channel: 1 }] },
		{
			id: 'bass',
			name: 'Bass',
			player: 'p',
			keys: [0, 59],
			octaves: -1,
			to: [{ instrument: 'b', channel: 2 }]
		},
		{ id: 'lead', name: 'Lead', player: 'p', keys: [60, 127], to: [{ instrument: 'm', channel: 3 }] }
	]
};
const changed = (id: string, more: object): Setup =>
	setup({ ...SPLIT, zones: SPLIT.zones.map((zone) => (zone.id === id ? { ...zone, ...more } : zone)) });

describe('playing through a setup', () => {
	it('goes where the zones of a key lead, and tells what made no note', () => {
		const performance = new Performance(setup(SPLIT));
		expect(names(performance.play('p', ON(48)))).toEqual(['m/1 90 30 64', 'b/2 91 24 64']);
		expect(names(performance.play('p', OFF(48)))).toEqual(['m/1 80 30 40', 'b/2 81 24 40']);
		expect(names(performance.play('p', ON(60)))).toEqual(['m/3 92 3c 64']);
		expect(performance.play('p', ON(30)).dropped).toEqual([
			{ player: 'p', key: 30, zone: 'bass', instrument: 'b', why: 'out of its range' }
		]);
		expect(performance.play('x', ON(30))).toEqual({ told: [], dropped: [] });
	});

	it('ends a note where it was begun, whatever the setup was changed to', () => {
		const performance = new Performance(setup(SPLIT));
		performance.play('p', ON(48));
		expect(names(performance.change(changed('bass', { octaves: 1, on: false })))).toEqual([]);
		expect(names(performance.play('p', OFF(48)))).toEqual(['m/1 80 30 40', 'b/2 81 24 40']);
	});

	it('lets a pedal go where it was pressed, also where no zone leads any more', () => {
		const performance = new Performance(setup(SPLIT));
		expect(names(performance.play('p', CC(64, 127)))).toEqual([
			'm/1 b0 40 7f',
			'b/2 b1 40 7f',
			'm/3 b2 40 7f'
		]);
		performance.change(changed('bass', { on: false }));
		expect(names(performance.play('p', CC(64, 0)))).toEqual(['m/1 b0 40 0', 'm/3 b2 40 0', 'b/2 b1 40 0']);
		// One that comes in while a pedal is down is told so.
		performance.play('p', CC(64, 127));
		expect(names(performance.change(setup(SPLIT)))).toEqual(['b/2 b1 40 7f']);
	});

	it('has a pedal take a layer out, with its notes or without, and bring it back', () => {
		for (const [notes, told] of [
			['end', ['b/2 81 24 40']],
			['ring', []]
		] as const) {
			const performance = new Performance(
				changed('bass', { leaves: { controller: 80, when: 'down', notes } })
			);
			performance.play('p', ON(48));
			expect(names(performance.play('p', CC(80, 127)))).toEqual(told);
			expect(names(performance.play('p', ON(50)))).toEqual(['m/1 90 32 64']);
			performance.play('p', CC(80, 0));
			expect(names(performance.play('p', ON(52)))).toEqual(['m/1 90 34 64', 'b/2 91 28 64']);
			expect(names(performance.play('p', OFF(48)))).toEqual([
				'm/1 80 30 40',
				...(notes === 'ring' ? ['b/2 81 24 40'] : [])
			]);
		}
	});

	it('sounds a note that two zones make once, until both have let it go', () => {
		const performance = new Performance(
			setup({
				...SPLIT,
				zones: [
					{ id: 'a', name: 'A', player: 'p', to: [{ instrument: 'm', channel: 1 }] },
					{ id: 'b', name: 'B', player: 'p', octaves: 1, to: [{ instrument: 'm', channel: 1 }] }
				]
			})
		);
		performance.play('p', ON(48));
		expect(names(performance.play('p', ON(60)))).toEqual(['m/1 80 3c 40', 'm/1 90 3c 64', 'm/1 90 48 64']);
		expect(names(performance.play('p', OFF(48)))).toEqual(['m/1 80 30 40']);
		expect(names(performance.play('p', OFF(60)))).toEqual(['m/1 80 3c 40', 'm/1 80 48 40']);
	});

	it('puts wheels to rest where no zone leads any more', () => {
		const performance = new Performance(setup(SPLIT));
		performance.play('p', Uint8Array.of(0xe0, 0, 0x50));
		performance.play('p', CC(1, 90));
		expect(names(performance.change(changed('lead', { on: false })))).toEqual(['m/3 e2 0 40', 'm/3 b2 1 0']);
		expect(names(performance.end())).toEqual(['m/1 e0 0 40', 'm/1 b0 1 0', 'b/2 e1 0 40', 'b/2 b1 1 0']);
	});

	it('follows, at a place that two players reach, the wheel that was turned last', () => {
		const performance = new Performance(
			setup({
				...SPLIT,
				players: [
					{ id: 'p', name: 'Upper' },
					{ id: 'q', name: 'Lower' }
				],
				zones: ['p', 'q'].map((player) => ({
					id: player,
					name: player,
					player,
					to: [{ instrument: 'm', channel: 1 }]
				}))
			})
		);
		performance.play('p', CC(1, 20));
		expect(names(performance.play('q', CC(1, 50)))).toEqual(['m/1 b0 1 32']);
		expect(names(performance.play('p', CC(1, 70)))).toEqual(['m/1 b0 1 46']);
	});

	it('has a layer back, after the end, that a pedal had taken out', () => {
		const performance = new Performance(changed('bass', { leaves: { controller: 80 } }));
		performance.play('p', CC(80, 127));
		performance.end();
		expect(names(performance.play('p', ON(48)))).toEqual(['m/1 90 30 64', 'b/2 91 24 64']);
	});

	it('steals the oldest voice of a pedal where an instrument has no more', () => {
		const voices = new Voices(() => 2);
		const tell = (...message: [number, number, number]) =>
			voices.hear({ instrument: 'm', channel: 1, message: Uint8Array.from(message) });
		tell(0x90, 40, 100);
		tell(0x90, 41, 100);
		tell(0xb0, 64, 127);
		tell(0x80, 41, 0);
		expect(tell(0x90, 42, 100)).toMatchObject({ note: 41 });
		expect(tell(0x90, 43, 100)).toMatchObject({ note: 40 });
		expect(voices.sounding.map(({ note }) => note)).toEqual([42, 43]);
	});
});

const PLACES = [
	{ instrument: 'm', channel: 1 },
	{ instrument: 'm', channel: 2 },
	{ instrument: 'n', channel: 1 },
	{ instrument: 'gone', channel: 5 }
];

function randomSetup(random: () => number): Setup {
	const chance = (share: number) => random() < share;
	const whole = (low: number, high: number) => low + Math.floor(random() * (high - low + 1));
	const range = (low: number, high: number) => {
		const ends = [whole(low, high), whole(low, high)].sort((a, b) => a - b);
		return chance(0.4) ? [low, high] : ends;
	};
	return setup({
		players: ['p', 'q'].map((id) => ({ id, name: id, own: chance(0.5) ? 'n' : null, local: chance(0.5) })),
		instruments: [
			{ id: 'm', name: 'M', keys: range(30, 90) },
			{ id: 'n', name: 'N' }
		],
		zones: Array.from({ length: whole(1, 5) }, (_, i) => ({
			id: `z${i}`,
			name: `Z${i}`,
			player: pick(random, ['p', 'q']),
			on: chance(0.85),
			keys: range(40, 52),
			octaves: pick(random, [0, 0, 1, -1, 6]),
			semitones: pick(random, [0, 0, 7]),
			struck: range(1, 127),
			fadeIn: pick(random, [0, 20]),
			curve: pick(random, ['even', 'soft', 'hard', 'full']),
			to: PLACES.filter(() => chance(0.4)),
			through: { pedals: chance(0.8), wheels: chance(0.8) },
			expression: pick(random, ['nothing', 'volume', 'velocity']),
			leaves: chance(0.4)
				? {
						controller: pick(random, [80, 81]),
						when: pick(random, ['down', 'up']),
						notes: pick(random, ['end', 'ring'])
					}
				: null
		}))
	});
}

function randomSteps(random: () => number, count: number): Step[] {
	const whole = (low: number, high: number) => low + Math.floor(random() * (high - low + 1));
	return Array.from({ length: count }, (): Step => {
		if (random() < 0.08) return { do: 'change', setup: randomSetup(random) };
		const player = pick(random, ['p', 'q']);
		const message = pick<() => [number, number, number]>(random, [
			() => [0x90, whole(40, 52), whole(1, 127)],
			() => [0x90, whole(40, 52), whole(1, 127)],
			() => [random() < 0.5 ? 0x80 : 0x90, whole(40, 52), 0],
			() => [0x80, whole(40, 52), 0],
			() => [0xb0, pick(random, [64, 66, 80, 81]), pick(random, [0, 0, 30, 64, 127])],
			() => [0xb0, pick(random, [64, 66, 11, 1]), whole(0, 127)],
			() => [0xe0, 0, whole(0, 127)]
		])();
		return { do: 'play', player, message };
	});
}

describe('whatever is played, and whatever is changed in the midst', () => {
	it('sounds what a naive computation says after each step of 1,500 performances, and is silent at the end', () => {
		let [most, rung] = [0, 0];
		for (let seed = 1; seed <= 1500; seed++) {
			const random = seededRandom(seed);
			const first = randomSetup(random);
			const steps = randomSteps(random, 40);
			const performance = new Performance(first);
			const voices = new Voices();
			const pedals = new Map<string, number>();
			const told = (heard: Heard) =>
				heard.told.forEach((each) => {
					voices.hear(each);
					const [status, controller, value] = each.message;
					if (status >> 4 !== 0xb || (controller !== 64 && controller !== 66)) return;
					// No pedal is told what it was told last.
					const name = `${each.instrument}/${each.channel} ${controller}`;
					expect({ seed, name, value }).not.toEqual({ seed, name, value: pedals.get(name) ?? 0 });
					pedals.set(name, value);
				});
			const said = steps.map((step) => {
				told(
					step.do === 'change'
						? performance.change(step.setup)
						: performance.play(step.player, Uint8Array.from(step.message))
				);
				rung += voices.sounding.filter(({ held }) => held === 'pedal').length;
				return voices.sounding
					.map(({ instrument, channel, note }) => `${instrument}/${channel} ${note}`)
					.sort();
			});
			most = Math.max(most, ...said.map(({ length }) => length));
			const naive = naiveSounding(first, steps).map((each) => [...each].sort());
			expect({ seed, sounding: said }).toEqual({ seed, sounding: naive });
			told(performance.end());
			expect({ seed, sounding: voices.sounding }).toEqual({ seed, sounding: [] });
			// Nothing is left that would be told.
			expect({ seed, told: performance.end().told }).toEqual({ seed, told: [] });
		}
		// None of it is silent by chance.
		expect(most).toBeGreaterThan(12);
		expect(rung).toBeGreaterThan(5000);
	}, 120_000);
});
