import { describe, expect, it } from 'vitest';
import { readings, trackAt, wiringOf, type Pairing } from './circuit';
import { modeOf, type CableKind, type Jack, type Pedal } from './floor';
import { JACK_KINDS, jackOfKind, PEDAL_KINDS, pedalOf } from './kinds';
import { naiveLevel } from './network.fixture';
import { judge, type VerdictKind } from './verdict';

const KNOWN = { pull: 10, feed: 1, load: 1000, pot: 25 };
const ASSUMED = { pullKohm: KNOWN.pull, feedKohm: KNOWN.feed, loadKohm: KNOWN.load, potKohm: KNOWN.pot };
const noted = (jack: Jack): Jack => ({
	...jack,
	modes: jack.modes.map((mode) => ({
		...mode,
		pullKohm: KNOWN.pull,
		feedKohm: KNOWN.feed,
		loadKohm: KNOWN.load
	}))
});
/** Every kind of jack in every mode, with everything that can be set; what is alike but for its menus once. */
const JACKS: Jack[] = [
	...new Map(
		JACK_KINDS.flatMap((kind) => {
			const jack = noted(jackOfKind(kind, kind.id, kind.title));
			return jack.modes.flatMap((mode) =>
				(mode.rest === 'set' ? (['open', 'closed'] as const) : (['open'] as const)).map((rest) => ({
					...jack,
					set: { ...jack.set, mode: mode.id, rest }
				}))
			);
		}).map((jack): [string, Jack] => {
			const { takes, wiper, rest } = modeOf(jack);
			return [JSON.stringify([jack.socket, takes, wiper, rest, jack.set.rest]), jack];
		})
	).values()
];
const PEDALS: Pedal[] = PEDAL_KINDS.flatMap((kind) => {
	const pedal = pedalOf(kind, kind.id, kind.title);
	const known: Pedal = {
		...pedal,
		parts: pedal.parts.map((part) => (part.is === 'pot' ? { ...part, kohm: KNOWN.pot } : part))
	};
	return known.flips ? [known, { ...known, flipped: true }] : [known];
});
const CABLES: (CableKind | null)[] = [null, 'ts', 'trs', 'crossed', 'split'];

/** Every jack, cable and pedal that go together; and two jacks, or two pedals, on a splitting cable. */
const pairings: Pairing[] = [
	...JACKS.flatMap((jack) =>
		PEDALS.flatMap((pedal) => CABLES.map((cable): Pairing => ({ jacks: [jack], cable, pedals: [pedal] })))
	),
	...JACKS.filter((jack) => modeOf(jack).takes === 'switch').flatMap((jack) =>
		PEDALS.map((pedal): Pairing => ({ jacks: [jack, jack], cable: 'split', pedals: [pedal] }))
	),
	...JACKS.filter((jack) => modeOf(jack).takes !== 'expression').flatMap((jack) =>
		PEDALS.filter(({ plug, parts }) => plug.startsWith('socket') && parts.length === 1).map(
			(pedal): Pairing => ({ jacks: [jack], cable: 'split', pedals: [pedal, pedal] })
		)
	)
].filter((pairing) => wiringOf(pairing) !== null);

/** Feet up and down, pots at five places of their way. */
const positionsOf = ({ pedals }: Pairing): number[][][] =>
	pedals.reduce<number[][][]>(
		(all, { parts }) =>
			all.flatMap((before) =>
				parts
					.reduce<number[][]>(
						(each, part) =>
							each.flatMap((so) =>
								(part.is === 'pot' ? [0, 0.2, 0.5, 0.9, 1] : [0, 1]).map((at) => [...so, at])
							),
						[[]]
					)
					.map((own) => [...before, own])
			),
		[[]]
	);

/** What a switch does, told by its own words and not by the code: a normally closed one opens under the foot. */
const touching = (pedal: Pedal, part: number, down: boolean): boolean => {
	const each = pedal.parts[part];
	if (each.is !== 'switch') return false;
	const atRest = (each.rest === 'closed' ? 1 : 0) + (pedal.flipped ? 1 : 0) === 1;
	return down ? !atRest : atRest;
};

const naive = (pairing: Pairing, position: number[][], input: { jack: number; contact: 'tip' | 'ring' }) =>
	naiveLevel(
		pairing.jacks,
		pairing.cable,
		pairing.pedals,
		pairing.pedals.map((pedal, p) => pedal.parts.map((_, i) => touching(pedal, i, position[p][i] === 1))),
		pairing.pedals.map((pedal, p) =>
			pedal.parts.map((part, i) => (part.is === 'pot' ? trackAt(part, position[p][i]) : 0))
		),
		input,
		KNOWN
	);

describe('what a box reads', () => {
	it('is what counting forests of the soldered network gives, for every kind of jack, cable and pedal', () => {
		let compared = 0;
		for (const pairing of pairings)
			for (const position of positionsOf(pairing)) {
				for (const { jack, contact, level } of readings(pairing, position, ASSUMED)!) {
					expect(level).toBeCloseTo(naive(pairing, position, { jack, contact }), 4);
					compared++;
				}
			}
		expect(compared).toBeGreaterThan(1000);
	});

	it('comes to the verdict that the table of all positions gives', () => {
		const kinds = new Map<VerdictKind, number>();
		for (const pairing of pairings) {
			const { kind } = judge(pairing);
			expect([
				pairing.jacks[0].id,
				modeOf(pairing.jacks[0]).id,
				pairing.cable,
				pairing.pedals[0].id,
				kind
			]).toEqual([
				pairing.jacks[0].id,
				modeOf(pairing.jacks[0]).id,
				pairing.cable,
				pairing.pedals[0].id,
				byTable(pairing)
			]);
			kinds.set(kind, (kinds.get(kind) ?? 0) + 1);
		}
		// Each verdict was met.
		expect([...kinds.keys()].sort()).toEqual(
			['backwards', 'cannot', 'exchanged', 'inverted', 'one of two', 'works'].sort()
		);
	});
});

/** A verdict by looking at the naive levels of every position, and by nothing else. */
function byTable(pairing: Pairing): VerdictKind {
	const modes = pairing.jacks.map(modeOf);
	const parts = pairing.pedals.flatMap(({ parts }, pedal) => parts.map((part, i) => ({ part, pedal, i })));
	const positions = positionsOf(pairing);
	const down = (position: number[][], foot: number) => position[parts[foot].pedal][parts[foot].i] === 1;
	if (modes.some(({ takes }) => takes === 'expression')) {
		if (pairing.jacks.length > 1 || parts.length > 1 || parts[0].part.is === 'switch') return 'cannot';
		const input = { jack: 0, contact: modes[0].wiper };
		const at = (travel: number) => naive(pairing, [[travel]], input);
		const levels = [0, 0.125, 0.25, 0.375, 0.5, 0.625, 0.75, 0.875, 1].map(at);
		const moved = levels.at(-1)! - levels[0];
		if (Math.abs(moved) < 0.25) return 'cannot';
		// A pedal is one whose middle half does at least a fifth of the work.
		if (Math.abs(levels[6] - levels[2]) < 0.2 * Math.abs(moved)) return 'cannot';
		return moved > 0 ? 'works' : 'backwards';
	}
	if (parts.some(({ part }) => part.is === 'pot')) return 'cannot';
	const inputs = modes.flatMap(({ takes }, jack) =>
		(takes === 'switch' ? (['tip'] as const) : (['tip', 'ring'] as const)).map((contact) => ({
			jack,
			contact
		}))
	);
	const pressed = inputs.map((input) => {
		const closed = positions.map((position) => naive(pairing, position, input) < 0.5);
		const mode = modes[input.jack];
		const up =
			mode.rest === 'at-power-on'
				? closed[0]
				: mode.rest === 'set' && pairing.jacks[input.jack].set.rest === 'closed';
		return closed.map((is) => is !== up);
	});
	const says = (input: number, foot: number, way: boolean) =>
		positions.every((position, p) => pressed[input][p] === (down(position, foot) === way));
	const followers = parts.map((_, foot) => inputs.map((_, i) => i).filter((i) => says(i, foot, true)));
	const opposers = parts.map((_, foot) => inputs.map((_, i) => i).filter((i) => says(i, foot, false)));
	const acting = parts.filter((_, f) => followers[f].length + opposers[f].length > 0).length;
	const constant = pressed.map((row) => new Set(row).size === 1);
	if (acting === 0) return constant.every(Boolean) ? 'cannot' : 'one of two';
	if (acting < parts.length) return 'one of two';
	if (opposers.some((list) => list.length > 0)) return 'inverted';
	if (pressed.some((row) => row.every(Boolean))) return 'one of two';
	const firsts = followers.map(([first]) => first);
	return firsts.every((first, f) => f === 0 || first > firsts[f - 1]) ? 'works' : 'exchanged';
}
