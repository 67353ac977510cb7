import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { draftOf, heldAt, noteHeld, nothingHeld } from './held';
import { louderDb, sceneChange, type SceneMessage } from './scene-change';
import { deskSchema, setSchema, type Desk, type ShowSet } from './set';

const zone = (id: string, instrument: string, channel: number, more: object = {}) => ({
	id,
	name: id,
	player: 'keys',
	to: [{ instrument, channel }],
	...more
});
const sound = (program: number, msb: number | null = null, lsb: number | null = null) => ({
	name: `Sound ${program}`,
	msb,
	lsb,
	program
});

/** Two instruments with two channels each, all of them reached. */
const studio = (more: { a?: object; b?: object } = {}): ShowSet =>
	setSchema.parse({
		setup: {
			players: [{ id: 'keys', name: 'Keys' }],
			instruments: [
				{ id: 'a', name: 'Dome choir', ...more.a },
				{ id: 'b', name: 'Low brass', ...more.b }
			],
			zones: [zone('one', 'a', 1), zone('two', 'a', 2), zone('three', 'b', 1), zone('four', 'b', 2)]
		}
	});
const desk = (set: ShowSet, parts: object[], more: object = {}): Desk =>
	deskSchema.parse({ zones: set.setup.zones, parts, ...more });
const told = ({ messages }: { messages: SceneMessage[] }) =>
	messages.map(({ instrument, bytes }) => `${instrument} ${bytes.map((b) => b.toString(16)).join(' ')}`);

describe('messages of a change', () => {
	const set = studio();
	it('sends all that is not known: bank, bank LSB, program, volume', () => {
		const wanted = desk(set, [{ instrument: 'a', channel: 2, sound: sound(5, 1, 2), volume: 80 }]);
		const change = sceneChange(set, nothingHeld, wanted);
		expect(told(change)).toEqual(['a b1 7 50', 'a b1 0 1', 'a b1 20 2', 'a c1 5']);
		expect(change.jumps).toEqual([]);
		expect(told(sceneChange(set, change.held, wanted))).toEqual([]);
	});
	it('sends a program alone within a bank, and nothing for channels that no zone reaches', () => {
		const { held } = sceneChange(
			set,
			nothingHeld,
			desk(set, [{ instrument: 'a', channel: 1, sound: sound(5, 1, 2) }])
		);
		const next = desk(set, [
			{ instrument: 'a', channel: 1, sound: sound(6, 1, 2) },
			{ instrument: 'b', channel: 9, sound: sound(1) }
		]);
		expect(told(sceneChange(set, held, next))).toEqual(['a c0 6']);
	});
	it('turns down before it loads and up after, and tells a jump', () => {
		const slow = studio({ a: { loadMs: 50 } });
		const at = (volume: number, program: number) =>
			desk(slow, [{ instrument: 'a', channel: 1, sound: sound(program), volume }]);
		const loud = sceneChange(slow, nothingHeld, at(100, 1));
		const soft = sceneChange(slow, loud.held, at(20, 2));
		expect(told(soft)).toEqual(['a b0 7 14', 'a c0 2']);
		const again = sceneChange(slow, soft.held, at(100, 1));
		expect(told(again)).toEqual(['a c0 1', 'a b0 7 64']);
		expect(again.messages[1].atMs).toBeCloseTo(0.64 + 50);
		expect(again.jumps).toEqual([{ instrument: 'a', channel: 1, db: louderDb(20, 100) }]);
		expect(louderDb(20, 100)).toBeCloseTo(27.96);
	});
	it('ends held notes only where the instrument does not let them ring and notes are held', () => {
		const deaf = studio({ a: { rings: false } });
		const to = desk(deaf, [
			{ instrument: 'a', channel: 1, sound: sound(1) },
			{ instrument: 'a', channel: 2, sound: sound(1) },
			{ instrument: 'b', channel: 1, sound: sound(1) }
		]);
		const sounding = [
			{ instrument: 'a', channel: 2 },
			{ instrument: 'b', channel: 1 }
		];
		const change = sceneChange(deaf, nothingHeld, to, { sounding });
		expect(change.silenced).toEqual([{ instrument: 'a', channel: 2 }]);
		expect(told(change)).toEqual(['a c0 1', 'b c0 1', 'a b1 40 0', 'a b1 7b 0', 'a c1 1']);
		// Where nobody knows, all that cannot ring are ended.
		expect(sceneChange(deaf, nothingHeld, to).silenced).toHaveLength(2);
	});
	it('says what goes nowhere, and keeps back what drops out until it is asked for', () => {
		const odd = studio({ a: { away: true }, b: { dropsOut: true } });
		const to = desk(odd, [
			{ instrument: 'a', channel: 1, sound: sound(1), volume: 50 },
			{ instrument: 'b', channel: 1, sound: sound(1) }
		]);
		const change = sceneChange(odd, nothingHeld, to);
		expect(change).toMatchObject({
			messages: [],
			unreached: [{ instrument: 'a', why: 'away', messages: 2 }],
			keptBack: [{ instrument: 'b', messages: 1 }],
			unmeasured: []
		});
		expect(change.held.parts).toEqual({});
		expect(told(sceneChange(odd, nothingHeld, to, { asked: ['b'] }))).toEqual(['b c0 1']);
		const noWay = sceneChange(set, nothingHeld, to, { line: () => null });
		expect(noWay.unreached.map(({ why }) => why)).toEqual(['no way', 'no way']);
	});
	it('sends local, messages of one’s own first, and asks hands for what no message does', () => {
		const own = setSchema.parse({
			...set,
			setup: { ...set.setup, players: [{ id: 'keys', name: 'Keys', own: 'a', sends: 3 }] }
		});
		const to = desk(own, [{ instrument: 'a', channel: 1, sound: sound(4) }], {
			local: { keys: false },
			tempo: 96,
			pages: [{ controller: 'Span', page: 'Comets' }],
			messages: [
				{ instrument: 'a', channel: 1, says: 'the fourth program', bytes: 'c9 04' },
				{ instrument: 'b', says: 'whatever it is', bytes: 'f0 7d 01 f7' }
			]
		});
		const change = sceneChange(own, nothingHeld, to);
		// The program that is wanted came by a message of one's own: it is not sent again.
		expect(told(change)).toEqual(['a c0 4', 'b f0 7d 1 f7', 'a b2 7a 0']);
		expect(change.hands).toEqual(['Span: turn to Comets.', 'Tempo 96.']);
		expect(sceneChange(own, change.held, { ...to, messages: [] })).toMatchObject({ messages: [], hands: [] });
	});
	it('brings a keyboard’s own sound where its keys play it, and not where local is off', () => {
		const keys = setSchema.parse({
			setup: {
				players: [{ id: 'keys', name: 'Keys', own: 'a', sends: 5 }],
				instruments: [{ id: 'a', name: 'Keys' }]
			}
		});
		const to = (local: boolean) =>
			deskSchema.parse({ local: { keys: local }, parts: [{ instrument: 'a', channel: 5, sound: sound(7) }] });
		expect(told(sceneChange(keys, nothingHeld, to(true)))).toEqual(['a b4 7a 7f', 'a c4 7']);
		expect(told(sceneChange(keys, nothingHeld, to(false)))).toEqual(['a b4 7a 0']);
	});
	it('ends what sounds in a scene that is silent', () => {
		const off = desk(set, [], {
			silence: true,
			zones: set.setup.zones.map((each) => ({ ...each, on: false }))
		});
		expect(told(sceneChange(set, nothingHeld, off)).filter((each) => each.includes('7b'))).toHaveLength(4);
		expect(sceneChange(set, nothingHeld, off, { sounding: [] }).messages).toEqual([]);
	});
	it('is ready soonest where the one that loads longest comes first on its wire', () => {
		const slow = studio({ a: { loadMs: 10 }, b: { loadMs: 90 } });
		const to = desk(slow, [
			{ instrument: 'a', channel: 1, sound: sound(1) },
			{ instrument: 'b', channel: 1, sound: sound(1) }
		]);
		const { messages, readyMs, lines } = sceneChange(slow, nothingHeld, to, { line: () => 'Out 1' });
		expect(messages.map(({ instrument }) => instrument)).toEqual(['b', 'a']);
		expect(readyMs).toBeCloseTo(90.64);
		expect(lines[0].busyMs).toBeCloseTo(1.28);
	});
});

/** An instrument's channel as it is, played by rules of its own. */
interface Real {
	msb: number;
	lsb: number;
	sounds: string;
	volume: number;
}
const play = (real: Real, [status, first, second]: readonly number[]): Real => {
	if (status >> 4 === 0xc) return { ...real, sounds: `${real.msb}/${real.lsb}/${first}` };
	if (first === 0) return { ...real, msb: second };
	if (first === 32) return { ...real, lsb: second };
	return first === 7 ? { ...real, volume: second } : real;
};
const VALUES = [0, 1];
const LEVELS = [50, 100];
const everyReal = VALUES.flatMap((msb) =>
	VALUES.flatMap((lsb) =>
		VALUES.flatMap((m) =>
			VALUES.flatMap((l) =>
				VALUES.flatMap((p) => LEVELS.map((volume): Real => ({ msb, lsb, sounds: `${m}/${l}/${p}`, volume })))
			)
		)
	)
);
const EVERY_MESSAGE = [
	...VALUES.flatMap((value) => [
		[0xb0, 0, value],
		[0xb0, 32, value],
		[0xc0, value]
	]),
	...LEVELS.map((value) => [0xb0, 7, value])
];

/** The fewest messages after which every state that it may be in is one that is wanted: tried breadth first. */
function fewest(maybe: Real[], wanted: (real: Real) => boolean): number {
	const key = (states: Real[]) => [...new Set(states.map((each) => JSON.stringify(each)))].sort().join();
	let wave = [maybe];
	const seen = new Set(wave.map(key));
	for (let messages = 0; ; messages++) {
		if (wave.some((states) => states.every(wanted))) return messages;
		wave = wave
			.flatMap((states) => EVERY_MESSAGE.map((message) => states.map((real) => play(real, message))))
			.filter((states) => !seen.has(key(states)) && seen.add(key(states)));
	}
}

const half = fc.constantFrom(null, 0, 1);
const soundOf = fc.record({ msb: half, lsb: half, program: fc.constantFrom(0, 1) });
const wantedOf = fc.record({
	sound: fc.option(soundOf.map(({ program, msb, lsb }) => sound(program, msb, lsb))),
	volume: fc.option(fc.constantFrom(...LEVELS))
});
const meets = (wanted: { sound: ReturnType<typeof sound> | null; volume: number | null }) => (real: Real) => {
	const [m, l, p] = real.sounds.split('/').map(Number);
	const one = wanted.sound;
	return (
		(wanted.volume === null || real.volume === wanted.volume) &&
		(one === null ||
			(p === one.program && (one.msb === null || m === one.msb) && (one.lsb === null || l === one.lsb)))
	);
};

it('takes the fewest messages that any order of any messages needs, from whatever is known, and arrives', () => {
	const set = studio();
	fc.assert(
		fc.property(fc.array(fc.constantFrom(...EVERY_MESSAGE), { maxLength: 5 }), wantedOf, (before, wanted) => {
			const held = draftOf(nothingHeld);
			for (const message of before) noteHeld(held, 'a', 1, message);
			const maybe = everyReal.map((real) => before.reduce(play, real));
			const change = sceneChange(set, held, desk(set, [{ instrument: 'a', channel: 1, ...wanted }]));
			expect(change.messages).toHaveLength(fewest(maybe, meets(wanted)));
			for (const real of maybe)
				expect(meets(wanted)(change.messages.reduce((now, { bytes }) => play(now, bytes), real))).toBe(true);
		}),
		{ numRuns: 120 }
	);
});

it('what is said to be held is what instruments hold, wherever they came from, and messages never overlap', () => {
	const set = studio({ a: { loadMs: 3, restMs: 1, rings: false }, b: { restMs: 2 } });
	const places = [1, 2].flatMap((channel) => ['a', 'b'].map((instrument) => ({ instrument, channel })));
	const deskWith = fc.tuple(...places.map(() => wantedOf)).map((all) =>
		desk(
			set,
			all.map((each, i) => ({ ...places[i], ...each }))
		)
	);
	fc.assert(
		fc.property(fc.array(deskWith, { minLength: 1, maxLength: 4 }), fc.boolean(), (desks, together) => {
			let held = nothingHeld;
			const real = new Map(
				places.map((place, i) => [JSON.stringify(place), everyReal[(i * 7) % everyReal.length]])
			);
			for (const to of desks) {
				const change = sceneChange(set, held, to, together ? { line: () => 'Out 1' } : {});
				const before: SceneMessage[] = [];
				const free = new Map<string, number>();
				for (const message of change.messages) {
					const { instrument, channel, bytes, atMs, untilMs, line } = message;
					const place = JSON.stringify({ instrument, channel });
					real.set(place, play(real.get(place)!, bytes));
					const last = before.findLast((each) => each.line === line);
					if (last) expect(atMs).toBeGreaterThanOrEqual(last.untilMs - 1e-9);
					expect(atMs).toBeGreaterThanOrEqual((free.get(instrument) ?? 0) - 1e-9);
					const { restMs, loadMs } = set.setup.instruments.find(({ id }) => id === instrument)!;
					free.set(instrument, untilMs + Math.max(restMs, bytes[0] >> 4 === 0xc ? (loadMs ?? 0) : 0));
					before.push(message);
				}
				held = change.held;
				for (const place of places) {
					const known = heldAt(held, place.instrument, place.channel);
					const is = real.get(JSON.stringify(place))!;
					if (known.volume !== null) expect(is.volume).toBe(known.volume);
					if (known.selected?.msb != null && known.selected.lsb !== null)
						expect(is.sounds).toBe(`${known.selected.msb}/${known.selected.lsb}/${known.selected.program}`);
					const wanted = to.parts.find(
						(part) => part.instrument === place.instrument && part.channel === place.channel
					)!;
					expect(meets({ sound: wanted.sound, volume: wanted.volume })(is)).toBe(true);
				}
			}
		}),
		{ numRuns: 200 }
	);
});
