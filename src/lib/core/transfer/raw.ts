import { sameBytes, wireMs } from '../midi';
import type { Conversation } from './conversation';
import type { Emit } from './events';
import type { CaptureOutcome, Reason, RestoreOutcome } from './outcome';
import { CANCELLED, UNPLUGGED } from './reasons';

export interface RawCaptureOrder {
	/** How long to wait for the first byte, and how long a silence ends the dump, in ms. */
	waitMs?: number;
	quietMs?: number;
	/** Listens a second time and compares: what came twice the same counts as verified. */
	twice?: boolean;
}

const WAIT_MS = 120_000;
const QUIET_MS = 1500;

/** As a capture by profile, with the proof that it came twice in the same way. */
export interface RawCaptureOutcome extends CaptureOutcome {
	proved: boolean;
}

/**
 * Listens to a device that has no profile: every system exclusive message that comes until it falls silent is kept,
 * byte for byte. Nothing can be said of checksums, so only a dump that came twice alike is proved.
 */
export function* captureRaw(order: RawCaptureOrder, emit: Emit): Conversation<RawCaptureOutcome> {
	const end = (
		status: CaptureOutcome['status'],
		reason: Reason | null,
		messages: Uint8Array[],
		proved = false
	) => ({
		kind: 'capture' as const,
		status,
		reason,
		missing: [],
		messages,
		identity: null,
		proved
	});
	emit({ event: 'phase', phase: 'capture', bytes: 0, ms: 0, messages: 0 });
	const first = yield* listen('Start the dump on the device’s panel.', true);
	if (first.reason)
		return end(first.messages.length > 0 ? 'incomplete' : 'refused', first.reason, first.messages);
	if (!order.twice) return end('complete', null, first.messages);
	const second = yield* listen('Once more, to compare: start the same dump again.', false);
	if (second.reason?.code === 'cancelled') return end('complete', null, first.messages);
	const alike =
		first.messages.length === second.messages.length &&
		first.messages.every((bytes, i) => sameBytes(bytes, second.messages[i]));
	if (!alike)
		return end(
			'incomplete',
			{
				code: 'damaged',
				says: 'The two dumps were not alike, so one of them arrived damaged, or the device changed in between.',
				remedy:
					'Try again, perhaps with another cable or adapter. The first one is kept unverified if you wish.'
			},
			first.messages
		);
	return end('complete', null, first.messages, true);

	function* listen(
		says: string,
		keep: boolean
	): Conversation<{ messages: Uint8Array[]; reason: Reason | null }> {
		const messages: Uint8Array[] = [];
		let broken = 0;
		emit({ event: 'hands', says });
		for (;;) {
			const idleMs = messages.length + broken > 0 ? (order.quietMs ?? QUIET_MS) : (order.waitMs ?? WAIT_MS);
			const heard = yield { do: 'wait', idleMs };
			if (heard.heard === 'cancelled') return { messages, reason: CANCELLED };
			if (heard.heard === 'unplugged') {
				const back = yield { do: 'await port', patienceMs: 20_000 };
				if (back.heard === 'cancelled') return { messages, reason: CANCELLED };
				if (back.heard !== 'done') return { messages, reason: UNPLUGGED };
				if (messages.length > 0) return { messages, reason: brokenOff(1) };
				continue;
			}
			if (heard.heard === 'silence') break;
			if (heard.heard !== 'message' && heard.heard !== 'broken') continue;
			if (messages.length + broken === 0) emit({ event: 'hands done' });
			if (heard.heard === 'broken') {
				broken++;
				emit({ event: 'retry', says: `a message broke off (${heard.reason})` });
				continue;
			}
			messages.push(heard.bytes);
			if (keep)
				emit({
					event: 'received',
					bytes: heard.bytes,
					title: 'System exclusive',
					slots: [{ area: '', index: messages.length - 1, name: null }]
				});
		}
		emit({ event: 'hands done' });
		if (broken > 0) return { messages, reason: brokenOff(broken) };
		if (messages.length === 0)
			return {
				messages,
				reason: {
					code: 'no answer',
					says: 'No dump came.',
					remedy: 'Check the cable, then start the dump on the panel.'
				}
			};
		return { messages, reason: null };
	}
}

const brokenOff = (count: number): Reason => ({
	code: 'damaged',
	says: `${count} ${count === 1 ? 'message' : 'messages'} broke off on the way.`,
	remedy: 'Start the dump again; if it happens again, try another cable or adapter.'
});

export interface RawRestoreOrder {
	messages: readonly Uint8Array[];
	/** Rest after each message, in ms, while the device writes its memory. */
	gapMs: number;
}

/** Sends messages as they are to a device without a profile. It ends as `sent`: nothing can be read back. */
export function* restoreRaw(order: RawRestoreOrder, emit: Emit): Conversation<RestoreOutcome> {
	const { messages, gapMs } = order;
	const slots: RestoreOutcome['slots'] = messages.map((bytes, index) => ({
		area: '',
		index,
		label: String(index + 1),
		name: `${bytes.length} bytes`,
		result: 'not sent'
	}));
	const end = (status: RestoreOutcome['status'], reason: Reason | null): RestoreOutcome => ({
		kind: 'restore',
		status,
		reason,
		slots,
		touched: slots.some(({ result }) => result !== 'not sent') ? [{ area: '', index: 0 }] : [],
		readBack: [],
		safety: false,
		identity: null
	});
	if (messages.length === 0)
		return end('refused', {
			code: 'nothing to do',
			says: 'There is no message to send.',
			remedy: 'Choose another version.'
		});
	const bytes = messages.reduce((sum, { length }) => sum + length, 0);
	emit({
		event: 'phase',
		phase: 'send',
		bytes,
		ms: wireMs(bytes) + gapMs * messages.length,
		messages: messages.length
	});
	for (const [i, message] of messages.entries()) {
		const heard = yield { do: 'send', bytes: message };
		if (heard.heard === 'unplugged') {
			slots[i].result = 'unknown';
			return end('incomplete', UNPLUGGED);
		}
		slots[i].result = 'sent';
		emit({
			event: 'written',
			bytes: message.length,
			title: 'System exclusive',
			slots: [{ area: '', index: i, name: null }]
		});
		if (heard.heard === 'cancelled') return end('incomplete', CANCELLED);
		if (gapMs > 0 && i < messages.length - 1) {
			const rested = yield { do: 'sleep', ms: gapMs };
			if (rested.heard === 'cancelled') return end('incomplete', CANCELLED);
		}
	}
	return end('sent', null);
}
