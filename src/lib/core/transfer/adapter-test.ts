import { joinBytes, sameBytes, wireMs } from '../midi';
import { isMatch, buildMessage, matchOneOf, messagesOf, type Profile, type Variables } from '../profile';
import { identityRequest, readIdentityReply } from '../sysex';
import type { Conversation } from './conversation';
import type { Target } from './identify';
import { asksBy } from './asks';

/** What an adapter does to messages. */
export interface AdapterVerdict {
	/** How it was tested. */
	through: 'loopback' | 'device';
	/** The longest message that came through whole, in bytes; 0 when none did. */
	longestBytes: number;
	/** The longest that was tried: what is longer is unknown. */
	triedBytes: number;
	/** The rest between messages that it needs, in ms; null when no rest was enough. */
	gapMs: number | null;
	/** What happens to a message that is too long or too soon. */
	trouble: 'none' | 'loses bytes' | 'changes bytes' | 'swallows messages' | 'nothing came';
	/** In the musician's words. */
	says: string;
	ended: 'done' | 'cancelled' | 'unplugged';
}

type Result = 'whole' | 'loses bytes' | 'changes bytes' | 'swallows messages';

const START = 16;
/** A bank dump of most devices is shorter than this; 4 KiB takes 1.3 s each way. */
const LIMIT = 8192;
const BURST = 12;
const BURST_BYTES = 64;
const GAPS_MS = [0, 1, 2, 5, 10, 20, 50, 100];
const REPLY_MS = 600;
const DRAIN_MS = 100;

/** A message that nobody acts upon: the identifier for non-commercial use, a mark, a number, and a pattern. */
export function testPattern(length: number, number: number): Uint8Array {
	const bytes = new Uint8Array(length);
	bytes.set([0xf0, 0x7d, 0x7f, 0x53, 0x44, number & 0x7f]);
	let state = (number * 2654435761 + length) >>> 0;
	for (let i = 6; i < length - 1; i++) {
		state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
		bytes[i] = state >>> 25;
	}
	bytes[length - 1] = 0xf7;
	return bytes;
}

class Ended {
	constructor(readonly how: 'cancelled' | 'unplugged') {}
}

/** Judges an adapter by a cable from its out to its in. `tell` is told what is being tried. */
export function* testLoopback(tell: (says: string) => void, limit = LIMIT): Conversation<AdapterVerdict> {
	let longest = 0;
	let tried = 0;
	let trouble: AdapterVerdict['trouble'] = 'none';
	let number = 0;
	const verdict = (gapMs: number | null, ended: AdapterVerdict['ended']): AdapterVerdict =>
		withWords({
			through: 'loopback',
			longestBytes: longest,
			triedBytes: tried,
			gapMs,
			trouble,
			says: '',
			ended
		});

	try {
		for (let length = START; length <= limit; length *= 2) {
			tell(`A message of ${length.toLocaleString('en')} bytes`);
			tried = length;
			const result = yield* twice(length);
			if (result === 'whole') {
				longest = length;
				continue;
			}
			trouble = longest === 0 && result === 'swallows messages' ? 'nothing came' : result;
			// The exact limit lies between what came and what did not.
			let [low, high] = [longest, length];
			while (longest > 0 && high - low > 1) {
				const middle = (low + high) >> 1;
				tell(`A message of ${middle.toLocaleString('en')} bytes`);
				if ((yield* twice(middle)) === 'whole') low = middle;
				else high = middle;
			}
			longest = low;
			break;
		}
		if (longest === 0) return verdict(null, 'done');
		for (const gap of GAPS_MS) {
			tell(`${BURST} messages with ${gap} ms between them`);
			const result = yield* burst(Math.min(longest, BURST_BYTES), gap);
			if (result === 'whole') return verdict(gap, 'done');
			if (trouble === 'none') trouble = result;
		}
		return verdict(null, 'done');
	} catch (error) {
		if (!(error instanceof Ended)) throw error;
		return verdict(null, error.how);
	}

	/** A chance loss is not a limit: what fails once is tried once more. */
	function* twice(length: number): Conversation<Result> {
		const first = yield* once(length);
		return first === 'whole' ? first : yield* once(length);
	}

	function* once(length: number): Conversation<Result> {
		const sent = testPattern(length, number++);
		yield* send(sent);
		const came = yield* hear(1, wireMs(length) + REPLY_MS);
		const result = judge(sent, joinBytes(came));
		// What is left of a damaged message must not be taken for the next one.
		if (result !== 'whole') yield* hear(Infinity, DRAIN_MS);
		return result;
	}

	function* burst(length: number, gap: number): Conversation<Result> {
		const sent: Uint8Array[] = [];
		for (let i = 0; i < BURST; i++) {
			const message = testPattern(length, number++);
			sent.push(message);
			yield* send(message);
			if (gap > 0) yield* rest(gap);
		}
		const came = yield* hear(BURST, REPLY_MS);
		if (came.length < BURST && came.every((bytes) => sent.some((message) => sameBytes(message, bytes))))
			return 'swallows messages';
		return judge(joinBytes(sent), joinBytes(came));
	}
}

const judge = (sent: Uint8Array, came: Uint8Array): Result =>
	sameBytes(sent, came)
		? 'whole'
		: came.length === 0
			? 'swallows messages'
			: came.length < sent.length
				? 'loses bytes'
				: 'changes bytes';

function* send(bytes: Uint8Array): Conversation<void> {
	const heard = yield { do: 'send', bytes };
	if (heard.heard === 'cancelled') throw new Ended('cancelled');
	if (heard.heard === 'unplugged') throw new Ended('unplugged');
}

function* rest(ms: number): Conversation<void> {
	const heard = yield { do: 'sleep', ms };
	if (heard.heard === 'cancelled') throw new Ended('cancelled');
}

/** What comes until so many messages are there or the line is silent; broken ones too. */
function* hear(count: number, idleMs: number): Conversation<Uint8Array[]> {
	const came: Uint8Array[] = [];
	while (came.length < count) {
		const heard = yield { do: 'wait', idleMs };
		if (heard.heard === 'cancelled') throw new Ended('cancelled');
		if (heard.heard === 'unplugged') throw new Ended('unplugged');
		if (heard.heard === 'silence') break;
		if (heard.heard === 'message' || heard.heard === 'broken') came.push(heard.bytes);
	}
	return came;
}

interface Question {
	send: string;
	request: Variables;
	expected: readonly string[];
	timeoutMs: number;
	/** Bytes of the answer. */
	length: number;
}

/** What a device can be asked, shortest answer first. */
const questions = (profile: Profile): Question[] =>
	profile.capture
		.flatMap((way): Question[] => {
			if (way.start.by !== 'request') return [];
			const { send } = way.start;
			return asksBy(profile, way, 0).map(({ request, longest }) => ({
				send,
				request,
				expected: messagesOf(way.expect),
				timeoutMs: way.timeoutMs,
				length: longest
			}));
		})
		.sort((a, b) => a.length - b.length);

/**
 * Judges an adapter by a device that is willing to answer: its own messages of growing length are asked for, then
 * identity requests at growing density. Nothing is written to the device.
 */
export function* testThroughDevice(
	profile: Profile,
	target: Target,
	tell: (says: string) => void
): Conversation<AdapterVerdict> {
	let longest = 0;
	let tried = 0;
	let trouble: AdapterVerdict['trouble'] = 'none';
	const verdict = (gapMs: number | null, ended: AdapterVerdict['ended']): AdapterVerdict =>
		withWords({
			through: 'device',
			longestBytes: longest,
			triedBytes: tried,
			gapMs,
			trouble,
			says: '',
			ended
		});
	const ways = questions(profile);
	try {
		for (const way of ways) {
			tell(`Its message of ${way.length.toLocaleString('en')} bytes`);
			tried = way.length;
			let result: Result = 'swallows messages';
			for (let tries = 0; tries < 2 && result !== 'whole'; tries++) {
				yield* send(buildMessage(profile, way.send, { ...target, ...way.request }));
				const came = yield* hear(1, way.timeoutMs);
				result =
					came.length === 0
						? 'swallows messages'
						: isMatch(matchOneOf(profile, way.expected, came[0]))
							? 'whole'
							: came[0].length < way.length
								? 'loses bytes'
								: 'changes bytes';
			}
			if (result !== 'whole') {
				trouble = longest === 0 && result === 'swallows messages' ? 'nothing came' : result;
				break;
			}
			longest = way.length;
		}
		if (!profile.identity.answers || trouble === 'nothing came') return verdict(null, 'done');
		for (const gap of GAPS_MS) {
			tell(`${BURST} questions with ${gap} ms between them`);
			for (let i = 0; i < BURST; i++) {
				yield* send(identityRequest(target.deviceId));
				if (gap > 0) yield* rest(gap);
			}
			const came = yield* hear(BURST, REPLY_MS);
			if (came.filter((bytes) => readIdentityReply(bytes)).length === BURST) return verdict(gap, 'done');
			if (trouble === 'none') trouble = 'swallows messages';
		}
		return verdict(null, 'done');
	} catch (error) {
		if (!(error instanceof Ended)) throw error;
		return verdict(null, error.how);
	}
}

function withWords(verdict: AdapterVerdict): AdapterVerdict {
	const { longestBytes, triedBytes, gapMs, trouble, through } = verdict;
	const bytes = (n: number) => `${n.toLocaleString('en')} bytes`;
	if (verdict.ended !== 'done')
		return {
			...verdict,
			says: verdict.ended === 'cancelled' ? 'The test was cancelled.' : 'The port went away in the test.'
		};
	if (trouble === 'nothing came')
		return {
			...verdict,
			says:
				through === 'loopback'
					? 'Nothing came back. Is a cable plugged from this out into this in?'
					: 'The device did not answer on this port.'
		};
	const length =
		longestBytes < triedBytes
			? `${bytes(longestBytes)} is the longest message that survives: beyond that it ${trouble}`
			: `Messages up to ${bytes(triedBytes)} survive; longer ones were not tried`;
	const gap =
		gapMs === null
			? 'and no rest between messages was enough'
			: gapMs === 0
				? 'and messages need no rest between them'
				: `and messages need ${gapMs} ms between them`;
	return { ...verdict, says: `${length}, ${gap}.` };
}
