import { joinBytes } from '../midi';
import type { Piece } from './carrier';
import type { Profile } from './schema';
import { sectionsOf, type Section } from './sections';
import { areaOf } from './slots';

export const slotKey = (area: string, index: number): string => `${area}:${index}`;

interface Growing {
	area: string;
	slot: number;
	bytes: Uint8Array;
	/** Which bytes have come; null once all of them have. */
	come: Uint8Array | null;
}

/** Bytes of a record that have not come. */
export interface Gap {
	/** First byte in the record. */
	at: number;
	size: number;
}

/** Bytes of a slot's record. */
export interface Span extends Gap {
	slot: number;
}

/** Records put together from the pieces in which they come. What came last counts. */
export class Assembly {
	readonly #profile: Profile;
	readonly #slots = new Map<string, Growing>();

	constructor(profile: Profile) {
		this.#profile = profile;
	}

	/** @returns whether some of it had come before, and otherwise */
	put({ area, slot, at, bytes }: Piece): boolean {
		const key = slotKey(area, slot);
		let growing = this.#slots.get(key);
		if (!growing) {
			const { size } = this.#profile.records[areaOf(this.#profile, area).record];
			growing = { area, slot, bytes: new Uint8Array(size), come: new Uint8Array(size) };
			this.#slots.set(key, growing);
		}
		const { come, bytes: held } = growing;
		const contradicts = bytes.some((byte, i) => come?.[at + i] !== 0 && held[at + i] !== byte);
		held.set(bytes, at);
		come?.fill(1, at, at + bytes.length);
		if (!come?.includes(0)) growing.come = null;
		return contradicts;
	}

	/** The record of a slot, or null where some of it has not come. */
	whole(area: string, slot: number): Uint8Array | null {
		const growing = this.#slots.get(slotKey(area, slot));
		return growing && !growing.come ? growing.bytes : null;
	}

	/** Bytes of a slot's record; null where one of them has not come. */
	bytesOf(area: string, slot: number, { at, size }: Gap): Uint8Array | null {
		const growing = this.#slots.get(slotKey(area, slot));
		if (!growing || growing.come?.subarray(at, at + size).includes(0)) return null;
		return growing.bytes.subarray(at, at + size);
	}

	/** Stretches of the records of an area, joined; null where one of them has not come. */
	joined(area: string, spans: readonly Span[]): Uint8Array | null {
		const parts = spans.map((span) => this.bytesOf(area, span.slot, span));
		return parts.every((part) => part !== null) ? joinBytes(parts) : null;
	}

	/** What of a slot's record, or of a stretch of it, has not come. */
	gapsOf(area: string, slot: number, within?: Gap): Gap[] {
		const growing = this.#slots.get(slotKey(area, slot));
		const size = this.#profile.records[areaOf(this.#profile, area).record].size;
		const { at: from, size: length } = within ?? { at: 0, size };
		if (!growing) return [{ at: from, size: length }];
		const gaps: Gap[] = [];
		if (!growing.come) return gaps;
		for (let at = from; at < from + length; at++) {
			if (growing.come[at]) continue;
			const last = gaps.at(-1);
			if (last && last.at + last.size === at) last.size++;
			else gaps.push({ at, size: 1 });
		}
		return gaps;
	}

	/** Every slot of which something has come. */
	get slots(): { area: string; slot: number; whole: Uint8Array | null }[] {
		return [...this.#slots.values()].map(({ area, slot, bytes, come }) => ({
			area,
			slot,
			whole: come ? null : bytes
		}));
	}

	/** The sections of a slot that have not come whole. */
	missingSections(area: string, slot: number): Section[] {
		const gaps = this.gapsOf(area, slot);
		return sectionsOf(this.#profile.records[areaOf(this.#profile, area).record]).filter((section) =>
			gaps.some(({ at, size }) => at < section.at + section.size && at + size > section.at)
		);
	}
}
