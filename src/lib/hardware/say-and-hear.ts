import type { Conversation } from '../core/transfer';

const GAP_MS = 20;
/** How long an answer is waited for. */
const EAR_MS = 700;

/**
 * Sends messages one after another, asks a question, and gives the system exclusive messages that came after it; null where the
 * port went away.
 */
export function* sayAndHear(
	messages: readonly Uint8Array[],
	ask: Uint8Array | null
): Conversation<Uint8Array[] | null> {
	for (const bytes of messages) {
		const sent = yield { do: 'send', bytes };
		if (sent.heard !== 'done') return null;
		yield { do: 'sleep', ms: GAP_MS };
	}
	if (!ask) return [];
	const asked = yield { do: 'send', bytes: ask };
	if (asked.heard !== 'done') return null;
	const heard: Uint8Array[] = [];
	for (;;) {
		const came = yield { do: 'wait', idleMs: EAR_MS };
		if (came.heard !== 'message') return heard;
		heard.push(came.bytes);
	}
}
