import { sameBytes } from '../midi';
import {
	buildMessage,
	deviceIdOffset,
	isMatch,
	matchAny,
	matchMessage,
	slotKey,
	type Match,
	type Mismatch,
	type Profile
} from '../profile';
import type { Identity } from '../sysex';
import type { Conversation } from './conversation';
import type { Emit } from './events';
import { missingSlots } from './missing';
import { PATIENCE_MS, identify, type Target } from './identify';
import { CANCELLED, UNPLUGGED, damagedReason, noAnswer, wrongDeviceId, wrongModel } from './reasons';
import type { CaptureOutcome, Reason } from './outcome';
import { countSlots, notThere, slotsInScope, type Scope, type SlotSet } from './scope';
import { captureCost, planCapture, type Ask } from './ways';

export interface CaptureOrder {
	profile: Profile;
	target: Target;
	scope: Scope;
	/** Messages of an earlier, unfinished attempt: what they hold is not asked for again. */
	have?: readonly Uint8Array[];
	/** Multiplies every pause; 1 is the profile's own pace. */
	paceFactor?: number;
	/** How long an unplugged port may stay away, in ms. */
	patienceMs?: number;
	/** Damage was seen in the earlier attempt: what it holds is read a second time. */
	distrusted?: boolean;
	/** Skips asking who is there, because it was asked just now. */
	identified?: boolean;
}

const CONFIRM_TRIES = 6;
const groupKey = (ask: Ask, first: number) => `${ask.way.expect}:${first}`;

/** Stops the asking for good. */
class Stop {
	constructor(readonly reason: Reason) {}
}

/**
 * Captures the memory in `scope`. Ends complete, incomplete with exactly what is missing, or refused with the reason.
 * A later call with `have` resumes where this one stopped.
 */
export function* capture(order: CaptureOrder, emit: Emit): Conversation<CaptureOutcome> {
	const { profile, target } = order;
	const absent = notThere(profile, order.scope);
	const wanted: SlotSet = absent === null ? slotsInScope(profile, order.scope) : new Map();
	const messages: Uint8Array[] = [];
	const why = new Map<string, string>();
	const held = new Set<string>();
	/** Accepted messages by kind and first slot. */
	const received = new Map<string, Uint8Array>();
	/** Set once damage was seen that a checksum may miss at another time. */
	let distrusted = order.distrusted ?? false;
	const hold = (match: Match) =>
		match.records.forEach((_, i) => held.add(slotKey(match.area!, match.firstSlot + i)));
	for (const bytes of order.have ?? []) {
		const match = matchAny(profile, bytes);
		if (isMatch(match)) {
			hold(match);
			received.set(`${match.messageId}:${match.firstSlot}`, bytes);
		}
		messages.push(bytes);
	}

	let identity: Identity | null = null;
	const end = (reason: Reason | null): CaptureOutcome => {
		const missing = missingSlots(profile, wanted, held, why, reason);
		const total = countSlots(wanted);
		const status =
			total > 0 && missing.length === 0 ? 'complete' : missing.length === total ? 'refused' : 'incomplete';
		return {
			kind: 'capture',
			status,
			reason: status === 'complete' ? null : (reason ?? damagedReason(profile, missing)),
			missing,
			messages,
			identity
		};
	};

	if (countSlots(wanted) === 0)
		return end({
			code: 'nothing to do',
			says: absent === null ? 'No slot was chosen.' : `A ${profile.model} has no “${absent}” to send.`,
			remedy: 'Choose what it has.'
		});
	if (!order.identified) {
		emit({ event: 'phase', phase: 'identity', bytes: 0, ms: 0, messages: 1 });
		const found = yield* identify(profile, target, order.patienceMs);
		identity = found.identity;
		if (found.reason) return end(found.reason);
	}

	const open: SlotSet = new Map(
		[...wanted].map(([area, slots]) => [area, slots.filter((slot) => !held.has(slotKey(area, slot)))])
	);
	const { asks, impossible } = planCapture(profile, open);
	if (asks.length === 0 && impossible.length > 0)
		return end({
			code: 'receive only',
			says: `The ${profile.model} cannot send its memory.`,
			remedy: 'Write its settings down, or keep the dump that you send to it.'
		});
	const cost = captureCost(asks);
	emit({
		event: 'phase',
		phase: 'capture',
		bytes: cost.bytes,
		ms: cost.ms,
		messages: asks.reduce((sum, ask) => sum + ask.firsts.length, 0)
	});

	let stopped: Reason | null = null;
	try {
		let first = true;
		for (const ask of asks) {
			if (!first && ask.way.gapMs > 0) yield* rest(ask.way.gapMs * (order.paceFactor ?? 1));
			first = false;
			if (ask.way.start.by === 'panel') yield* listenForDump(ask);
			else yield* askFor(ask);
		}
		if (distrusted) {
			const again = [...asks, ...planCapture(profile, onlyHeld()).asks].filter(
				(ask) => ask.way.start.by === 'request' && received.has(groupKey(ask, ask.firsts[0]))
			);
			const unique = new Map(again.map((ask) => [groupKey(ask, ask.firsts[0]), ask]));
			emit({ event: 'phase', phase: 'capture', ...captureCost([...unique.values()]), messages: unique.size });
			for (const ask of unique.values()) yield* confirm(ask);
		}
	} catch (error) {
		if (!(error instanceof Stop)) throw error;
		stopped = error.reason;
	}
	return end(stopped);

	function* rest(ms: number): Conversation<void> {
		const heard = yield { do: 'sleep', ms };
		if (heard.heard === 'cancelled') throw new Stop(CANCELLED);
	}

	/** Waits for the port and makes sure that the same device is behind it. */
	function* comeBack(): Conversation<void> {
		const heard = yield { do: 'await port', patienceMs: order.patienceMs ?? PATIENCE_MS };
		if (heard.heard === 'cancelled') throw new Stop(CANCELLED);
		if (heard.heard !== 'done') throw new Stop(UNPLUGGED);
		const found = yield* identify(profile, target, order.patienceMs);
		if (found.reason) throw new Stop(found.reason);
	}

	function onlyHeld(): SlotSet {
		return new Map(
			[...wanted].map(([area, slots]) => [area, slots.filter((slot) => held.has(slotKey(area, slot)))])
		);
	}

	function refuseOtherId({ variables: { deviceId } }: Match): void {
		if (deviceId !== undefined && deviceId !== target.deviceId)
			throw new Stop(wrongDeviceId(profile, deviceId, target.deviceId));
	}

	function distrust(mismatch: Mismatch): void {
		if (distrusted || (mismatch.why !== 'checksum' && mismatch.why !== 'content')) return;
		distrusted = true;
		emit({ event: 'distrusted' });
	}

	function blame(ask: Ask, first: number, trouble: string): void {
		for (let i = 0; i < ask.records; i++) why.set(slotKey(ask.area, first + i), trouble);
	}

	/** Takes back what was accepted for a group. */
	function forget(ask: Ask, first: number): void {
		const bytes = received.get(groupKey(ask, first));
		received.delete(groupKey(ask, first));
		if (bytes) messages.splice(messages.indexOf(bytes), 1);
		for (let i = 0; i < ask.records; i++) held.delete(slotKey(ask.area, first + i));
	}

	function accept(match: Match, bytes: Uint8Array): void {
		messages.push(bytes);
		received.set(`${match.messageId}:${match.firstSlot}`, bytes);
		hold(match);
		emit({
			event: 'received',
			bytes,
			title: match.title,
			area: match.area!,
			firstSlot: match.firstSlot,
			records: match.records.length
		});
	}

	/** Sends; true when it left, false when the port had to come back first. */
	function* say(bytes: Uint8Array): Conversation<boolean> {
		const heard = yield { do: 'send', bytes };
		if (heard.heard === 'cancelled') throw new Stop(CANCELLED);
		if (heard.heard !== 'unplugged') return true;
		yield* comeBack();
		return false;
	}

	/** Asks for one message until it comes whole; gives it, or what was wrong with the last try. */
	function* fetch(ask: Ask): Conversation<{ match: Match; bytes: Uint8Array } | string> {
		const { way } = ask;
		const slot = ask.firsts[0];
		const request = buildMessage(profile, (way.start as { send: string }).send, { ...target, slot });
		let silent = 0;
		let failed = 0;
		let asked = false;
		for (;;) {
			if (!asked && !(yield* say(request))) continue;
			asked = true;
			const heard = yield { do: 'wait', idleMs: way.timeoutMs };
			let trouble: string;
			if (heard.heard === 'cancelled') throw new Stop(CANCELLED);
			if (heard.heard === 'unplugged') {
				yield* comeBack();
				asked = false;
				continue;
			} else if (heard.heard === 'message') {
				const match = matchMessage(profile, way.expect, heard.bytes);
				if (isMatch(match)) {
					refuseOtherId(match);
					if (match.firstSlot !== slot) continue;
					if (way.confirm) yield* say(buildMessage(profile, way.confirm.good, { ...target, slot }));
					return { match, bytes: heard.bytes };
				}
				if (match.why === 'other message') continue;
				trouble = match.says;
				distrust(match);
				// The device itself repeats a message that is reported as bad.
				if (way.confirm && failed < way.retries) {
					failed++;
					emit({ event: 'retry', says: trouble });
					yield* say(buildMessage(profile, way.confirm.bad, { ...target, slot }));
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
				if (silent > way.retries && messages.length === (order.have?.length ?? 0))
					throw new Stop(noAnswer(profile));
				return trouble;
			}
			emit({ event: 'retry', says: trouble });
		}
	}

	function* askFor(ask: Ask): Conversation<void> {
		const got = yield* fetch(ask);
		if (typeof got === 'string') blame(ask, ask.firsts[0], got);
		else accept(got.match, got.bytes);
	}

	/**
	 * A short checksum lets some damage through. Once damage was seen, nothing is believed before it came twice in a
	 * row in the same way.
	 */
	function* confirm(ask: Ask): Conversation<void> {
		const first = ask.firsts[0];
		const believed = received.get(groupKey(ask, first));
		let last = believed;
		for (let tries = 0; last && tries < CONFIRM_TRIES; tries++) {
			const got = yield* fetch(ask);
			if (typeof got === 'string') break;
			if (sameBytes(got.bytes, last)) {
				if (last !== believed) {
					forget(ask, first);
					accept(got.match, got.bytes);
				}
				return;
			}
			last = got.bytes;
		}
		forget(ask, first);
		blame(ask, first, 'it came differently each time');
	}

	function* listenForDump(ask: Ask): Conversation<void> {
		if (ask.way.start.by !== 'panel') return;
		yield* listenOnce(ask, ask.way.start, ask.way.start.instruction, (match, bytes) => {
			if (!match.records.every((_, i) => held.has(slotKey(match.area!, match.firstSlot + i))))
				accept(match, bytes);
		});
		// As in `confirm`: a line that damages data is believed only when it says the same twice.
		if (!distrusted) return;
		const proved = new Set<number>();
		yield* listenOnce(
			ask,
			ask.way.start,
			`Some of it arrived damaged. Once more, to compare: ${ask.way.start.instruction}`,
			(match, bytes) => {
				const before = received.get(groupKey(ask, match.firstSlot));
				if (before && sameBytes(before, bytes)) proved.add(match.firstSlot);
			}
		);
		for (const first of ask.firsts)
			if (!proved.has(first)) {
				forget(ask, first);
				blame(ask, first, 'it did not come twice in the same way');
			}
	}

	function* listenOnce(
		ask: Ask,
		start: { waitMs: number },
		says: string,
		take: (match: Match, bytes: Uint8Array) => void
	): Conversation<void> {
		const { way } = ask;
		const awaited = new Set(ask.firsts);
		emit({ event: 'hands', says });
		let begun = false;
		while (awaited.size > 0) {
			const heard = yield { do: 'wait', idleMs: begun ? way.quietMs : start.waitMs };
			if (heard.heard === 'cancelled') throw new Stop(CANCELLED);
			if (heard.heard === 'silence') {
				if (!begun)
					throw new Stop({
						code: 'no answer',
						says: `No dump came from the ${profile.model}.`,
						remedy: says
					});
				break;
			}
			if (heard.heard === 'unplugged') {
				yield* comeBack();
				continue;
			}
			if (heard.heard !== 'broken' && heard.heard !== 'message') continue;
			if (heard.heard === 'broken') {
				begun = true;
				emit({ event: 'retry', says: `a message broke off (${heard.reason})` });
				continue;
			}
			const match = matchMessage(profile, way.expect, heard.bytes);
			if (isMatch(match)) {
				refuseOtherId(match);
				if (!begun) emit({ event: 'hands done' });
				begun = true;
				if (awaited.delete(match.firstSlot)) take(match, heard.bytes);
			} else if (match.why === 'other message') {
				if (heard.bytes[1] !== 0x7e && heard.bytes[1] !== 0x7f)
					throw new Stop(wrongModel(profile, 'A dump of another model arrived'));
			} else {
				begun = true;
				distrust(match);
				const at = deviceIdOffset(profile, way.expect);
				if (at > 0 && heard.bytes[at] !== target.deviceId && match.why !== 'length')
					throw new Stop(wrongDeviceId(profile, heard.bytes[at], target.deviceId));
				emit({ event: 'retry', says: match.says });
				// Which group it was is unknown when it is damaged: all that are awaited stay missing with this reason.
				for (const first of awaited) blame(ask, first, match.says);
			}
		}
		emit({ event: 'hands done' });
	}
}
