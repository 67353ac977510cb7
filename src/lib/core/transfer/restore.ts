import { joinBytes, sameBytes } from '../midi';
import {
	areaOf,
	buildMessage,
	decodeDump,
	isDescribed,
	isMatch,
	makeSlot,
	matchMessage,
	slotKey,
	slotLabel,
	totalOf,
	type Parcel,
	type Slot,
	type Span
} from '../profile';
import type { Identity } from '../sysex';
import type { CalledArea } from './called';
import { capture } from './capture';
import type { Conversation } from './conversation';
import type { Emit } from './events';
import { identify } from './identify';
import { Stop, comeBack, rest, say, type LineOrder } from './line';
import { Panel } from './panel';
import { CANCELLED, changedSince, noAnswer, panelMoved, protectedReason } from './reasons';
import type { CaptureOutcome, Reason, RestoreOutcome, SlotResult } from './outcome';
import { everySlot, joined, type Scope, type SlotSet } from './scope';
import { affectedSlots, differsFrom, planRestore, slotsOf, writeMs, type Write } from './writes';

export interface RestoreOrder extends LineOrder {
	/** The content that the device shall hold. */
	wanted: readonly Slot[];
	/** What slots were thought to hold when `wanted` was worked out: where one holds neither, nothing is written. */
	expected?: readonly Slot[];
	/** All of it is written, also what a slot holds already: to try whether the profile writes right. */
	rewrite?: boolean;
}

/** What a restore has stored before it writes. */
export interface SafetyCopy {
	kind: 'safety';
	outcome: CaptureOutcome;
}

/**
 * Brings the device to hold `wanted` (see {@link bring}), and its panel to stand where it stood before.
 */
export function* restore(order: RestoreOrder, emit: Emit): Conversation<RestoreOutcome> {
	const panel = new Panel(order, emit);
	const outcome = yield* bring(order, panel, emit);
	try {
		if (!isOver(outcome.reason)) yield* panel.putBack();
	} catch (error) {
		// Where the panel stands is a courtesy: what was written and read is said in any case.
		if (!(error instanceof Stop)) throw error;
	}
	return outcome;
}

/** Whether nothing more can be said to the device. */
const isOver = (reason: Reason | null): boolean =>
	reason !== null && ['cancelled', 'unplugged', 'no answer'].includes(reason.code);

/**
 * Brings the device to hold `wanted`: checks who it is, captures and stores what will be overwritten, writes only
 * the slots that differ, reads back, and compares slot by slot. A device that cannot be read ends as `sent`.
 */
function* bring(order: RestoreOrder, panel: Panel, emit: Emit): Conversation<RestoreOutcome> {
	const { profile, target, wanted } = order;
	const pace = order.paceFactor ?? 1;
	const canRead = (area: string) => profile.capture.some((way) => way.area === area);
	const results = new Map<string, SlotResult>(
		wanted.map((slot) => [
			slotKey(slot.area, slot.index),
			{ area: slot.area, index: slot.index, label: slot.label, name: slot.name, result: 'not sent' }
		])
	);
	const mark = (area: string, index: number, result: SlotResult['result'], found?: string | null) => {
		const entry = results.get(slotKey(area, index));
		if (entry) Object.assign(entry, found === undefined ? { result } : { result, found });
	};
	let identity: Identity | null = null;
	let safety = false;
	let readBack: Uint8Array[] = [];
	const touched: Write[] = [];
	/** Slots to which the panel was moved while a dump went to the one that it stands at. */
	const strays: SlotSet = new Map();
	const reached = (): SlotSet => joined(affectedSlots(touched), strays);
	/** Whether something that has no checksum was sent more than once: the first may have gone elsewhere. */
	let doubted = false;
	/**
	 * A command without a checksum that was garbled may have put its sound anywhere: where a slot is not as it shall be, or
	 * took more than one try, all may have changed.
	 */
	const strayed = (): void => {
		for (const write of touched) {
			const isProved = slotsOf(write).every((slot) =>
				['verified', 'already there'].includes(results.get(slotKey(write.area, slot))?.result ?? '')
			);
			const area = areaOf(profile, write.area);
			if (area.called && !isProved) strays.set(area.id, everySlot(profile, area.id));
			if (isDescribed(area) && (doubted || !isProved))
				for (const { id } of profile.areas.filter(isDescribed)) strays.set(id, everySlot(profile, id));
		}
	};
	const end = (status: RestoreOutcome['status'], reason: Reason | null): RestoreOutcome => {
		strayed();
		return {
			kind: 'restore',
			status,
			reason,
			slots: [...results.values()],
			touched: [...reached()].flatMap(([area, slots]) => slots.map((index) => ({ area, index }))),
			readBack,
			safety,
			identity
		};
	};

	if (wanted.length === 0)
		return end('refused', {
			code: 'nothing to do',
			says: 'No slot was chosen.',
			remedy: 'Choose at least one.'
		});
	emit({ event: 'phase', phase: 'identity', bytes: 0, ms: 0, messages: 1 });
	const found = yield* identify(profile, target, order.patienceMs);
	identity = found.identity;
	if (found.reason) return end('refused', found.reason);

	// 1. What could be overwritten is captured and stored first.
	const content = new Map(wanted.map((slot) => [slotKey(slot.area, slot.index), slot.bytes]));
	const asked: SlotSet = new Map();
	for (const slot of wanted)
		asked.set(
			slot.area,
			[...(asked.get(slot.area) ?? []), slot.index].sort((a, b) => a - b)
		);
	const widest = planRestore(
		profile,
		asked,
		(area, index) => content.has(slotKey(area, index)) || canRead(area)
	);
	if (widest.impossible.length > 0)
		return end('refused', {
			code: 'receive only',
			says: `The ${profile.model} cannot take “${areaOf(profile, widest.impossible[0]).name}” in this way.`,
			remedy:
				'It takes the whole area at once, and the rest of it is not known: send a version that holds all of it.'
		});
	const affected = affectedSlots(widest.writes);
	const before = new Map<string, Uint8Array>();
	const readable: SlotSet = new Map([...affected].filter(([area]) => canRead(area)));
	if (readable.size > 0) {
		const copy = yield* read(readable, 'safety copy');
		if (copy.status !== 'complete') {
			const why = copy.reason!;
			return end(
				'refused',
				why.code === 'cancelled'
					? why
					: {
							code: 'no safety copy',
							says: `What would be overwritten could not be read first: ${why.says}`,
							remedy: `${why.remedy} Nothing was written.`
						}
			);
		}
		const kept = yield {
			do: 'keep',
			what: { kind: 'safety', outcome: { ...copy, identity } } satisfies SafetyCopy
		};
		if (kept.heard === 'cancelled') return end('refused', CANCELLED);
		if (kept.heard === 'not kept')
			return end('refused', {
				code: 'no safety copy',
				says: `The safety copy could not be stored: ${kept.problem.message}`,
				remedy: `${kept.problem.remedy} Nothing was written.`
			});
		safety = true;
		for (const slot of decodeDump(profile, copy.messages).slots)
			before.set(slotKey(slot.area, slot.index), slot.bytes);
	}

	const changed = (order.expected ?? []).filter(({ area, index, bytes }) => {
		const key = slotKey(area, index);
		const old = before.get(key);
		return old && !sameBytes(old, bytes) && !sameBytes(old, content.get(key) ?? bytes);
	});
	if (changed.length > 0) return end('refused', changedSince(profile, changed));

	// 2. Only what differs is written.
	const differing: SlotSet = new Map();
	for (const slot of wanted) {
		const key = slotKey(slot.area, slot.index);
		const old = before.get(key);
		if (!order.rewrite && old && sameBytes(old, slot.bytes)) mark(slot.area, slot.index, 'already there');
		else
			differing.set(
				slot.area,
				[...(differing.get(slot.area) ?? []), slot.index].sort((a, b) => a - b)
			);
	}
	const { writes } = planRestore(
		profile,
		differing,
		(area, index) => content.has(slotKey(area, index)) || before.has(slotKey(area, index)),
		order.rewrite ? undefined : differsFrom(before, content)
	);
	if (writes.length === 0) {
		for (const result of results.values()) result.result = 'already there';
		return end('verified', null);
	}
	emit({
		event: 'phase',
		phase: 'send',
		bytes: writes.reduce((sum, write) => sum + write.bytes, 0),
		ms: writes.reduce((sum, write) => sum + writeMs(write, pace), 0),
		messages: writes.reduce((sum, { parcels }) => sum + parcels.length, 0)
	});
	let stopped: Reason | null = null;
	try {
		for (const write of writes) yield* put(write);
	} catch (error) {
		if (!(error instanceof Stop)) throw error;
		stopped = error.reason;
	}
	if (stopped && touched.length === 0) return end('refused', stopped);
	if (isOver(stopped)) return end('incomplete', stopped);

	// 3. What is there now is read back and compared.
	const back = reached();
	const checkable: SlotSet = new Map([...back].filter(([area]) => canRead(area)));
	if (checkable.size === 0) {
		return end(stopped ? 'incomplete' : 'sent', stopped);
	}
	const proof = yield* read(checkable, 'read back');
	readBack = proof.messages;
	const after = new Map(
		decodeDump(profile, proof.messages).slots.map((slot) => [slotKey(slot.area, slot.index), slot])
	);
	let wrong = 0;
	let unchanged = 0;
	let checked = 0;
	for (const [area, slots] of checkable)
		for (const index of slots) {
			const key = slotKey(area, index);
			const expected = content.get(key) ?? before.get(key);
			const now = after.get(key);
			if (!expected) {
				// Nobody meant to write here: what it holds is said, and not judged.
				const label = slotLabel(areaOf(profile, area).labels, index);
				results.set(key, { area, index, label, name: now?.name ?? null, result: 'unknown' });
				continue;
			}
			if (!now) {
				mark(area, index, 'unknown');
				continue;
			}
			if (!results.has(key)) {
				// A neighbour that had to be written along: it counts only if it was harmed.
				if (sameBytes(now.bytes, expected)) continue;
				const kept = makeSlot(profile, area, index, expected);
				results.set(key, {
					area,
					index,
					label: kept.label,
					name: kept.name,
					result: 'differs',
					found: now.name
				});
				wrong++;
				continue;
			}
			const already = results.get(key)!.result === 'already there';
			if (!already) checked++;
			if (sameBytes(now.bytes, expected)) {
				if (!already) mark(area, index, 'verified');
			} else {
				mark(area, index, 'differs', now.name);
				wrong++;
				const old = before.get(key);
				if (old && sameBytes(now.bytes, old)) unchanged++;
			}
		}
	if (stopped) return end('incomplete', stopped);
	if (proof.status !== 'complete') return end('incomplete', proof.reason);
	if (wrong === 0)
		return end([...results.values()].some(({ result }) => result === 'sent') ? 'sent' : 'verified', null);
	if (wrong === unchanged && unchanged === checked) return end('refused', protectedReason(profile));
	return end('differs', {
		code: 'damaged',
		says: `${wrong} ${wrong === 1 ? 'slot differs' : 'slots differ'} from what was sent.`,
		remedy: 'Send just these again, perhaps at a slower pace. The safety copy holds what was there before.'
	});

	function* read(slots: SlotSet, phase: 'safety copy' | 'read back'): Conversation<CaptureOutcome> {
		const scope: Scope = {
			kind: 'slots',
			slots: [...slots].flatMap(([area, list]) => list.map((index) => ({ area, index })))
		};
		return yield* capture({ ...order, scope, identified: true, panel }, (event) =>
			emit(event.event === 'phase' && event.phase === 'capture' ? { ...event, phase } : event)
		);
	}

	/** The bytes of a stretch as they shall be. */
	function shallBe(area: string, { slot, at, size }: Span): Uint8Array {
		const key = slotKey(area, slot);
		return (content.get(key) ?? before.get(key)!).subarray(at, at + size);
	}

	function* put(write: Write): Conversation<void> {
		const { way } = write;
		try {
			if (way.begin !== undefined) yield* deliver(write, frameOf(write, way.begin), { isFirst: true });
			for (const parcel of write.parcels) yield* putParcel(write, parcel);
			if (way.end !== undefined) yield* deliver(write, frameOf(write, way.end), {});
		} catch (error) {
			// Half of a dump is worth nothing to it: it is told that no more comes.
			if (error instanceof Stop && way.cancel !== undefined && error.reason.code !== 'unplugged')
				yield { do: 'send', bytes: frameOf(write, way.cancel) };
			throw error;
		}
		for (const slot of slotsOf(write))
			mark(
				write.area,
				slot,
				results.get(slotKey(write.area, slot))?.result === 'already there' ? 'already there' : 'sent'
			);
	}

	/** A message about what is written that carries none of it. */
	function frameOf(write: Write, id: string): Uint8Array {
		const { total } = write.way;
		const about =
			total === undefined || id !== write.way.end ? {} : { total: totalOf(profile, total, carriedBy(write)) };
		return buildMessage(profile, id, { ...target, slot: write.first, ...about });
	}

	/** What the messages of a write carry. */
	function carriedBy({ area, parcels }: Write): { messageId: string; memory: Uint8Array }[] {
		return parcels.map(({ messageId, holds }) => ({
			messageId,
			memory: joinBytes(holds.map((span) => shallBe(area, span)))
		}));
	}

	function* putParcel(write: Write, parcel: Parcel): Conversation<void> {
		const { way } = write;
		const message = buildMessage(
			profile,
			parcel.messageId,
			{ ...target, ...parcel.variables },
			joinBytes(parcel.holds.map((span) => shallBe(write.area, span))),
			parcel.contents
		);
		const ofPanel = panel.concerns(parcel.messageId);
		const called = panel.called.areaOf(parcel.messageId);
		const about = {
			isFirst: way.begin === undefined && parcel === write.parcels[0],
			packet: parcel.variables.packet,
			ofPanel
		};
		// Where the cable came out before it was stored, nobody knows what is played now: it is sent again.
		do yield* deliver(write, message, about);
		while (called && !(yield* storeIn(called, write.first)));
		emit({
			event: 'written',
			bytes: message.length,
			title: profile.messages[parcel.messageId].title,
			slots:
				parcel === write.parcels.at(-1)
					? slotsOf(write).map((index) => ({ area: write.area, index, name: null }))
					: []
		});
		if (way.gapMs > 0) {
			const rested = yield { do: 'sleep', ms: way.gapMs * pace };
			if (rested.heard === 'cancelled') throw new Stop(CANCELLED);
		}
		if (ofPanel) yield* assertStill(write);
	}

	/** Sends one message until the device has taken it, where it answers at all. */
	function* deliver(
		write: Write,
		message: Uint8Array,
		about: { isFirst?: boolean; packet?: number; ofPanel?: boolean }
	): Conversation<void> {
		const { way } = write;
		let failed = 0;
		for (let sends = 0; ; sends++) {
			doubted ||= sends > 0;
			if (about.ofPanel) yield* panel.callUp(write.area, write.first);
			const left = yield* sendPaced(write, message);
			if (!left) continue;
			if (!way.replies) return;
			const answer = yield* hearReply(write, about);
			if (answer === 'accepted') return;
			if (answer === 'locked') {
				// It said itself that nothing of this message was written.
				if (about.isFirst) {
					touched.pop();
					for (const slot of slotsOf(write))
						if (results.get(slotKey(write.area, slot))?.result === 'unknown')
							mark(write.area, slot, 'not sent');
				}
				throw new Stop(protectedReason(profile));
			}
			failed++;
			if (failed > way.retries) {
				if (answer === 'silence') throw new Stop(noAnswer(profile));
				const { labels } = areaOf(profile, write.area);
				throw new Stop({
					code: 'rejected',
					says: `The ${profile.model} rejected slot ${slotLabel(labels, write.first)} ${failed} times.`,
					remedy: 'Try a slower pace, or another cable or adapter.'
				});
			}
			emit({
				event: 'retry',
				says: answer === 'silence' ? 'no answer to a write' : 'the device rejected a write'
			});
		}
	}

	/** Has it put what it was sent into a slot. @returns false where the command did not leave */
	function* storeIn(area: CalledArea, slot: number): Conversation<boolean> {
		if (!(yield* say(order, panel.called.storeCommand(area, slot)))) return false;
		yield* rest(area.called.storeMs * pace);
		return true;
	}

	/** What was sent is where it belongs only if the panel still stands there. */
	function* assertStill({ area, first }: Write): Conversation<void> {
		const others = yield* panel.movedTo(area, first);
		if (others.length === 0) return;
		// It may have gone to any of these.
		strays.set(area, [...(strays.get(area) ?? []), ...others]);
		throw new Stop(panelMoved(profile, area, first, others));
	}

	/** The device gets its time for what it was sent, also where nobody wants to know how it went. */
	function* letRest({ way }: Write): Conversation<void> {
		if (way.replies) yield { do: 'wait', idleMs: way.timeoutMs };
		if (way.gapMs > 0) yield { do: 'sleep', ms: way.gapMs * pace };
	}

	/** Sends in the pieces that the device can take; false when the port went away in between. */
	function* sendPaced(write: Write, message: Uint8Array): Conversation<boolean> {
		const { chunk } = write.way;
		const size = chunk ? chunk.bytes : message.length;
		if (!touched.includes(write)) touched.push(write);
		for (const slot of slotsOf(write))
			if (results.get(slotKey(write.area, slot))?.result === 'not sent') mark(write.area, slot, 'unknown');
		for (let at = 0; at < message.length; at += size) {
			const heard = yield { do: 'send', bytes: message.subarray(at, Math.min(at + size, message.length)) };
			if (heard.heard === 'unplugged') {
				yield* comeBack(order);
				return false;
			}
			// A message is never left half sent by choice: cancelling takes effect after it.
			if (heard.heard === 'cancelled' && at + size >= message.length) {
				yield* letRest(write);
				throw new Stop(CANCELLED);
			}
			if (chunk && at + size < message.length) yield { do: 'sleep', ms: chunk.gapMs * pace };
		}
		return true;
	}

	function* hearReply(
		write: Write,
		{ packet, ofPanel }: { packet?: number; ofPanel?: boolean }
	): Conversation<'accepted' | 'rejected' | 'locked' | 'silence'> {
		const { replies, timeoutMs } = write.way;
		let patience = 50;
		let idleMs = timeoutMs;
		/** The packet that an answer is about, as it says so. */
		const about = packet === undefined ? undefined : packet + (replies!.names === 'next' ? 1 : 0);
		for (;;) {
			const heard = yield { do: 'wait', idleMs };
			idleMs = timeoutMs;
			if (heard.heard === 'cancelled') {
				yield* letRest(write);
				throw new Stop(CANCELLED);
			}
			if (heard.heard === 'silence' || heard.heard === 'unplugged') return 'silence';
			if (heard.heard === 'broken') return 'rejected';
			if (heard.heard !== 'message') continue;
			if (ofPanel) panel.note(write.area, heard.bytes);
			for (const answer of ['accepted', 'rejected', 'busy', 'locked'] as const) {
				const id = replies![answer];
				if (id === undefined) continue;
				const match = matchMessage(profile, id, heard.bytes);
				if (!isMatch(match)) continue;
				if (match.variables.slot !== undefined && match.variables.slot !== write.first) continue;
				// A late answer to an earlier packet, or one to this that came twice.
				if (
					answer === 'accepted' &&
					about !== undefined &&
					match.variables.packet !== undefined &&
					match.variables.packet !== about
				)
					continue;
				if (answer === 'busy') {
					if (--patience === 0) return 'silence';
					idleMs = replies!.busyMs ?? timeoutMs;
					break;
				}
				return answer;
			}
		}
	}
}
