import { sameBytes } from '../../midi';
import {
	buildMessage,
	isMatch,
	layoutOf,
	matchMessage,
	matchOneOf,
	messagesOf,
	ofSlot,
	readVariables,
	variablesOf,
	spreadOver,
	totalOf,
	type CaptureWay,
	type Profile,
	type Span,
	type Variables
} from '../../profile';
import type { Conversation } from '../conversation';
import { CANCELLED, noAnswer } from '../reasons';
import type { Ask } from '../asks';
import { Catch } from './catch';
import type { Haul } from './haul';
import { Stop, comeBack, say } from '../line';

const CONFIRM_TRIES = 6;
const MOVED = 'its panel was moved meanwhile';
const SILENT = 'no answer';

/** How long a device may be busy that says so, where the profile does not say. */
const WAIT_MS = 10_000;

/** What a message says that is no dump. */
function saidBy(profile: Profile, { says }: CaptureWay, bytes: Uint8Array): 'wait' | 'cancel' | 'end' | null {
	for (const what of ['wait', 'cancel', 'end'] as const) {
		const id = says?.[what];
		if (id !== undefined && isMatch(matchMessage(profile, id, bytes))) return what;
	}
	return null;
}

/** Which packet or part a damaged message is likely to be. */
function badOf(profile: Profile, ids: readonly string[], bytes: Uint8Array): Variables {
	for (const id of ids) {
		const layout = layoutOf(profile, id);
		const spread = spreadOver(layout, bytes.length);
		if (!spread || bytes.length < layout.length) continue;
		const { packet, part } = readVariables(layout, spread, bytes);
		return { ...(packet === undefined ? {} : { packet }), ...(part === undefined ? {} : { part }) };
	}
	return {};
}

/**
 * Waits for the word that this was all. Where it does not come, what came is whole all the same, unless that word has the
 * checksum over it.
 * @returns what is wrong
 */
function* hearEnd(haul: Haul, { way }: Ask, caught: Catch): Conversation<string | null> {
	const { profile } = haul.order;
	for (;;) {
		const heard = yield { do: 'wait', idleMs: way.timeoutMs };
		if (heard.heard === 'cancelled') throw new Stop(CANCELLED);
		if (heard.heard === 'silence' || heard.heard === 'unplugged')
			return way.total ? 'its end, with the checksum over all of it, did not come' : null;
		if (heard.heard !== 'message' || saidBy(profile, way, heard.bytes) !== 'end') continue;
		return way.total ? totalFault(profile, way, caught, heard.bytes) : null;
	}
}

/** What is wrong with the checksum over a whole dump. */
function totalFault(
	profile: Profile,
	{ total, says }: CaptureWay,
	caught: Catch,
	end: Uint8Array
): string | null {
	const match = matchMessage(profile, says!.end!, end);
	const found = isMatch(match) ? match.variables.total : undefined;
	const right = totalOf(
		profile,
		total!,
		caught.messages.map(({ match: { messageId, memory } }) => ({ messageId, memory }))
	);
	return found === right ? null : `checksum over all of it ${found}, the data give ${right}`;
}

/** Tells the device that nothing more is wanted: it goes out whatever the musician does. */
function* callOff({ order }: Haul, id: string, slot: number): Conversation<void> {
	yield { do: 'send', bytes: buildMessage(order.profile, id, { ...order.target, slot }) };
}

/** A question that is being asked: what brings the rest of it, and what was said of the slot. */
interface Question {
	haul: Haul;
	ask: Ask;
	caught: Catch;
	/** What the last request brings. */
	goal: readonly Span[];
	/** What the device said of the slot, where its dumps do not. */
	namedBy: Uint8Array | null;
}

/** What a message did for a question: nothing, all of it, all that one request brings, more time, or trouble. */
type Verdict =
	| 'nothing'
	| 'all'
	| 'the goal'
	| { waitMs: number }
	/** `over`: the device itself has ended it. */
	| { trouble: string; over: boolean };

const tell = ({ haul: { order }, ask }: Question, id: string, about: Variables = {}): Conversation<boolean> =>
	say(order, buildMessage(order.profile, id, { ...order.target, slot: ask.firsts[0], ...about }));

/** Takes a message in, and says what it did. */
function* hear(question: Question, bytes: Uint8Array): Conversation<Verdict> {
	const { haul, ask, caught, goal, namedBy } = question;
	const { order, panel } = haul;
	const { way } = ask;
	const expected = messagesOf(way.expect);
	const [slot] = ask.firsts;
	const ofPanel = panel.concerns(expected[0]);
	const found = matchOneOf(order.profile, expected, bytes);
	if (!isMatch(found)) {
		if (ofPanel && (panel.read(ask.area, bytes) ?? slot) !== slot) return { trouble: MOVED, over: false };
		if (found.why !== 'other message') {
			haul.distrust(found);
			return { trouble: found.says, over: false };
		}
		const said = saidBy(order.profile, way, bytes);
		if (said === null) return 'nothing';
		if (said === 'wait') return { waitMs: way.says?.waitMs ?? WAIT_MS };
		return {
			trouble: said === 'end' ? 'it ended before all of it had come' : 'it called it off',
			over: true
		};
	}
	if (haul.isElsewhere(found)) return 'nothing';
	haul.refuseOtherId(found);
	const match = ofPanel ? ofSlot(order.profile, found, slot) : found;
	if (!caught.take({ match, bytes, namedBy })) return 'nothing';
	if (caught.contradicted) haul.doubt();
	if (way.confirm && way.confirm.each !== 'dump') yield* tell(question, way.confirm.good, found.variables);
	if (!caught.holds(goal)) return 'nothing';
	if (!caught.memory) return 'the goal';
	// It is of this slot only where the panel stands there before it and after it.
	if (ofPanel && (yield* panel.movedTo(ask.area, slot)).length > 0) {
		caught.clear();
		return { trouble: MOVED, over: false };
	}
	if (way.says?.end) {
		const trouble = yield* hearEnd(haul, ask, caught);
		if (trouble !== null) {
			haul.doubt();
			caught.clear();
			return { trouble, over: true };
		}
	}
	if (way.confirm?.each === 'dump') yield* tell(question, way.confirm.good);
	if (way.stop !== undefined) yield* tell(question, way.stop);
	return 'all';
}

/** What tells the device that a message was bad, so that it repeats that one itself; null where it does not. */
function repeatOf({ haul: { order }, ask: { way, firsts } }: Question, bytes: Uint8Array): Variables | null {
	const { profile, target } = order;
	if (!way.confirm || way.confirm.each === 'dump') return null;
	const about: Variables = {
		...target,
		slot: firsts[0],
		...badOf(profile, messagesOf(way.expect), bytes)
	};
	return variablesOf(profile, way.confirm.bad).every((name) => about[name] !== undefined) ? about : null;
}

/** Asks until all of it has come whole; gives it, or what was wrong with the last try. What came is in `caught` in any case. */
function* fetch(haul: Haul, ask: Ask, caught: Catch): Conversation<string | null> {
	const { order, emit, panel } = haul;
	const { profile, target } = order;
	const { way } = ask;
	const expected = messagesOf(way.expect);
	const [slot] = ask.firsts;
	const varies = expected.some((id) => layoutOf(profile, id).varies);
	const question: Question = { haul, ask, caught, goal: ask.brings, namedBy: null };
	let silent = 0;
	let failed = 0;
	let asked = false;
	let idleMs = way.timeoutMs;
	/** What was wrong with a message while others were still to come. */
	let noted: string | null = null;
	for (;;) {
		if (!asked) {
			if (panel.concerns(expected[0])) question.namedBy = yield* panel.callUp(ask.area, slot);
			const { request, goal } = caught.next();
			question.goal = goal;
			const bytes = buildMessage(profile, (way.start as { send: string }).send, { ...target, ...request });
			if (!(yield* say(order, bytes))) continue;
			noted = null;
		}
		asked = true;
		const heard = yield { do: 'wait', idleMs };
		idleMs = way.timeoutMs;
		if (heard.heard === 'cancelled') {
			if (way.cancel !== undefined) yield* callOff(haul, way.cancel, slot);
			throw new Stop(CANCELLED);
		}
		if (heard.heard === 'unplugged') {
			yield* comeBack(order);
			asked = false;
			continue;
		}
		let over = false;
		let trouble: string;
		if (heard.heard === 'message') {
			const verdict = yield* hear(question, heard.bytes);
			if (verdict === 'all') return null;
			if (verdict === 'nothing') continue;
			if (verdict === 'the goal') {
				asked = false;
				continue;
			}
			if ('waitMs' in verdict) {
				idleMs = verdict.waitMs;
				continue;
			}
			({ trouble, over } = verdict);
			const again = repeatOf(question, heard.bytes);
			if (again && !over && trouble !== MOVED && failed < way.retries) {
				failed++;
				emit({ event: 'retry', says: trouble });
				yield* tell(question, way.confirm!.bad, again);
				continue;
			}
		} else if (heard.heard === 'broken') trouble = `a message broke off (${heard.reason})`;
		else if (noted !== null) trouble = noted;
		else if (caught.messages.length > 0) {
			trouble = 'not all of it came';
			haul.doubt();
		} else {
			trouble = SILENT;
			silent++;
		}
		// A message that may have any length can be cut short and look right: where one is hurt, the others may be.
		if (varies && trouble !== SILENT) haul.doubt();
		// Of several messages the others are waited for.
		if (heard.heard !== 'silence' && !over && trouble !== MOVED && ask.messages > 1) {
			noted = trouble;
			continue;
		}
		asked = false;
		failed++;
		panel.called.troubled = true;
		if (failed > way.retries) {
			// A device that never spoke will not speak for the next slot either.
			if (silent > way.retries && haul.isBare) throw new Stop(noAnswer(profile));
			return trouble;
		}
		emit({ event: 'retry', says: trouble });
	}
}

/** What one request brings, which is not kept; null where it does not come. */
export function* lookAt(haul: Haul, ask: Ask): Conversation<Uint8Array | null> {
	const caught = new Catch(haul.order.profile, ask);
	return (yield* fetch(haul, ask, caught)) === null ? caught.memory : null;
}

/** Asks for what one request brings and takes it in, or notes why it is missing. */
export function* askFor(haul: Haul, ask: Ask): Conversation<void> {
	const caught = new Catch(haul.order.profile, ask);
	const trouble = yield* fetch(haul, ask, caught);
	for (const { match, bytes, namedBy } of caught.messages) haul.accept(match, bytes, namedBy);
	if (trouble !== null) haul.blame(ask.area, slotsOf(ask), trouble);
}

const slotsOf = ({ brings }: Ask): number[] => [...new Set(brings.map(({ slot }) => slot))];

/**
 * A short checksum lets some damage through. Once damage was seen, nothing is believed before it came twice in a
 * row in the same way.
 */
export function* confirm(haul: Haul, ask: Ask): Conversation<void> {
	const believed = haul.memoryFor(ask);
	let last = believed;
	for (let tries = 0; last && tries < CONFIRM_TRIES; tries++) {
		const caught = new Catch(haul.order.profile, ask);
		if ((yield* fetch(haul, ask, caught)) !== null) break;
		const memory = caught.memory!;
		if (sameBytes(memory, last)) {
			if (last !== believed) {
				haul.forget(ask);
				for (const { match, bytes, namedBy } of caught.messages) haul.accept(match, bytes, namedBy);
			}
			return;
		}
		last = memory;
	}
	haul.forget(ask);
	haul.blame(ask.area, slotsOf(ask), 'it came differently each time');
}
