import { ALL_DEVICES, identityRequest, modelKey, readIdentityReply, type Identity } from '../sysex';
import type { Conversation } from './conversation';
import type { Reason } from './outcome';
import { CANCELLED, UNPLUGGED } from './reasons';

/** Who answered on one port. */
export interface RollAnswer {
	identity: Identity;
	/** How many answered to this device ID as this model; more than one is a clash. */
	units: number;
}

export interface RollCall {
	answers: RollAnswer[];
	/** Why it ended early, or null. */
	reason: Reason | null;
}

const QUIET_MS = 450;
/** Rest between two requests, so that slow inputs do not run over. */
const GAP_MS = 4;

/**
 * Calls the roll on one port: first everybody at once, then each device ID from 0 to 126 by itself, since some
 * devices answer only to their own (MIDI 1.0, “Inquiry message”). Who answered more often than to the call to everybody
 * is asked once more alone: devices that ignore the ID answer to every one. Takes about two seconds.
 */
export function* rollCall(): Conversation<RollCall> {
	/** By identity: answers to the call to everybody, and to its own ID. */
	const heardAll = new Map<string, { identity: Identity; all: number; own: number; alone: number }>();
	let phase: 'all' | 'own' | 'alone' = 'all';
	const note = (bytes: Uint8Array) => {
		const identity = readIdentityReply(bytes);
		if (!identity) return;
		const key = `${identity.deviceId} ${modelKey(identity)}`;
		const entry = heardAll.get(key) ?? { identity, all: 0, own: 0, alone: 0 };
		entry[phase]++;
		heardAll.set(key, entry);
	};
	const result = (reason: Reason | null): RollCall => ({
		answers: [...heardAll.values()]
			.map(({ identity, all, alone }) => ({ identity, units: Math.max(all, alone, 1) }))
			.sort((a, b) => a.identity.deviceId - b.identity.deviceId),
		reason
	});

	function* collect(): Conversation<Reason | null> {
		for (;;) {
			const heard = yield { do: 'wait', idleMs: QUIET_MS };
			if (heard.heard === 'cancelled') return CANCELLED;
			if (heard.heard === 'unplugged') return UNPLUGGED;
			if (heard.heard === 'silence') return null;
			if (heard.heard === 'message') note(heard.bytes);
		}
	}

	function* call(ids: readonly number[]): Conversation<Reason | null> {
		for (const id of ids) {
			const sent = yield { do: 'send', bytes: identityRequest(id) };
			if (sent.heard === 'cancelled') return CANCELLED;
			if (sent.heard === 'unplugged') return UNPLUGGED;
			const rested = yield { do: 'sleep', ms: GAP_MS };
			if (rested.heard === 'cancelled') return CANCELLED;
		}
		return yield* collect();
	}

	let ended = yield* call([ALL_DEVICES]);
	if (ended) return result(ended);
	phase = 'own';
	ended = yield* call(Array.from({ length: ALL_DEVICES }, (_, id) => id));
	if (ended) return result(ended);
	phase = 'alone';
	const doubtful = [...heardAll.values()].filter(({ all, own }) => own > Math.max(all, 1));
	for (const id of new Set(doubtful.map(({ identity }) => identity.deviceId))) {
		for (const entry of heardAll.values()) entry.alone = entry.identity.deviceId === id ? 0 : entry.alone;
		ended = yield* call([id]);
		if (ended) return result(ended);
	}
	return result(null);
}
