import { sameBytes } from '../../midi';
import {
	Assembly,
	addressIn,
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
	type CaptureWay,
	type Match,
	type Profile,
	type Span,
	type Variables
} from '../../profile';
import type { Conversation } from '../conversation';
import { CANCELLED, noAnswer } from '../reasons';
import type { Ask } from '../asks';
import type { Haul } from './haul';
import { Stop, comeBack, say } from '../line';

const CONFIRM_TRIES = 6;
const MOVED = 'its panel was moved meanwhile';
const SILENT = 'no answer';

/** A message as it came. */
interface Came {
	match: Match;
	bytes: Uint8Array;
	/** What the device said of the slot, where the message does not. */
	namedBy: Uint8Array | null;
}

/** What came of one ask. */
class Catch {
	messages: Came[] = [];
	/** Whether something came twice, and not alike. */
	contradicted = false;
	#assembly: Assembly;
	readonly #profile: Profile;
	readonly #ask: Ask;

	constructor(profile: Profile, ask: Ask) {
		this.#profile = profile;
		this.#ask = ask;
		this.#assembly = new Assembly(profile);
	}

	/** Nothing has come yet. */
	clear(): void {
		this.messages = [];
		this.#assembly = new Assembly(this.#profile);
	}

	/** Takes a message in; false where nothing of it was asked for. */
	take(came: Came): boolean {
		const { area, brings } = this.#ask;
		const ours = came.match.pieces.some(
			(piece) => piece.area === area && brings.some(({ slot }) => slot === piece.slot)
		);
		if (!ours) return false;
		this.messages.push(came);
		for (const piece of came.match.pieces) if (this.#assembly.put(piece)) this.contradicted = true;
		return true;
	}

	/** Whether these stretches have come. */
	holds(spans: readonly Span[]): boolean {
		return spans.every((span) => this.#assembly.bytesOf(this.#ask.area, span.slot, span));
	}

	/** All that was asked for, joined; null where some of it has not come. */
	get memory(): Uint8Array | null {
		return this.#assembly.joined(this.#ask.area, this.#ask.brings);
	}

	/**
	 * What is asked for next, and what that brings: all of it, or, where a request names an address, what has not come, one
	 * stretch after another.
	 */
	next(): { request: Variables; goal: Span[] } {
		const { area, brings, request } = this.#ask;
		if (request.address === undefined || this.messages.length === 0) return { request, goal: brings };
		const [gap] = brings.flatMap((span) =>
			this.#assembly.gapsOf(area, span.slot, span).map((each): Span => ({ slot: span.slot, ...each }))
		);
		return {
			request: { ...request, address: addressIn(this.#profile, area, gap.slot, gap.at)!, size: gap.size },
			goal: [gap]
		};
	}
}

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

/** Waits for the word that this was all; where it does not come, what came is whole all the same. */
function* hearEnd(haul: Haul, { way }: Ask): Conversation<void> {
	for (;;) {
		const heard = yield { do: 'wait', idleMs: way.timeoutMs };
		if (heard.heard === 'cancelled') throw new Stop(CANCELLED);
		if (heard.heard === 'silence' || heard.heard === 'unplugged') return;
		if (heard.heard === 'message' && saidBy(haul.order.profile, way, heard.bytes) === 'end') return;
	}
}

/** Tells the device that nothing more is wanted: it goes out whatever the musician does. */
function* callOff({ order }: Haul, id: string, slot: number): Conversation<void> {
	yield { do: 'send', bytes: buildMessage(order.profile, id, { ...order.target, slot }) };
}

/** Asks until all of it has come whole; gives it, or what was wrong with the last try. What came is in `caught` in any case. */
function* fetch(haul: Haul, ask: Ask, caught: Catch): Conversation<string | null> {
	const { order, emit, panel } = haul;
	const { profile, target } = order;
	const { way } = ask;
	const expected = messagesOf(way.expect);
	const [slot] = ask.firsts;
	const ofPanel = panel.concerns(expected[0]);
	const varies = expected.some((id) => layoutOf(profile, id).varies);
	let silent = 0;
	let failed = 0;
	let asked = false;
	let goal = ask.brings;
	let idleMs = way.timeoutMs;
	const tell = (id: string, about: Variables = {}) =>
		say(order, buildMessage(profile, id, { ...target, slot, ...about }));
	let namedBy: Uint8Array | null = null;
	/** What was wrong with a message while others were still to come. */
	let noted: string | null = null;
	for (;;) {
		if (!asked) {
			if (ofPanel) namedBy = yield* panel.callUp(ask.area, slot);
			const next = caught.next();
			goal = next.goal;
			const request = buildMessage(profile, (way.start as { send: string }).send, {
				...target,
				...next.request
			});
			if (!(yield* say(order, request))) continue;
			noted = null;
		}
		asked = true;
		const heard = yield { do: 'wait', idleMs };
		idleMs = way.timeoutMs;
		let ended = false;
		let trouble: string;
		if (heard.heard === 'cancelled') {
			if (way.cancel !== undefined) yield* callOff(haul, way.cancel, slot);
			throw new Stop(CANCELLED);
		}
		if (heard.heard === 'unplugged') {
			yield* comeBack(order);
			asked = false;
			continue;
		} else if (heard.heard === 'message') {
			const found = matchOneOf(profile, expected, heard.bytes);
			if (isMatch(found)) {
				haul.refuseOtherId(found);
				const match = ofPanel ? ofSlot(profile, found, slot) : found;
				if (!caught.take({ match, bytes: heard.bytes, namedBy })) continue;
				if (caught.contradicted) haul.doubt();
				if (way.confirm && way.confirm.each !== 'dump') yield* tell(way.confirm.good, found.variables);
				if (!caught.holds(goal)) continue;
				if (!caught.memory) {
					asked = false;
					continue;
				}
				// It is of this slot only where the panel stands there before it and after it.
				if (!ofPanel || (yield* panel.movedTo(ask.area, slot)).length === 0) {
					if (way.says?.end) yield* hearEnd(haul, ask);
					if (way.confirm?.each === 'dump') yield* tell(way.confirm.good);
					if (way.stop !== undefined) yield* tell(way.stop);
					return null;
				}
				caught.clear();
				trouble = MOVED;
			} else if (ofPanel && (panel.read(ask.area, heard.bytes) ?? slot) !== slot) trouble = MOVED;
			else if (found.why === 'other message') {
				const said = saidBy(profile, way, heard.bytes);
				if (said === 'wait') idleMs = way.says?.waitMs ?? WAIT_MS;
				if (said === null || said === 'wait') continue;
				trouble = said === 'end' ? 'it ended before all of it had come' : 'it called it off';
				ended = true;
			} else {
				trouble = found.says;
				haul.distrust(found);
			}
			// The device itself repeats a message that is reported as bad.
			const about: Variables = { ...target, slot, ...badOf(profile, expected, heard.bytes) };
			const canTell =
				way.confirm !== undefined &&
				way.confirm.each !== 'dump' &&
				variablesOf(profile, way.confirm.bad).every((name) => about[name] !== undefined);
			if (canTell && !ended && trouble !== MOVED && failed < way.retries) {
				failed++;
				emit({ event: 'retry', says: trouble });
				yield* tell(way.confirm!.bad, about);
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
		if (heard.heard !== 'silence' && !ended && trouble !== MOVED && ask.messages > 1) {
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
