import type { Conversation } from '../core/transfer';

const GAP_MS = 5;
/** How long answers are waited for. */
const EAR_MS = 300;

/** Sends messages one after another and listens a moment; gives how many left. */
export function* sendAll(messages: readonly Uint8Array[]): Conversation<number> {
	let left = 0;
	for (const bytes of messages) {
		const sent = yield { do: 'send', bytes };
		if (sent.heard !== 'done') return left;
		left++;
		yield { do: 'sleep', ms: GAP_MS };
	}
	for (;;) {
		const heard = yield { do: 'wait', idleMs: EAR_MS };
		if (heard.heard !== 'message' && heard.heard !== 'broken') return left;
	}
}
