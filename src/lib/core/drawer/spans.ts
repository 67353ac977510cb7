import { z } from 'zod';
import { slotKey } from '../profile';
import {
	PROOFS,
	nothingKnown,
	type Knowledge,
	type Sight,
	type SlotKnowledge,
	type SlotRef,
	type Unread
} from './knowledge';

/** Neighbouring slots: area, first slot, how many. */
export const spanSchema = z.tuple([z.string(), z.number().int().min(0), z.number().int().min(1)]);
export type Span = z.infer<typeof spanSchema>;

/** Slots as spans, in order; each slot once. */
export function spansOf(slots: readonly SlotRef[]): Span[] {
	return group(
		[...new Map(slots.map((slot) => [slotKey(slot.area, slot.index), slot])).values()],
		() => ''
	).map(({ span }) => span);
}

export const slotsOfSpans = (spans: readonly Span[]): SlotRef[] =>
	spans.flatMap(([area, first, count]) =>
		Array.from({ length: count }, (_, i) => ({ area, index: first + i }))
	);

/** Whether `spans` hold all slots of `others`. */
export function covers(spans: readonly Span[], others: readonly Span[]): boolean {
	return others.every(([area, first, count]) => {
		let at = first;
		for (const [of, from, many] of [...spans].sort((a, b) => a[1] - b[1]))
			if (of === area && from <= at && at < from + many) at = from + many;
		return at >= first + count;
	});
}

/** Runs of neighbours with the same `note`. */
function group<S extends SlotRef>(slots: readonly S[], note: (slot: S) => string): { span: Span; slot: S }[] {
	const sorted = [...slots].sort((a, b) => (a.area < b.area ? -1 : a.area > b.area ? 1 : a.index - b.index));
	const runs: { span: Span; slot: S; note: string }[] = [];
	for (const slot of sorted) {
		const last = runs.at(-1);
		const mark = note(slot);
		if (last?.span[0] === slot.area && last.span[1] + last.span[2] === slot.index && last.note === mark)
			last.span[2]++;
		else runs.push({ span: [slot.area, slot.index, 1], slot, note: mark });
	}
	return runs;
}

const proofIndex = z
	.number()
	.int()
	.min(0)
	.max(PROOFS.length - 1);
const sights = z.array(z.tuple([...spanSchema.def.items, z.string(), z.string(), proofIndex]));
const packedSchema = z.object({
	seen: sights,
	/** Where the last proved sight is not the last one. */
	proved: z.array(z.tuple([...spanSchema.def.items, z.string(), z.string(), proofIndex, z.string()])),
	unread: z.array(z.tuple([...spanSchema.def.items, z.enum(['sent', 'unknown']), z.string(), z.string()])),
	touchedAt: z.string().nullable()
});

const sightNote = (sight: Sight | null) => (sight ? `${sight.at} ${sight.versionId} ${sight.proof}` : '');

/**
 * Knowledge as a short text: whole captures take one entry an area, however many slots there are. The contents last
 * seen are not in it, since stays hold them already; `unpackKnowledge` asks for them.
 */
export function packKnowledge({ slots, touchedAt }: Knowledge): string {
	const all = [...slots.values()];
	const packed: z.infer<typeof packedSchema> = { seen: [], proved: [], unread: [], touchedAt };
	for (const { span, slot } of group(
		all.filter(({ seen }) => seen),
		({ seen }) => sightNote(seen)
	))
		packed.seen.push([...span, slot.seen!.at, slot.seen!.versionId, PROOFS.indexOf(slot.seen!.proof)]);
	for (const slot of all)
		if (slot.proved && sightNote(slot.proved) !== sightNote(slot.seen)) {
			const { at, versionId, proof, record } = slot.proved;
			packed.proved.push([slot.area, slot.index, 1, at, versionId, PROOFS.indexOf(proof), record]);
		}
	const writes = all.flatMap(({ area, index, unread }) => unread.map((write) => ({ area, index, write })));
	for (const by of new Set(writes.map(({ write }) => write.by)))
		for (const { span, slot } of group(
			writes.filter(({ write }) => write.by === by),
			({ write }) => `${write.kind} ${write.at}`
		))
			packed.unread.push([...span, slot.write.kind, slot.write.at, by]);
	return JSON.stringify(packed);
}

/** The inverse of `packKnowledge`; `contentOf` gives the content that a slot was last seen to hold. */
export function unpackKnowledge(
	text: string | null,
	contentOf: (area: string, index: number) => string
): Knowledge {
	if (text === null) return nothingKnown;
	const packed = packedSchema.parse(JSON.parse(text));
	const slots = new Map<string, SlotKnowledge>();
	const at = (area: string, index: number): SlotKnowledge => {
		const key = slotKey(area, index);
		let slot = slots.get(key);
		if (!slot) slots.set(key, (slot = { area, index, seen: null, proved: null, unread: [] }));
		return slot;
	};
	for (const [area, first, count, when, versionId, proof] of packed.seen)
		for (let i = first; i < first + count; i++) {
			const seen: Sight = { record: contentOf(area, i), at: when, versionId, proof: PROOFS[proof] };
			Object.assign(at(area, i), { seen, proved: seen.proof === 'none' ? null : seen });
		}
	for (const [area, first, count, when, versionId, proof, record] of packed.proved)
		for (let i = first; i < first + count; i++)
			at(area, i).proved = { record, at: when, versionId, proof: PROOFS[proof] };
	for (const [area, first, count, kind, when, by] of packed.unread)
		for (let i = first; i < first + count; i++) {
			const slot = at(area, i);
			const unread: Unread[] = [...slot.unread, { kind, at: when, by }];
			slot.unread = unread.sort((a, b) => a.at.localeCompare(b.at));
		}
	return { slots, touchedAt: packed.touchedAt };
}
