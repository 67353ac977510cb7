import {
	NamedSlots,
	areaOf,
	isMatch,
	matchAny,
	readName,
	slotKey,
	type Match,
	type Mismatch
} from '../../profile';
import type { Emit } from '../events';
import { wrongDeviceId } from '../reasons';
import type { SlotSet } from '../scope';
import type { Ask } from '../ways';
import type { CaptureOrder } from './order';
import { Stop } from '../line';
import { Panel } from '../panel';

/** Names a group of slots that travel in one message. */
export const groupKey = (messageId: string, first: number) => `${messageId}:${first}`;

/** What a capture has got so far, and what it thinks of the line that it came over. */
export class Haul {
	/** What was accepted, in order. */
	readonly messages: Uint8Array[] = [];
	/** Slots that are held, and why others are not. */
	readonly held = new Set<string>();
	readonly why = new Map<string, string>();
	/** Set once damage was seen that a checksum may miss at another time. */
	distrusted: boolean;
	/** Accepted messages by kind and first slot. */
	readonly #received = new Map<string, Uint8Array>();
	/** What named the slot of a dump that does not. */
	readonly #namedBy = new Map<Uint8Array, Uint8Array>();
	readonly panel: Panel;

	constructor(
		readonly order: CaptureOrder,
		readonly emit: Emit
	) {
		this.distrusted = order.distrusted ?? false;
		this.panel = order.panel ?? new Panel(order, emit);
		const named = new NamedSlots(order.profile);
		for (const bytes of order.have ?? []) {
			const match = matchAny(order.profile, bytes);
			if (isMatch(match)) this.#hold(named.place(match), bytes);
			this.messages.push(bytes);
		}
	}

	/** Whether nothing came beyond what there was before. */
	get isBare(): boolean {
		return this.messages.length === (this.order.have?.length ?? 0);
	}

	/** Slots of a set that are held, or are not. */
	of(slots: SlotSet, held: boolean): SlotSet {
		return new Map(
			[...slots].map(([area, list]) => [
				area,
				list.filter((slot) => this.held.has(slotKey(area, slot)) === held)
			])
		);
	}

	/** Whether all slots of a message are held. */
	holds(match: Match): boolean {
		return match.records.every((_, i) => this.held.has(slotKey(match.area!, match.firstSlot + i)));
	}

	/** What was accepted for a group of slots. */
	receivedFor({ way }: Ask, first: number): Uint8Array | undefined {
		return this.#received.get(groupKey(way.expect, first));
	}

	/** @param namedBy the message before it that says which slot it is of, where it does not say so itself */
	accept(match: Match, bytes: Uint8Array, namedBy: Uint8Array | null = null): void {
		if (namedBy) {
			this.messages.push(namedBy);
			this.#namedBy.set(bytes, namedBy);
			this.emit({ event: 'named', bytes: namedBy });
		}
		this.messages.push(bytes);
		this.#hold(match, bytes);
		const { profile } = this.order;
		const record = profile.records[areaOf(profile, match.area!).record];
		this.emit({
			event: 'received',
			bytes,
			title: match.title,
			area: match.area!,
			firstSlot: match.firstSlot,
			records: match.records.length,
			names: match.records.map((held) => readName(profile, record, held))
		});
	}

	/** Takes back what was accepted for a group. */
	forget(ask: Ask, first: number): void {
		const bytes = this.receivedFor(ask, first);
		this.#received.delete(groupKey(ask.way.expect, first));
		if (bytes) {
			const count = this.#namedBy.has(bytes) ? 2 : 1;
			this.messages.splice(this.messages.indexOf(bytes) - count + 1, count);
		}
		for (let i = 0; i < ask.records; i++) this.held.delete(slotKey(ask.area, first + i));
	}

	/** Notes why the slots of a group are missing. */
	blame(ask: Ask, first: number, trouble: string): void {
		for (let i = 0; i < ask.records; i++) this.why.set(slotKey(ask.area, first + i), trouble);
	}

	/** Believes nothing any more that came once, where a message shows that the line damages data. */
	distrust(mismatch: Mismatch): void {
		if (this.distrusted || (mismatch.why !== 'checksum' && mismatch.why !== 'content')) return;
		this.distrusted = true;
		this.emit({ event: 'distrusted' });
	}

	/** @throws Stop where a message is of a device with another ID */
	refuseOtherId({ variables: { deviceId } }: Match): void {
		const { profile, target } = this.order;
		if (deviceId !== undefined && deviceId !== target.deviceId)
			throw new Stop(wrongDeviceId(profile, deviceId, target.deviceId));
	}

	#hold(match: Match, bytes: Uint8Array): void {
		if (match.area === null) return;
		match.records.forEach((_, i) => this.held.add(slotKey(match.area!, match.firstSlot + i)));
		this.#received.set(groupKey(match.messageId, match.firstSlot), bytes);
	}
}
