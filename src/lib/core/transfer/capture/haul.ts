import {
	Assembly,
	areaOf,
	isMatch,
	layoutOf,
	makeSlot,
	placeNamed,
	matchAny,
	sectionsOf,
	slotKey,
	slotsIn,
	type Gap,
	type Match,
	type Mismatch
} from '../../profile';
import type { Emit } from '../events';
import { wrongDeviceId } from '../reasons';
import type { SlotSet } from '../scope';
import type { Ask } from '../asks';
import type { CaptureOrder } from './order';
import { Stop } from '../line';
import { Panel } from '../panel';

/** A message that was taken in. */
interface Entry {
	bytes: Uint8Array;
	/** Null where the profile does not read it. */
	match: Match | null;
	/** What named the slot of a dump that does not. */
	namedBy: Uint8Array | null;
}

/** What a capture has got so far, and what it thinks of the line that it came over. */
export class Haul {
	/** What was accepted, in order. */
	#entries: Entry[] = [];
	#assembly: Assembly;
	/** Why slots are not held. */
	readonly why = new Map<string, string>();
	/** Set once damage was seen that a checksum may miss at another time. */
	distrusted: boolean;
	readonly panel: Panel;

	constructor(
		readonly order: CaptureOrder,
		readonly emit: Emit
	) {
		this.distrusted = order.distrusted ?? false;
		this.panel = order.panel ?? new Panel(order, emit);
		this.#assembly = new Assembly(order.profile);
		const have = order.have ?? [];
		const matches = have.map((bytes) => matchAny(order.profile, bytes));
		const placed = placeNamed(
			order.profile,
			matches.map((match) => (isMatch(match) ? match : null))
		);
		placed.forEach((match, i) => this.#take({ bytes: have[i], match, namedBy: null }));
	}

	get messages(): Uint8Array[] {
		return this.#entries.flatMap(({ bytes, match, namedBy }) => {
			if (!namedBy) return [bytes];
			return this.panel.namesBehind(match!.messageId) ? [bytes, namedBy] : [namedBy, bytes];
		});
	}

	/** Whether nothing came beyond what there was before. */
	get isBare(): boolean {
		return this.#entries.length === (this.order.have?.length ?? 0);
	}

	/** Whether all of a slot is held. */
	holdsSlot(area: string, slot: number): boolean {
		return this.#assembly.whole(area, slot) !== null;
	}

	/** Which sections of a slot are missing, where others are held; null where none is, or all are. */
	missingOf(area: string, slot: number): string | null {
		const { profile } = this.order;
		const missing = this.#assembly.missingSections(area, slot);
		const all = sectionsOf(profile.records[areaOf(profile, area).record]).length;
		return missing.length === 0 || missing.length === all ? null : missing.map(({ name }) => name).join(', ');
	}

	/** Slots of a set that are held, or are not. */
	of(slots: SlotSet, held: boolean): SlotSet {
		return new Map(
			[...slots].map(([area, list]) => [area, list.filter((slot) => this.holdsSlot(area, slot) === held)])
		);
	}

	/** Whether all that a message holds is held. */
	holds({ pieces }: Match): boolean {
		return pieces.every(({ area, slot, at, bytes }) =>
			this.#assembly.bytesOf(area, slot, { at, size: bytes.length })
		);
	}

	/** Bytes of a stretch of a slot's record; null where some of it is not held. */
	bytesOf(area: string, slot: number, span: Gap): Uint8Array | null {
		return this.#assembly.bytesOf(area, slot, span);
	}

	/** What was accepted of what an ask brings, joined; null where some of it was not. */
	memoryFor({ area, brings }: Ask): Uint8Array | null {
		return this.#assembly.joined(area, brings);
	}

	/** @param namedBy the message beside it that says which slot it is of, where it does not say so itself */
	accept(match: Match, bytes: Uint8Array, namedBy: Uint8Array | null = null): void {
		const behind = this.panel.namesBehind(match.messageId);
		if (namedBy && !behind) this.emit({ event: 'named', bytes: namedBy });
		this.#take({ bytes, match, namedBy });
		const { profile } = this.order;
		this.emit({
			event: 'received',
			bytes,
			title: match.title,
			slots: slotsIn(match).flatMap(({ area, slot }) => {
				const record = this.#assembly.whole(area, slot);
				return record ? [{ area, index: slot, name: makeSlot(profile, area, slot, record).name }] : [];
			})
		});
		if (namedBy && behind) this.emit({ event: 'named', bytes: namedBy });
	}

	/** Takes back all messages that hold something of what an ask brings. */
	forget({ area, brings }: Pick<Ask, 'area' | 'brings'>): void {
		const concerns = ({ match }: Entry) =>
			match?.pieces.some(
				(piece) =>
					piece.area === area &&
					brings.some(
						({ slot, at, size }) =>
							piece.slot === slot && piece.at < at + size && piece.at + piece.bytes.length > at
					)
			);
		const kept = this.#entries.filter((entry) => !concerns(entry));
		this.#entries = [];
		this.#assembly = new Assembly(this.order.profile);
		for (const entry of kept) this.#take(entry);
	}

	/** Notes why slots are missing. */
	blame(area: string, slots: Iterable<number>, trouble: string): void {
		for (const slot of slots) this.why.set(slotKey(area, slot), trouble);
	}

	/** Believes nothing any more that came once, where a message shows that the line damages data. */
	distrust(mismatch: Mismatch): void {
		if (mismatch.why === 'checksum' || mismatch.why === 'content') this.doubt();
	}

	/** The same, where what came was not all: a message may have been cut short and look right. */
	doubt(): void {
		if (this.distrusted) return;
		this.distrusted = true;
		this.emit({ event: 'distrusted' });
	}

	/** Whether a value is told on another channel than this device's. */
	isElsewhere({ messageId, variables: { channel } }: Match): boolean {
		const { profile, target } = this.order;
		return layoutOf(profile, messageId).ofChannel && channel !== target.channel;
	}

	/** @throws Stop where a message is of a device with another ID */
	refuseOtherId({ variables: { deviceId } }: Match): void {
		const { profile, target } = this.order;
		if (deviceId !== undefined && deviceId !== target.deviceId)
			throw new Stop(wrongDeviceId(profile, deviceId, target.deviceId));
	}

	#take(entry: Entry): void {
		this.#entries.push(entry);
		entry.match?.pieces.forEach((piece) => this.#assembly.put(piece));
	}
}
