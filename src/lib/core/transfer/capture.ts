import { areaOf, buildMessage, deviceIdOffset, isMatch, matchAny, matchMessage, slotKey, slotLabel, type Match, type Profile } from '../profile';
import type { Identity } from '../sysex';
import type { Conversation } from './conversation';
import { CANCELLED, UNPLUGGED, identify, noAnswer, wrongDeviceId, wrongModel, type Target } from './identify';
import type { CaptureOutcome, MissingSlot, Reason } from './outcome';
import { slotsInScope, type Scope, type SlotSet } from './scope';
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
	/** Skips asking who is there, because it was asked just now. */
	identified?: boolean;
}

/** What happens on the way, for progress and for storing what arrives. */
export type TransferEvent =
	| { event: 'phase'; phase: 'identity' | 'safety copy' | 'send' | 'read back' | 'capture'; bytes: number; ms: number; messages: number }
	| { event: 'received'; bytes: Uint8Array; title: string; area: string; firstSlot: number; records: number }
	| { event: 'written'; bytes: number; title: string; area: string; firstSlot: number; records: number }
	| { event: 'hands'; says: string }
	| { event: 'hands done' }
	| { event: 'retry'; says: string };

type Emit = (event: TransferEvent) => void;

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
	const wanted = slotsInScope(profile, order.scope);
	const messages: Uint8Array[] = [];
	const why = new Map<string, string>();
	const held = new Set<string>();
	const hold = (match: Match) => match.records.forEach((_, i) => held.add(slotKey(match.area!, match.firstSlot + i)));
	for (const bytes of order.have ?? []) {
		const match = matchAny(profile, bytes);
		if (isMatch(match)) hold(match);
		messages.push(bytes);
	}

	let identity: Identity | null = null;
	const end = (reason: Reason | null): CaptureOutcome => {
		const missing = missingSlots(profile, wanted, held, why, reason);
		const total = [...wanted.values()].reduce((sum, slots) => sum + slots.length, 0);
		const status = missing.length === 0 ? 'complete' : missing.length === total ? 'refused' : 'incomplete';
		return { kind: 'capture', status, reason: status === 'complete' ? null : (reason ?? damagedReason(profile, missing)), missing, messages, identity };
	};

	if (!order.identified) {
		emit({ event: 'phase', phase: 'identity', bytes: 0, ms: 0, messages: 1 });
		const found = yield* identify(profile, target);
		identity = found.identity;
		if (found.reason) return end(found.reason);
	}

	const open: SlotSet = new Map([...wanted].map(([area, slots]) => [area, slots.filter((slot) => !held.has(slotKey(area, slot)))]));
	const { asks, impossible } = planCapture(profile, open);
	if (asks.length === 0 && impossible.length > 0)
		return end({ code: 'receive only', says: `The ${profile.model} cannot send its memory.`, remedy: 'Write its settings down, or keep the dump that you send to it.' });
	const cost = captureCost(asks);
	emit({ event: 'phase', phase: 'capture', bytes: cost.bytes, ms: cost.ms, messages: asks.reduce((sum, ask) => sum + ask.firsts.length, 0) });

	let stopped: Reason | null = null;
	try {
		let first = true;
		for (const ask of asks) {
			if (!first && ask.way.gapMs > 0) yield* rest(ask.way.gapMs * (order.paceFactor ?? 1));
			first = false;
			if (ask.way.start.by === 'panel') yield* listenForDump(ask);
			else yield* askFor(ask, ask.way.start.send);
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
		const heard = yield { do: 'await port', patienceMs: order.patienceMs ?? 20_000 };
		if (heard.heard === 'cancelled') throw new Stop(CANCELLED);
		if (heard.heard !== 'done') throw new Stop(UNPLUGGED);
		const found = yield* identify(profile, target);
		if (found.reason) throw new Stop(found.reason);
	}

	function accept(match: Match, bytes: Uint8Array): void {
		messages.push(bytes);
		hold(match);
		emit({ event: 'received', bytes, title: match.title, area: match.area!, firstSlot: match.firstSlot, records: match.records.length });
	}

	/** Sends; true when it left, false when the port had to come back first. */
	function* say(bytes: Uint8Array): Conversation<boolean> {
		const heard = yield { do: 'send', bytes };
		if (heard.heard === 'cancelled') throw new Stop(CANCELLED);
		if (heard.heard !== 'unplugged') return true;
		yield* comeBack();
		return false;
	}

	function* askFor(ask: Ask, requestId: string): Conversation<void> {
		const { way } = ask;
		const slot = ask.firsts[0];
		const request = buildMessage(profile, requestId, { ...target, slot });
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
					if (match.variables.deviceId !== undefined && match.variables.deviceId !== target.deviceId)
						throw new Stop(wrongDeviceId(profile, match.variables.deviceId, target.deviceId));
					if (match.firstSlot !== slot) continue;
					accept(match, heard.bytes);
					if (way.confirm) yield* say(buildMessage(profile, way.confirm.good, { ...target, slot }));
					return;
				}
				if (match.why === 'other message') continue;
				trouble = match.says;
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
				for (let i = 0; i < ask.records; i++) why.set(slotKey(ask.area, slot + i), trouble);
				// A device that never spoke will not speak for the next slot either.
				if (silent > way.retries && messages.length === (order.have?.length ?? 0)) throw new Stop(noAnswer(profile));
				return;
			}
			emit({ event: 'retry', says: trouble });
		}
	}

	function* listenForDump(ask: Ask): Conversation<void> {
		const { way } = ask;
		if (way.start.by !== 'panel') return;
		const awaited = new Set(ask.firsts);
		emit({ event: 'hands', says: way.start.instruction });
		let begun = false;
		while (awaited.size > 0) {
			const heard = yield { do: 'wait', idleMs: begun ? way.quietMs : way.start.waitMs };
			if (heard.heard === 'cancelled') throw new Stop(CANCELLED);
			if (heard.heard === 'silence') {
				if (!begun) throw new Stop({ code: 'no answer', says: `No dump came from the ${profile.model}.`, remedy: way.start.instruction });
				break;
			}
			if (heard.heard === 'unplugged') {
				yield* comeBack();
				continue;
			}
			if (heard.heard === 'broken') {
				begun = true;
				emit({ event: 'retry', says: `a message broke off (${heard.reason})` });
				continue;
			}
			if (heard.heard !== 'message') continue;
			const match = matchMessage(profile, way.expect, heard.bytes);
			if (isMatch(match)) {
				const { deviceId } = match.variables;
				if (deviceId !== undefined && deviceId !== target.deviceId) throw new Stop(wrongDeviceId(profile, deviceId, target.deviceId));
				if (!begun) emit({ event: 'hands done' });
				begun = true;
				if (!awaited.delete(match.firstSlot)) continue;
				if (match.records.every((_, i) => held.has(slotKey(match.area!, match.firstSlot + i)))) continue;
				accept(match, heard.bytes);
			} else if (match.why === 'other message') {
				if (heard.bytes[1] !== 0x7e && heard.bytes[1] !== 0x7f) throw new Stop(wrongModel(profile, 'A dump of another model arrived'));
			} else {
				begun = true;
				const at = deviceIdOffset(profile, way.expect);
				if (at > 0 && heard.bytes[at] !== target.deviceId && match.why !== 'length') throw new Stop(wrongDeviceId(profile, heard.bytes[at], target.deviceId));
				emit({ event: 'retry', says: match.says });
				// Which group it was is unknown when it is damaged: all that are awaited stay missing with this reason.
				for (const first of awaited) for (let i = 0; i < ask.records; i++) why.set(slotKey(ask.area, first + i), match.says);
			}
		}
		emit({ event: 'hands done' });
	}
}

const damagedReason = (profile: Profile, missing: readonly MissingSlot[]): Reason => ({
	code: missing.every(({ why }) => why.startsWith('checksum')) ? 'checksum' : 'damaged',
	says: `Part of what the ${profile.model} sent arrived damaged or not at all.`,
	remedy: 'Resume: only what is missing is asked for again. If it fails at the same place, try another cable or adapter, or a slower pace.'
});

function missingSlots(profile: Profile, wanted: SlotSet, held: Set<string>, why: Map<string, string>, reason: Reason | null): MissingSlot[] {
	const missing: MissingSlot[] = [];
	for (const [area, slots] of wanted) {
		const { labels } = areaOf(profile, area);
		for (const index of slots) {
			const key = slotKey(area, index);
			if (!held.has(key)) missing.push({ area, index, label: slotLabel(labels, index), why: why.get(key) ?? reason?.code ?? 'not received' });
		}
	}
	return missing;
}
