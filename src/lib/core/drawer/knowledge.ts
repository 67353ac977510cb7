import { z } from 'zod';
import { slotKey } from '../profile';

/** The worlds in which a device can be asked: simulated on the bench, or over real ports. */
export const LIVE_WORLDS = ['bench', 'hardware'] as const;
export const liveWorldSchema = z.enum(LIVE_WORLDS);
export type LiveWorld = z.infer<typeof liveWorldSchema>;

/** Where content came from. `unrecorded` is from before worlds were noted: it counts for neither of them. */
export const worldSchema = z.enum([...LIVE_WORLDS, 'file', 'unrecorded']);
export type World = z.infer<typeof worldSchema>;

/** How it was shown that content arrived as the device sent it, weakest first. */
export const PROOFS = ['none', 'checksum', 'twice alike', 'read back'] as const;
export const proofSchema = z.enum(PROOFS);
export type Proof = z.infer<typeof proofSchema>;

export interface SlotRef {
	area: string;
	/** From 0. */
	index: number;
}

/** A slot as it was read: content (SHA-256), when (ISO 8601, UTC), by which version, with which proof. */
export interface Sight {
	record: string;
	at: string;
	versionId: string;
	proof: Proof;
}

/** What was sent to a slot since it was read last: all of it (`sent`), or nobody knows how much (`unknown`). */
export interface Unread {
	kind: 'sent' | 'unknown';
	at: string;
	/** The transfer that wrote. */
	by: string;
}

export interface SlotKnowledge extends SlotRef {
	/** The last content seen; null where nothing ever was. */
	seen: Sight | null;
	/** The last content seen with a proof. */
	proved: Sight | null;
	/** What was written since, and not read; one entry a transfer, oldest first. */
	unread: readonly Unread[];
}

/** What a device holds in one world, as far as is known. */
export interface Knowledge {
	/** By `area:index`. */
	slots: ReadonlyMap<string, SlotKnowledge>;
	/** When its sounds were changed by hand last; what was read before may no longer be there. */
	touchedAt: string | null;
}

/** Slots that were read from a device, each with the time at which it arrived. */
export interface Reading {
	versionId: string;
	proof: Proof;
	slots: readonly (SlotRef & { record: string; at: string })[];
}

/** Slots that were sent to, and not read afterwards. */
export interface Writing extends Unread {
	slots: readonly SlotRef[];
}

export const nothingKnown: Knowledge = { slots: new Map(), touchedAt: null };

const later = <T extends { at: string }>(old: T | null, now: T): T => (old && old.at > now.at ? old : now);

function change(
	knowledge: Knowledge,
	slots: readonly SlotRef[],
	how: (slot: SlotKnowledge, at: number) => SlotKnowledge
): Knowledge {
	const next = new Map(knowledge.slots);
	slots.forEach(({ area, index }, at) => {
		const key = slotKey(area, index);
		next.set(key, how(next.get(key) ?? { area, index, seen: null, proved: null, unread: [] }, at));
	});
	return { ...knowledge, slots: next };
}

/** Takes a reading in. Time runs forward: what was read earlier than what is known never replaces it. */
export const learn = (knowledge: Knowledge, { versionId, proof, slots }: Reading): Knowledge =>
	change(knowledge, slots, (slot, i) => {
		const { record, at } = slots[i];
		const sight: Sight = { record, at, versionId, proof };
		return {
			...slot,
			seen: later(slot.seen, sight),
			proved: proof === 'none' ? slot.proved : later(slot.proved, sight),
			unread: slot.unread.filter((write) => write.at > at)
		};
	});

/** Notes that slots were written and not read: what they hold is no longer what was seen. */
export const wrote = (knowledge: Knowledge, { slots, ...unread }: Writing): Knowledge =>
	change(knowledge, slots, (slot) =>
		slot.seen && slot.seen.at > unread.at
			? slot
			: {
					...slot,
					unread: [...slot.unread.filter(({ by }) => by !== unread.by), unread].sort((a, b) =>
						a.at.localeCompare(b.at)
					)
				}
	);

/** Takes back what `wrote` noted of these slots for one transfer: nothing was sent to them after all. */
export const spared = (knowledge: Knowledge, by: string, slots: readonly SlotRef[]): Knowledge =>
	change(knowledge, slots, (slot) => ({ ...slot, unread: slot.unread.filter((write) => write.by !== by) }));

/** Notes that somebody changed sounds by hand. Only reading a slot afterwards says what is in it. */
export const touched = (knowledge: Knowledge, at: string): Knowledge => ({
	...knowledge,
	touchedAt: knowledge.touchedAt && knowledge.touchedAt > at ? knowledge.touchedAt : at
});

/**
 * What can be said of one slot. `proved`: read with a proof, and nothing is known to have changed it since. `unproved`:
 * read, but the line could have damaged it. `changed`: somebody changed sounds after it was read. `sent`, `unknown`:
 * written and not read. `never`: not read at all.
 */
export type KnownState = 'proved' | 'unproved' | 'changed' | 'sent' | 'unknown' | 'never';

export function stateOf(knowledge: Knowledge, { area, index }: SlotRef): KnownState {
	const slot = knowledge.slots.get(slotKey(area, index));
	const write = slot?.unread.at(-1);
	if (write) return write.kind;
	if (!slot?.seen) return 'never';
	if (knowledge.touchedAt && knowledge.touchedAt > slot.seen.at) return 'changed';
	return slot.seen.proof === 'none' ? 'unproved' : 'proved';
}

/** The content that a slot was last seen to hold, unless something was written to it since. */
export function lastSeen(knowledge: Knowledge, { area, index }: SlotRef): Sight | null {
	const slot = knowledge.slots.get(slotKey(area, index));
	return slot?.unread.length === 0 ? slot.seen : null;
}

/** The content that a slot was last seen to hold, whatever was written to it since. */
export const seenOf = (knowledge: Knowledge, { area, index }: SlotRef): Sight | null =>
	knowledge.slots.get(slotKey(area, index))?.seen ?? null;

/** The transfers that left slots of which nobody knows what they hold, with how many each. */
export function tornBy(knowledge: Knowledge): Map<string, number> {
	const torn = new Map<string, number>();
	for (const { unread } of knowledge.slots.values()) {
		const last = unread.at(-1);
		if (last?.kind === 'unknown') torn.set(last.by, (torn.get(last.by) ?? 0) + 1);
	}
	return torn;
}
