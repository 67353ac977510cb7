import { buildMessage, isMatch, matchMessage, type Profile, type Variables } from '../profile';
import type { Conversation } from '../transfer';
import type { SceneMessage } from './scene-change';

/** A message that is to be sent over one wire, and the rest after it, ms. */
export interface Step {
	bytes: Uint8Array;
	restMs: number;
}

/** Messages of one wire in the order of time, each with the rest until its next, or until all of it has loaded. */
export const stepsFor = (messages: readonly SceneMessage[], readyMs: number): Step[] =>
	messages.map(({ bytes, untilMs }, i) => ({
		bytes: Uint8Array.from(bytes),
		restMs: Math.max(0, (messages[i + 1]?.atMs ?? readyMs) - untilMs)
	}));

/** How a device is asked what it plays, and how its answer is read; null where its profile does not say. */
export interface PlayingQuestion {
	ask: Uint8Array;
	timeoutMs: number;
	area: string;
	/** The slot that a message says is played; null where it is no such answer. */
	read: (bytes: Uint8Array) => number | null;
}

export function playingQuestion(profile: Profile, target: Variables): PlayingQuestion | null {
	const area = profile.areas.find(({ playing }) => playing?.ask !== undefined);
	const { ask, says, timeoutMs } = area?.playing ?? {};
	if (!area || ask === undefined || says === undefined || timeoutMs === undefined) return null;
	return {
		ask: buildMessage(profile, ask, target),
		timeoutMs,
		area: area.id,
		read: (bytes) => slotSaid(profile, says, target, bytes)
	};
}

/** The slot that a message of a device says; null where it is another message, or of another device. */
export function slotSaid(
	profile: Profile,
	says: string,
	target: Variables,
	bytes: Uint8Array
): number | null {
	const match = matchMessage(profile, says, bytes);
	if (!isMatch(match)) return null;
	const { slot, deviceId } = match.variables;
	return deviceId !== undefined && deviceId !== target.deviceId ? null : (slot ?? null);
}

/** How sending went: messages that left whole, and what was heard once the question had been asked. */
export interface SceneSent {
	left: number;
	heard: Uint8Array[];
}

/** Sends messages one after another with their rests; then asks, where there is a question, and hears what comes back. */
export function* sendScene(
	steps: readonly Step[],
	question: Pick<PlayingQuestion, 'ask' | 'timeoutMs'> | null
): Conversation<SceneSent> {
	let left = 0;
	for (const { bytes, restMs } of steps) {
		if ((yield { do: 'send', bytes }).heard !== 'done') return { left, heard: [] };
		left++;
		if (restMs > 0) yield { do: 'sleep', ms: restMs };
	}
	const heard: Uint8Array[] = [];
	if (!question || (yield { do: 'send', bytes: question.ask }).heard !== 'done') return { left, heard };
	for (;;) {
		const came = yield { do: 'wait', idleMs: question.timeoutMs };
		if (came.heard !== 'message') return { left, heard };
		heard.push(came.bytes);
	}
}
