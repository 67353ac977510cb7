import { sameBytes } from '../../midi';
import { buildMessage, isMatch, matchMessage, type Match } from '../../profile';
import type { Conversation } from '../conversation';
import { CANCELLED, noAnswer } from '../reasons';
import type { Ask } from '../ways';
import type { Haul } from './haul';
import { Stop, comeBack, say } from '../line';

const CONFIRM_TRIES = 6;
const MOVED = 'its panel was moved meanwhile';

/** What was asked for, as it came. */
interface Got {
	match: Match;
	bytes: Uint8Array;
	/** What the device said of the slot, where the message does not. */
	namedBy: Uint8Array | null;
}

/** Asks for one message until it comes whole; gives it, or what was wrong with the last try. */
function* fetch(haul: Haul, ask: Ask): Conversation<Got | string> {
	const { order, emit, panel } = haul;
	const { profile, target } = order;
	const { way } = ask;
	const slot = ask.firsts[0];
	const request = buildMessage(profile, (way.start as { send: string }).send, { ...target, slot });
	let silent = 0;
	let failed = 0;
	let asked = false;
	const ofPanel = panel.concerns(way.expect);
	let namedBy: Uint8Array | null = null;
	for (;;) {
		if (!asked && ofPanel) namedBy = yield* panel.callUp(ask.area, slot);
		if (!asked && !(yield* say(order, request))) continue;
		asked = true;
		const heard = yield { do: 'wait', idleMs: way.timeoutMs };
		let trouble: string;
		if (heard.heard === 'cancelled') throw new Stop(CANCELLED);
		if (heard.heard === 'unplugged') {
			yield* comeBack(order);
			asked = false;
			continue;
		} else if (heard.heard === 'message') {
			const match = matchMessage(profile, way.expect, heard.bytes);
			if (isMatch(match)) {
				haul.refuseOtherId(match);
				if (!ofPanel && match.firstSlot !== slot) continue;
				if (way.confirm) yield* say(order, buildMessage(profile, way.confirm.good, { ...target, slot }));
				if (!ofPanel) return { match, bytes: heard.bytes, namedBy };
				// It is of this slot only where the panel stands there before it and after it.
				if ((yield* panel.movedTo(ask.area, slot)).length === 0)
					return { match: { ...match, area: ask.area, firstSlot: slot }, bytes: heard.bytes, namedBy };
				trouble = MOVED;
			} else if (ofPanel && (panel.read(ask.area, heard.bytes) ?? slot) !== slot) trouble = MOVED;
			else if (match.why === 'other message') continue;
			else {
				trouble = match.says;
				haul.distrust(match);
			}
			// The device itself repeats a message that is reported as bad.
			if (way.confirm && trouble !== MOVED && failed < way.retries) {
				failed++;
				emit({ event: 'retry', says: trouble });
				yield* say(order, buildMessage(profile, way.confirm.bad, { ...target, slot }));
				continue;
			}
		} else if (heard.heard === 'broken') trouble = `a message broke off (${heard.reason})`;
		else {
			trouble = 'no answer';
			silent++;
		}
		asked = false;
		failed++;
		if (failed > way.retries) {
			// A device that never spoke will not speak for the next slot either.
			if (silent > way.retries && haul.isBare) throw new Stop(noAnswer(profile));
			return trouble;
		}
		emit({ event: 'retry', says: trouble });
	}
}

/** Asks for one message and takes it in, or notes why it is missing. */
export function* askFor(haul: Haul, ask: Ask): Conversation<void> {
	const got = yield* fetch(haul, ask);
	if (typeof got === 'string') haul.blame(ask, ask.firsts[0], got);
	else haul.accept(got.match, got.bytes, got.namedBy);
}

/**
 * A short checksum lets some damage through. Once damage was seen, nothing is believed before it came twice in a
 * row in the same way.
 */
export function* confirm(haul: Haul, ask: Ask): Conversation<void> {
	const first = ask.firsts[0];
	const believed = haul.receivedFor(ask, first);
	let last = believed;
	for (let tries = 0; last && tries < CONFIRM_TRIES; tries++) {
		const got = yield* fetch(haul, ask);
		if (typeof got === 'string') break;
		if (sameBytes(got.bytes, last)) {
			if (last !== believed) {
				haul.forget(ask, first);
				haul.accept(got.match, got.bytes, got.namedBy);
			}
			return;
		}
		last = got.bytes;
	}
	haul.forget(ask, first);
	haul.blame(ask, first, 'it came differently each time');
}
