import { addressIn, slotAddress } from './addresses';
import { packetSize, type Variables } from './carrier';
import type { Span } from './assembly';
import { layoutOf } from './layout';
import type { Profile } from './schema';
import { sectionsOf } from './sections';
import { areaOf } from './slots';

/** A message that carries memory, before its bytes are known. */
export interface Parcel {
	messageId: string;
	variables: Variables;
	/** The slots that it lists. */
	contents: number[];
	/** What of the area it holds, in the order in which it travels. */
	holds: Span[];
}

/** The ids of the messages that a way names. */
export const messagesOf = (ids: string | readonly string[]): readonly string[] =>
	typeof ids === 'string' ? [ids] : ids;

/** How many slots, from a multiple of it on, travel together in such a message. */
export function slotsTogether(profile: Profile, messageId: string): number {
	const part = layoutOf(profile, messageId).carrier?.part;
	if (part?.part === 'body' || part?.part === 'column') return part.records;
	if (part?.part === 'stream' && part.of === 'area') return areaOf(profile, part.area).slots;
	return 1;
}

/** Bytes of an area from one on, cut where records end. */
function spansFrom(recordSize: number, from: number, size: number): Span[] {
	const spans: Span[] = [];
	for (let at = from; at < from + size;) {
		const start = at % recordSize;
		const take = Math.min(recordSize - start, from + size - at);
		spans.push({ slot: Math.floor(at / recordSize), at: start, size: take });
		at += take;
	}
	return spans;
}

/**
 * The messages of one kind that carry what they can of the slots that travel together from `first` on.
 * @param most bytes of memory that one message at an address takes at most
 * @param listed the slots that a message which lists them holds
 */
export function parcelsOf(
	profile: Profile,
	messageId: string,
	areaId: string,
	first: number,
	most = Infinity,
	listed: readonly number[] = [first]
): Parcel[] {
	const layout = layoutOf(profile, messageId);
	const { carrier } = layout;
	if (!carrier || (carrier.area !== null && carrier.area !== areaId)) return [];
	const { part } = carrier;
	const area = areaOf(profile, areaId);
	const record = profile.records[area.record];
	const parcel = (variables: Variables, holds: Span[], contents: number[] = []): Parcel => ({
		messageId,
		variables: { slot: first, ...variables },
		contents,
		holds
	});
	switch (part.part) {
		case 'body':
			return [
				parcel(
					{},
					Array.from({ length: part.records }, (_, i) => ({ slot: first + i, at: 0, size: record.size }))
				)
			];
		case 'listed':
			return [
				parcel(
					{},
					listed.map((slot) => ({ slot, at: 0, size: record.size })),
					[...listed]
				)
			];
		case 'section':
			return sectionsOf(record)
				.filter(({ id }) => id === part.section)
				.map((section) =>
					parcel({ part: section.part }, [{ slot: first, at: section.at, size: section.size }])
				);
		case 'column': {
			const { at, size } = sectionsOf(record).find(({ id }) => id === part.section)!;
			return [
				parcel(
					{},
					Array.from({ length: part.records }, (_, i) => ({ slot: first + i, at, size }))
				)
			];
		}
		case 'stream': {
			const parcels: Parcel[] = [];
			for (let packet = 0; packetSize(profile, part, packet) > 0; packet++) {
				const [from, size] = [packet * part.bytes, packetSize(profile, part, packet)];
				parcels.push(
					parcel(
						{ packet },
						part.of === 'area' ? spansFrom(record.size, from, size) : [{ slot: first, at: from, size }]
					)
				);
			}
			return parcels;
		}
		case 'memory':
			return sectionsOf(record).flatMap(({ at, size }) =>
				addressed(profile, areaId, { slot: first, at, size }, most).map(({ variables, span }) =>
					parcel(variables, [span])
				)
			);
	}
}

/** The messages of several kinds that carry what they can of so many slots from `first` on, each as many as travel in it. */
export function parcelsFor(
	profile: Profile,
	ids: readonly string[],
	area: string,
	first: number,
	together: number,
	most?: number
): Parcel[] {
	return ids.flatMap((id) => {
		const each = slotsTogether(profile, id);
		return Array.from({ length: Math.ceil(together / each) }, (_, i) =>
			parcelsOf(profile, id, area, first + i * each, most)
		).flat();
	});
}

/** A stretch of a record that has addresses, cut into so many bytes at most. */
export function addressed(
	profile: Profile,
	area: string,
	{ slot, at, size }: Span,
	most: number
): { variables: Variables; span: Span }[] {
	if (slotAddress(areaOf(profile, area), slot) === null) return [];
	const cuts: { variables: Variables; span: Span }[] = [];
	for (let from = at; from < at + size; from += most) {
		const take = Math.min(most, at + size - from);
		cuts.push({
			variables: { slot, address: addressIn(profile, area, slot, from)!, size: take },
			span: { slot, at: from, size: take }
		});
	}
	return cuts;
}
