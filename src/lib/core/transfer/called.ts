import { sameBytes } from '../midi';
import {
	areaOf,
	buildMessage,
	isMatch,
	layoutOf,
	matchOneOf,
	messagesOf,
	recallMessages,
	recallOf,
	type ProfileArea
} from '../profile';
import type { Conversation } from './conversation';
import { Stop, comeBack, say, type LineOrder } from './line';
import { CANCELLED } from './reasons';

export type CalledArea = ProfileArea & { called: NonNullable<ProfileArea['called']> };

/** Whether the slots of an area are called up by program change. */
export const isCalled = (area: ProfileArea): area is CalledArea => area.called !== undefined;

/** What was in the edit buffer before anything was called up. */
interface Before {
	messageId: string;
	memory: Uint8Array;
}

/**
 * A device that gives and takes its edit buffer alone: slots are called up by program change, which it never confirms. What
 * it played before is played again at the end, also where that is stored nowhere.
 */
export class Called {
	readonly #order: LineOrder;
	/** Whether an answer was missed, and may still come. */
	troubled = false;
	/** What was called up last, by area. */
	readonly #now = new Map<string, number>();
	readonly #before = new Map<string, Before | null>();
	/** What slots were seen to hold, so that the one that played is found again. */
	readonly #seen = new Map<string, Map<number, Uint8Array>>();

	constructor(order: LineOrder) {
		this.#order = order;
	}

	/** The area of which a message is, where that is called up; null for every other. */
	areaOf(messageId: string): CalledArea | null {
		const { profile } = this.#order;
		const { carrier, ofPanel } = layoutOf(profile, messageId);
		if (!ofPanel) return null;
		const found = areaOf(profile, carrier!.area!);
		return isCalled(found) ? found : null;
	}

	/**
	 * Calls a slot up, coming from another one, so that a call that is lost shows as the other one's content.
	 * @returns the command that would store a dump there, which says where it belongs
	 */
	*callUp(area: CalledArea, slot: number): Conversation<Uint8Array> {
		yield* this.#remember(area);
		if (this.#now.get(area.id) === slot && area.slots > 1) yield* this.#call(area, (slot + 1) % area.slots);
		yield* this.#call(area, slot);
		return this.storeCommand(area, slot);
	}

	storeCommand({ called }: CalledArea, slot: number): Uint8Array {
		const { profile, target } = this.#order;
		return buildMessage(profile, called.store, { ...target, slot });
	}

	*#call(area: CalledArea, slot: number): Conversation<void> {
		const { profile, target, paceFactor = 1 } = this.#order;
		const messages = recallMessages(recallOf(area, slot)!, target.channel);
		const patience = Math.max(0, ...profile.capture.map(({ timeoutMs }) => timeoutMs));
		for (let at = 0; at < messages.length;) {
			// Where the cable came out, it begins anew.
			at = (yield* say(this.#order, messages[at])) ? at + 1 : 0;
			if (at < messages.length) continue;
			const settle = area.called.settleMs * paceFactor;
			if (!(yield* this.#quiet(this.troubled ? Math.max(settle, patience) : settle))) at = 0;
		}
		this.troubled = false;
		this.#now.set(area.id, slot);
	}

	/**
	 * Lets it settle, and everything pass that still comes: an answer that is late would be taken for that of the next slot.
	 * @returns false where the cable came out meanwhile
	 */
	*#quiet(idleMs: number): Conversation<boolean> {
		for (;;) {
			const heard = yield { do: 'wait', idleMs };
			if (heard.heard === 'cancelled') throw new Stop(CANCELLED);
			if (heard.heard === 'silence') return true;
			if (heard.heard !== 'unplugged') continue;
			yield* comeBack(this.#order);
			return false;
		}
	}

	/** Notes what a slot holds. */
	saw(area: string, slot: number, memory: Uint8Array): void {
		const seen = this.#seen.get(area) ?? new Map<number, Uint8Array>();
		this.#seen.set(area, seen.set(slot, memory));
	}

	/** Asks what is played, before anything is called up. */
	*#remember(area: CalledArea): Conversation<void> {
		if (this.#before.has(area.id)) return;
		this.#before.set(area.id, null);
		const { profile, target } = this.#order;
		const way = profile.capture.find((each) => each.area === area.id && each.start.by === 'request');
		if (way?.start.by !== 'request' || typeof way.expect !== 'string') return;
		if (!(yield* say(this.#order, buildMessage(profile, way.start.send, target)))) return;
		for (;;) {
			const heard = yield { do: 'wait', idleMs: way.timeoutMs };
			if (heard.heard === 'cancelled') throw new Stop(CANCELLED);
			if (heard.heard !== 'message') {
				this.troubled = true;
				return;
			}
			const match = matchOneOf(profile, messagesOf(way.expect), heard.bytes);
			if (!isMatch(match)) continue;
			this.#before.set(area.id, { messageId: match.messageId, memory: match.memory });
			return;
		}
	}

	/** Has it play again what it played: the slot that held just that, or, where none does, the sound itself. */
	*putBack(): Conversation<void> {
		const { profile, target } = this.#order;
		for (const [id, before] of this.#before) {
			const area = areaOf(profile, id) as CalledArea;
			if (!before || !this.#now.has(id)) continue;
			const slot = [...(this.#seen.get(id) ?? [])].find(([, memory]) =>
				sameBytes(memory, before.memory)
			)?.[0];
			if (slot !== undefined) yield* this.#call(area, slot);
			else yield* say(this.#order, buildMessage(profile, before.messageId, target, before.memory));
		}
	}

	/**
	 * Slots that have to be looked at besides, so that it shows whether calling up does anything: where nothing of what was
	 * seen differs between two programs, or between two banks.
	 */
	*witnesses(areaId: string, read: (slot: number) => Conversation<Uint8Array | null>): Conversation<boolean> {
		const area = areaOf(this.#order.profile, areaId) as CalledArea;
		const seen = new Map(this.#seen.get(areaId) ?? []);
		const look = function* (slot: number): Conversation<Uint8Array | null> {
			const known = seen.get(slot);
			if (known) return known;
			const memory = yield* read(slot);
			if (memory) seen.set(slot, memory);
			return memory;
		};
		for (const pair of questions(area, [...seen.keys()])) if (!(yield* differ(pair, look))) return false;
		return true;
	}
}

/** Pairs of slots of which one must differ: programs of one bank, and the same program of two banks. */
function questions(area: ProfileArea, seen: readonly number[]): [number, number][][] {
	const banks = area.recall!.map(({ from }, i) => ({ from, end: area.recall![i + 1]?.from ?? area.slots }));
	const [first] = seen;
	const bankOf = (slot: number) => banks.findLastIndex(({ from }) => from <= slot);
	const others = [...seen.slice(1), ...Array.from({ length: TRIES }, (_, i) => first + 1 + i)]
		.map((slot) => slot % area.slots)
		.filter((slot) => slot !== first);
	const asked: [number, number][][] = area.slots > 1 ? [others.map((slot) => [first, slot])] : [];
	if (banks.length > 1)
		for (const at of new Set(seen.map(bankOf))) {
			const other = banks[at === 0 ? 1 : 0];
			const own = seen.filter((slot) => bankOf(slot) === at).slice(0, TRIES);
			const pairs = own
				.map((slot): [number, number] => [slot, other.from + slot - banks[at].from])
				.filter(([, slot]) => slot < other.end);
			if (pairs.length > 0) asked.push(pairs);
		}
	return asked;
}

/** So many slots are looked at before it is called a device that does not follow. */
const TRIES = 4;

/** Whether one of these pairs differs, as far as both can be read. */
function* differ(
	pairs: readonly [number, number][],
	look: (slot: number) => Conversation<Uint8Array | null>
): Conversation<boolean> {
	for (const [a, b] of pairs) {
		const [one, other] = [yield* look(a), yield* look(b)];
		if (one && other && !sameBytes(one, other)) return true;
	}
	return false;
}
