import { fromHex, toHex } from '../../midi';
import type { HeardMessage } from '../stream';
import { addressWords, sameAddress, speakersOf, type SpokenAddress } from './address';

/** A control that is to be learnt, in the surface's order; pads of one series follow each other by note. */
export interface Wanted {
	control: string;
	name: string;
	/** Notes of one series rise by one from each to the next. */
	series: string | null;
}

export interface Taken {
	address: SpokenAddress;
	/** All that it said, to be classified. */
	heard: HeardMessage[];
}

/** What is asked before the sweep goes on. */
export interface SweepQuestion {
	says: string;
	/** Who spoke. */
	burst: HeardMessage[];
	address: SpokenAddress;
	answers: ('it-is-right' | 'one-was-missed' | 'not-this')[];
}

/** A sweep as a value: every step gives a new one, and the ones before are kept to go back to. */
export interface Sweep {
	wanted: readonly Wanted[];
	taken: readonly (Taken | null)[];
	/** Whose turn it is; past the end when all are done. */
	next: number;
	question: SweepQuestion | null;
	/** What happened last, in words. */
	says: string;
	before: Sweep | null;
}

export const beginSweep = (wanted: readonly Wanted[]): Sweep => ({
	wanted,
	taken: wanted.map(() => null),
	next: 0,
	question: null,
	says: wanted.length > 0 ? `Touch ${wanted[0].name}.` : 'There is nothing to learn.',
	before: null
});

const step = (sweep: Sweep, change: Partial<Sweep>): Sweep => ({ ...sweep, ...change, before: sweep });

/** What to touch now. */
const call = ({ wanted }: Sweep, next: number): string =>
	next < wanted.length
		? `Touch ${wanted[next].name}.`
		: 'All have spoken. Walk back to see that each speaks for itself.';

function take(sweep: Sweep, at: number, address: SpokenAddress, heard: HeardMessage[]): Sweep {
	const taken = sweep.taken.map((each, i) => (i === at ? { address, heard } : each));
	const next = at + 1;
	return step(sweep, {
		taken,
		next,
		question: null,
		says: `${sweep.wanted[at].name} is ${addressWords(address)}. ${call(sweep, next)}`
	});
}

/** By how much the series rises; null before two of it are known. */
function expected(sweep: Sweep, at: number): number | null {
	const { series } = sweep.wanted[at];
	const before = sweep.taken[at - 1]?.address;
	if (series === null || !before || before.family !== 'note' || before.number === null) return null;
	if (sweep.wanted[at - 1].series !== series) return null;
	return before.number + 1;
}

/**
 * What a burst does to a sweep. Who spoke already does not move it on: the last one again is the same control, an earlier
 * one is going back, to be learnt anew from there on. A note that breaks its series is asked about before anything shifts.
 * @param burst messages with no rest between them
 */
export function hearBurst(sweep: Sweep, burst: readonly HeardMessage[]): Sweep {
	if (sweep.question) return sweep;
	const speakers = speakersOf(burst);
	if (speakers.length === 0) return sweep;
	const known = (address: SpokenAddress) =>
		sweep.taken.findIndex((taken) => taken !== null && sameAddress(taken.address, address));
	if (speakers.length > 1) {
		// The last one may still be sending.
		const fresh = speakers.filter((address) => known(address) !== sweep.next - 1);
		if (fresh.length !== 1)
			return {
				...sweep,
				says: `Two spoke at once: ${speakers.map(addressWords).join(' and ')}. Touch one alone. ${call(sweep, sweep.next)}`
			};
		return hearOne(sweep, fresh[0], burst, known(fresh[0]));
	}
	return hearOne(sweep, speakers[0], burst, known(speakers[0]));
}

function hearOne(sweep: Sweep, address: SpokenAddress, burst: readonly HeardMessage[], at: number): Sweep {
	if (at >= 0 && at === sweep.next - 1) {
		// Hit twice, or turned on: more of the same, nothing new.
		const taken = sweep.taken.map((each, i) =>
			i === at && each ? { ...each, heard: [...each.heard, ...burst] } : each
		);
		return { ...sweep, taken };
	}
	if (at >= 0)
		return step(sweep, {
			next: at + 1,
			says: `Back at ${sweep.wanted[at].name}. ${call(sweep, at + 1)}`
		});
	const { next, wanted } = sweep;
	if (next >= wanted.length)
		return { ...sweep, says: `${addressWords(address)} is none of those that were learnt.` };
	const due = expected(sweep, next);
	if (due !== null && (address.family !== 'note' || address.number !== due))
		return step(sweep, {
			question: {
				says: `${wanted[next].name} would be note ${due}; this was ${addressWords(address)}. Was one missed?`,
				burst: [...burst],
				address,
				answers: ['it-is-right', 'one-was-missed', 'not-this']
			},
			says: ''
		});
	return take(sweep, next, address, [...burst]);
}

/** Answers what was asked. `one-was-missed` leaves this one open and takes what spoke for the next. */
export function answerSweep(sweep: Sweep, answer: SweepQuestion['answers'][number]): Sweep {
	const { question, next, wanted } = sweep;
	if (!question) return sweep;
	if (answer === 'not-this') return step(sweep, { question: null, says: call(sweep, next) });
	if (answer === 'it-is-right') return take(sweep, next, question.address, question.burst);
	if (next + 1 >= wanted.length) return step(sweep, { question: null, says: call(sweep, next) });
	return take({ ...sweep, question: null }, next + 1, question.address, question.burst);
}

/** Opens a place for one that was missed: what was taken from there on goes one further. */
export function insertAt(sweep: Sweep, at: number): Sweep {
	if (at < 0 || at >= sweep.wanted.length || sweep.taken.at(-1) !== null) return sweep;
	return step(sweep, {
		taken: [...sweep.taken.slice(0, at), null, ...sweep.taken.slice(at, -1)],
		next: at,
		question: null,
		says: call(sweep, at)
	});
}

/** Takes one out that was too many: what was taken after it comes one nearer. */
export function removeAt(sweep: Sweep, at: number): Sweep {
	if (at < 0 || at >= sweep.wanted.length) return sweep;
	const taken = [...sweep.taken.slice(0, at), ...sweep.taken.slice(at + 1), null];
	const next = sweep.next > at ? sweep.next - 1 : sweep.next;
	return step(sweep, { taken, next, question: null, says: call(sweep, next) });
}

/** As it was before the last step. */
export const undoSweep = (sweep: Sweep): Sweep => sweep.before ?? sweep;

/** A sweep as text, without the steps that led to it. */
export const sweepText = (sweep: Sweep): string =>
	JSON.stringify({ ...sweep, before: null }, (_, value: unknown) =>
		value instanceof Uint8Array ? { hex: toHex(value) } : value
	);

/** The sweep that was written as text. */
export const sweepFrom = (text: string): Sweep =>
	JSON.parse(text, (_, value: unknown) => {
		const { hex } = (value ?? {}) as { hex?: unknown };
		return typeof hex === 'string' ? fromHex(hex) : value;
	}) as Sweep;

/** Controls that have not spoken. */
export const openOf = ({ wanted, taken }: Sweep): Wanted[] => wanted.filter((_, i) => taken[i] === null);
