import {
	areaOf,
	buildMessage,
	isMatch,
	layoutOf,
	matchMessage,
	slotLabel,
	type ProfileArea
} from '../profile';
import { Called, isCalled } from './called';
import type { Conversation } from './conversation';
import type { Emit } from './events';
import { Stop, comeBack, rest, say, type LineOrder } from './line';
import { CANCELLED, noAnswer } from './reasons';

/** Where a panel stands, and the message in which it said so. */
export interface Stand {
	slot: number;
	bytes: Uint8Array;
}

/** Questions that may stay without an answer, and times that a slot is called up from outside before a hand is asked. */
const ASK_TRIES = 3;
const SELECT_TRIES = 2;
/** So long nothing more is said of the panel, once it answered: what was said before, or by itself, is no answer to this question. */
const QUIET_MS = 60;
/** While a hand is at the panel, it is asked so often. */
const POLL_MS = 600;

type PanelArea = ProfileArea & { panel: NonNullable<ProfileArea['panel']> };

/**
 * The panel of a device whose dumps are of the slot that it stands at: it is asked, and brought to stand where it shall,
 * from outside where it lets itself be called, by a hand otherwise.
 */
export class Panel {
	readonly #order: LineOrder;
	readonly #emit: Emit;
	/** Where slots are called up and nothing says where it stands. */
	readonly called: Called;
	/** Where it stood before anything was called up, by area. */
	readonly #before = new Map<string, number>();
	readonly #now = new Map<string, number>();
	/** Where it was said to stand since a slot was called up last. */
	readonly #since = new Set<number>();

	constructor(order: LineOrder, emit: Emit) {
		this.#order = order;
		this.#emit = emit;
		this.called = new Called(order);
	}

	/** Whether a message of the profile is of whichever slot the panel stands at. */
	concerns(messageId: string): boolean {
		return layoutOf(this.#order.profile, messageId).ofPanel;
	}

	/** Whether what names the slot of such a dump stands behind it. */
	namesBehind(messageId: string): boolean {
		return this.called.areaOf(messageId) !== null;
	}

	/** Whether it says itself where it stands. */
	#says(areaId: string): boolean {
		return areaOf(this.#order.profile, areaId).panel !== undefined;
	}

	#area(id: string): PanelArea {
		return areaOf(this.#order.profile, id) as PanelArea;
	}

	#question({ panel }: PanelArea): Uint8Array {
		const { profile, target } = this.#order;
		return buildMessage(profile, panel.ask, target);
	}

	/** Asks where it stands. @throws Stop where it does not answer, or is cancelled */
	*stands(areaId: string): Conversation<Stand> {
		const area = this.#area(areaId);
		for (let tries = 0; tries < ASK_TRIES; tries++) {
			if (!(yield* say(this.#order, this.#question(area)))) continue;
			const stand = yield* this.#hear(area, area.panel.timeoutMs);
			// An answer that was late is waited for as long as the first one would have been.
			if (stand) return yield* this.#last(area, stand, tries > 0 ? area.panel.timeoutMs : QUIET_MS);
		}
		throw new Stop(noAnswer(this.#order.profile));
	}

	/** What was said last: answers to earlier questions, and what a hand brought about meanwhile, come before it. */
	*#last(area: PanelArea, first: Stand, quietMs: number): Conversation<Stand> {
		let last = first;
		for (;;) {
			const next = yield* this.#hear(area, quietMs);
			if (!next) return last;
			last = next;
		}
	}

	/** The next message that tells where it stands; null where none comes for so long. */
	*#hear(area: PanelArea, idleMs: number): Conversation<Stand | null> {
		for (;;) {
			const heard = yield { do: 'wait', idleMs };
			if (heard.heard === 'cancelled') throw new Stop(CANCELLED);
			if (heard.heard === 'unplugged') yield* comeBack(this.#order);
			if (heard.heard === 'unplugged' || heard.heard === 'silence') return null;
			if (heard.heard !== 'message') continue;
			const slot = this.read(area.id, heard.bytes);
			if (slot === null) continue;
			if (!this.#before.has(area.id)) this.#before.set(area.id, slot);
			this.#now.set(area.id, slot);
			this.#since.add(slot);
			return { slot, bytes: heard.bytes };
		}
	}

	/** The slot at which a message says that the panel stands; null where it is another message. */
	read(areaId: string, bytes: Uint8Array): number | null {
		if (!this.#says(areaId)) return null;
		const area = this.#area(areaId);
		const match = matchMessage(this.#order.profile, area.panel.says, bytes);
		if (!isMatch(match)) return null;
		const { slot, deviceId } = match.variables;
		const other = deviceId !== undefined && deviceId !== this.#order.target.deviceId;
		return other || slot === undefined || slot >= area.slots ? null : slot;
	}

	/**
	 * Asks whether it still stands where it was called up, and stood nowhere else since.
	 * @returns every other slot at which it was said to stand
	 */
	*movedTo(areaId: string, slot: number): Conversation<number[]> {
		if (!this.#says(areaId)) return [];
		yield* this.stands(areaId);
		return [...this.#since].filter((other) => other !== slot);
	}

	/** Notes where it says to stand, in a message that came while something else was waited for. */
	note(areaId: string, bytes: Uint8Array): void {
		const slot = this.read(areaId, bytes);
		if (slot !== null) this.#since.add(slot);
	}

	/** Has it stand at a slot. @returns the message that says which slot a dump is of @throws Stop where nobody brings it there */
	*callUp(areaId: string, slot: number): Conversation<Uint8Array> {
		const area = areaOf(this.#order.profile, areaId);
		if (isCalled(area)) return yield* this.called.callUp(area, slot);
		const bytes = yield* this.#bring(areaId, slot);
		this.#since.clear();
		return bytes;
	}

	*#bring(areaId: string, slot: number): Conversation<Uint8Array> {
		const area = this.#area(areaId);
		let stand = yield* this.stands(areaId);
		for (let tries = 0; tries < SELECT_TRIES && stand.slot !== slot && area.panel.select; tries++) {
			yield* this.#select(area, slot);
			stand = yield* this.stands(areaId);
		}
		return stand.slot === slot ? stand.bytes : yield* this.#byHand(area, slot);
	}

	*#select({ panel }: PanelArea, slot: number): Conversation<void> {
		const { profile, target, paceFactor = 1 } = this.#order;
		yield* say(this.#order, buildMessage(profile, panel.select!, { ...target, slot }));
		if (panel.settleMs > 0) yield* rest(panel.settleMs * paceFactor);
	}

	*#byHand(area: PanelArea, slot: number): Conversation<Uint8Array> {
		const { model } = this.#order.profile;
		const wanted = `${area.slotWord} ${slotLabel(area.labels, slot)}`;
		const says = `Call up ${wanted} on the ${model}.`;
		this.#emit({ event: 'hands', says });
		for (let waited = 0; waited < area.panel.waitMs; waited += POLL_MS) {
			// It may tell by itself that it was moved; where it does not, it is asked.
			const stand = yield* this.#hear(area, POLL_MS);
			if (stand?.slot === slot) {
				// Whoever turns past it goes on.
				const last = yield* this.#last(area, stand, POLL_MS);
				if (last.slot === slot) {
					this.#emit({ event: 'hands done' });
					return last.bytes;
				}
			}
			if (!stand) yield* say(this.#order, this.#question(area));
		}
		throw new Stop({
			code: 'not called up',
			says: `The ${model} was not set to ${wanted}, and its dumps are of the one that its panel shows.`,
			remedy: `${says} Then go on.`
		});
	}

	/** Calls up what stood on it at first, where it was called away from that from outside. */
	*putBack(): Conversation<void> {
		yield* this.called.putBack();
		for (const [id, slot] of this.#before) {
			const area = this.#area(id);
			if (area.panel.select && this.#now.get(id) !== slot) yield* this.#select(area, slot);
			this.#now.set(id, slot);
		}
	}
}
