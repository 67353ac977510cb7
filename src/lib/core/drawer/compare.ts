import { sameBytes, toHex } from '../midi';
import type { Profile, Slot } from '../profile';
import { recordChange, type RecordChange } from './parameter-changes';
import { SAME_SOUND, similarity } from './similarity';

export type SlotState = 'same' | 'edited' | 'renamed' | 'moved' | 'swapped' | 'copied' | 'new';

/** What happened to one slot between two versions. */
export interface SlotChange {
	area: string;
	index: number;
	label: string;
	state: SlotState;
	nameBefore: string | null;
	nameAfter: string | null;
	/** Where the content was before, for moved, swapped and copied. */
	from: { index: number; label: string } | null;
	/** What was edited in it, also on the way to another slot. */
	change: RecordChange | null;
}

export interface Comparison {
	slots: SlotChange[];
	/** Sounds of the older version that are nowhere in the newer one. */
	gone: { area: string; index: number; label: string; name: string | null }[];
	/** Slots that only one of the two holds, so that nothing can be said of them. */
	onlyBefore: number;
	onlyAfter: number;
}

/**
 * Compares two versions slot by slot. Content that moved is found across the whole bank; what was edited and moved
 * is paired by similarity, most alike first. Slots are compared only where both versions hold them.
 */
export function compareSlots(profile: Profile, before: readonly Slot[], after: readonly Slot[]): Comparison {
	const comparison: Comparison = { slots: [], gone: [], onlyBefore: 0, onlyAfter: 0 };
	for (const { id } of profile.areas) {
		const old = new Map(before.filter((slot) => slot.area === id).map((slot) => [slot.index, slot]));
		const now = new Map(after.filter((slot) => slot.area === id).map((slot) => [slot.index, slot]));
		const both = [...now.keys()].filter((index) => old.has(index)).sort((a, b) => a - b);
		comparison.onlyBefore += [...old.keys()].filter((index) => !now.has(index)).length;
		comparison.onlyAfter += now.size - both.length;
		compareArea(
			profile,
			id,
			both.map((index) => ({ old: old.get(index)!, now: now.get(index)! })),
			comparison
		);
	}
	return comparison;
}

interface Pair {
	old: Slot;
	now: Slot;
}

function compareArea(profile: Profile, area: string, pairs: Pair[], into: Comparison): void {
	const result = new Map<number, SlotChange>();
	const settle = (pair: Pair, state: SlotState, source: Slot | null, change: RecordChange | null) => {
		const from =
			source && source.index !== pair.now.index ? { index: source.index, label: source.label } : null;
		result.set(pair.now.index, {
			area,
			index: pair.now.index,
			label: pair.now.label,
			state,
			from,
			change,
			nameBefore: (source ?? pair.old).name,
			nameAfter: pair.now.name
		});
	};

	// Byte for byte the same, in its place.
	let open = pairs.filter((pair) => {
		if (!sameBytes(pair.old.bytes, pair.now.bytes)) return true;
		settle(pair, 'same', pair.old, null);
		return false;
	});

	// The same content elsewhere in the bank: sources that are still in their place were copied, others moved.
	const byContent = new Map<string, Slot[]>();
	const hex = (slot: Slot) => toHex(slot.bytes);
	for (const { old } of pairs) byContent.set(hex(old), [...(byContent.get(hex(old)) ?? []), old]);
	const accounted = new Set<number>(result.keys());
	const movedTo = new Map<number, number>();
	open = open.filter((pair) => {
		const sources = byContent.get(hex(pair.now)) ?? [];
		const source = sources.find((slot) => !accounted.has(slot.index));
		if (source) {
			accounted.add(source.index);
			movedTo.set(source.index, pair.now.index);
			settle(pair, 'moved', source, null);
			return false;
		}
		if (sources.length > 0) {
			settle(pair, 'copied', sources[0], null);
			return false;
		}
		return true;
	});

	// A new name and nothing else, in its place.
	open = open.filter((pair) => {
		if (accounted.has(pair.old.index)) return true;
		const change = recordChange(profile, area, pair.old.bytes, pair.now.bytes)!;
		if (!change.name || change.parameters.length > 0 || change.otherBytes > 0) return true;
		accounted.add(pair.old.index);
		settle(pair, 'renamed', pair.old, change);
		return false;
	});

	// Edited: in its place where it is like what was there, else the most alike of what is left.
	const offers: { pair: Pair; source: Slot; score: number }[] = [];
	const left = pairs.map(({ old }) => old).filter((slot) => !accounted.has(slot.index));
	for (const pair of open)
		for (const source of left) {
			const score =
				similarity(profile, area, source.bytes, pair.now.bytes) +
				(source.index === pair.now.index ? 0.05 : 0);
			if (score >= SAME_SOUND) offers.push({ pair, source, score });
		}
	offers.sort(
		(a, b) => b.score - a.score || a.pair.now.index - b.pair.now.index || a.source.index - b.source.index
	);
	for (const { pair, source } of offers) {
		if (result.has(pair.now.index) || accounted.has(source.index)) continue;
		accounted.add(source.index);
		movedTo.set(source.index, pair.now.index);
		settle(
			pair,
			source.index === pair.now.index ? 'edited' : 'moved',
			source,
			recordChange(profile, area, source.bytes, pair.now.bytes)
		);
	}

	for (const pair of open) {
		if (result.has(pair.now.index)) continue;
		settle(pair, 'new', null, null);
	}
	for (const change of result.values())
		if (change.state === 'moved' && movedTo.get(change.index) === change.from!.index)
			change.state = 'swapped';
	into.slots.push(...[...result.values()].sort((a, b) => a.index - b.index));
	into.gone.push(
		...pairs
			.filter(({ old }) => !accounted.has(old.index))
			.map(({ old }) => ({ area, index: old.index, label: old.label, name: old.name }))
	);
}

/** Slots that are not the same. */
export const changedSlots = (comparison: Comparison): SlotChange[] =>
	comparison.slots.filter((slot) => slot.state !== 'same');
