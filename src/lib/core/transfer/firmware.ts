import { fromHex } from '../midi';
import { isLike, type FirmwareFile, type FirmwareWays } from '../profile';
import type { Conversation } from './conversation';

/** What is known of the device once it is over, by what its loader said and never by what was sent. */
export type FirmwareState =
	/** The loader took the last message and said that all of it is there. */
	| 'written'
	/** The loader says that nothing was erased, or nothing but questions was sent. */
	| 'as before'
	/** The loader says that the old system is gone and the new one not there. */
	| 'erased'
	/** Nobody said. */
	| 'unknown';

export interface FirmwareOutcome {
	state: FirmwareState;
	/** Messages of the file that the loader took, of all. */
	taken: number;
	of: number;
	/** What happened, and the way back; for the record. */
	says: string;
	back: string;
}

export interface FirmwareProgress {
	taken: number;
	of: number;
	/** At the pace so far; null before the first block. */
	leftMs: number | null;
}

/** What a loader says of itself: nothing erased; erased, waiting for the first message; in the midst. Null: it says nothing. */
export type LoaderMode = 'ready' | 'erased' | 'underway' | null;

const WAYS_BACK: Record<FirmwareState, string> = {
	written: '',
	'as before':
		'It can be switched off and on: it runs as before. Or bring it into update mode and begin again.',
	erased:
		'Leave it switched on, or bring it into update mode again; then send the same file from its first message. Its sounds come back from the backup.',
	unknown:
		'Switch it off, bring it into update mode and ask it again: what the loader says then decides. Do not send anything else to it.'
};

/** What the loader is asked, and its answer; null where it does not answer as one. */
function* askMode(ways: FirmwareWays, tries: number): Conversation<LoaderMode | 'gone' | 'cancelled'> {
	for (let i = 0; i < tries; i++) {
		const sent = yield { do: 'send', bytes: fromHex(ways.ask) };
		if (sent.heard === 'cancelled') return 'cancelled';
		if (sent.heard !== 'done') return 'gone';
		for (;;) {
			const heard = yield { do: 'wait', idleMs: ways.timeoutMs };
			if (heard.heard === 'cancelled') return 'cancelled';
			if (heard.heard === 'unplugged') return 'gone';
			if (heard.heard === 'silence') break;
			if (heard.heard !== 'message') continue;
			for (const mode of ['ready', 'erased', 'underway'] as const)
				if (isLike(heard.bytes, ways[mode])) return mode;
		}
	}
	return null;
}

/** Asks whether a device is in update mode, and how it stands there. Nothing is written. */
export function* askLoader(ways: FirmwareWays): Conversation<LoaderMode> {
	const mode = yield* askMode(ways, 2);
	return mode === 'gone' || mode === 'cancelled' ? null : mode;
}

const STATE_OF = { ready: 'as before', erased: 'erased', underway: 'erased' } as const;

/**
 * Sends a maker's file to a device in update mode: its messages as they are, one after another, each once the one before it
 * was taken. Whatever happens, what is said at the end is what the loader says then.
 */
export function* sendFirmware(
	file: Pick<FirmwareFile, 'messages' | 'variant'>,
	ways: FirmwareWays,
	tell: (progress: FirmwareProgress) => void = () => undefined
): Conversation<FirmwareOutcome> {
	const { messages } = file;
	let taken = 0;
	/** Whether the last message was sent: from then on it may be whole again. */
	let last = false;
	const end = (state: FirmwareState, says: string): FirmwareOutcome => ({
		state,
		taken,
		of: messages.length,
		says,
		back: WAYS_BACK[state]
	});
	/** Broken off: the loader is asked how it stands, once the port is there again. */
	function* brokenOff(says: string): Conversation<FirmwareOutcome> {
		yield { do: 'await port', patienceMs: 20_000 };
		const mode = yield* askMode(ways, 2);
		// One that has taken something and calls itself whole may hold either system.
		const state = ((): Exclude<FirmwareState, 'written'> => {
			// Nothing can be asked any more: what it took before it was cancelled is what it said.
			if (mode === 'cancelled') return taken > 0 && !last ? 'erased' : 'unknown';
			if (mode === null || mode === 'gone' || (mode === 'ready' && (taken > 0 || last))) return 'unknown';
			return STATE_OF[mode];
		})();
		const then = {
			'as before': 'Its loader says that nothing was erased.',
			erased: 'Its loader says that the old system is gone and the new one is not there.',
			unknown: 'Nobody says which system it holds now.'
		}[state];
		return end(state, `${says} ${then}`);
	}

	const mode = yield* askMode(ways, 2);
	if (mode === 'cancelled') return end('as before', 'You cancelled it; only a question was sent.');
	if (mode === null || mode === 'gone')
		return end('as before', 'It does not say that it is in update mode; only a question was sent.');
	for (const [i, bytes] of messages.entries()) {
		const left = messages.length - i;
		tell({ taken, of: messages.length, leftMs: left * (ways.blockMs + bytes.length * 0.32) });
		let sends = 0;
		let accepted = false;
		while (!accepted) {
			if (sends++ > ways.retries)
				return yield* brokenOff(
					`Message ${i + 1} of ${messages.length} was not taken after ${sends - 1} tries.`
				);
			last ||= i === messages.length - 1;
			const sent = yield { do: 'send', bytes };
			// Before the first message was taken nothing is erased; afterwards stopping is no way out, and is told.
			if (sent.heard === 'cancelled') return yield* brokenOff(`You cancelled it after message ${taken}.`);
			if (sent.heard !== 'done')
				return yield* brokenOff(`The port went away at message ${i + 1} of ${messages.length}.`);
			const answer = yield* hear();
			if (answer === 'cancelled') return yield* brokenOff(`You cancelled it after message ${taken}.`);
			if (answer === 'gone')
				return yield* brokenOff(`The port went away at message ${i + 1} of ${messages.length}.`);
			if (answer === 'refused')
				return yield* brokenOff(
					i === 0
						? `It refuses the file: it is not of the kind “${file.variant.title}”.`
						: `It refuses message ${i + 1} of ${messages.length}.`
				);
			if (answer === 'done') {
				taken = i + 1;
				if (taken === messages.length) {
					tell({ taken, of: messages.length, leftMs: 0 });
					return end('written', 'Its loader took the whole file and says that it is right.');
				}
				return yield* brokenOff(`It said that it was done after message ${taken} of ${messages.length}.`);
			}
			if (answer === 'silence') {
				// An answer may have been lost, or the supply failed: the loader knows.
				const now = yield* askMode(ways, 2);
				if (now === 'underway' || (i === 0 && now !== null && now !== 'gone' && now !== 'cancelled'))
					continue;
				return yield* brokenOff(`It fell silent at message ${i + 1} of ${messages.length}.`);
			}
			accepted = answer === 'taken';
		}
		taken = i + 1;
	}
	return yield* brokenOff('It took every message and never said that it was done.');

	function* hear(): Conversation<'taken' | 'again' | 'refused' | 'done' | 'silence' | 'gone' | 'cancelled'> {
		for (;;) {
			const heard = yield { do: 'wait', idleMs: ways.timeoutMs };
			if (heard.heard === 'silence') return 'silence';
			if (heard.heard === 'unplugged') return 'gone';
			if (heard.heard === 'cancelled') return 'cancelled';
			if (heard.heard !== 'message') continue;
			for (const answer of ['taken', 'again', 'refused', 'done'] as const)
				if (isLike(heard.bytes, ways[answer])) return answer;
		}
	}
}
