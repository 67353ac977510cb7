import fc from 'fast-check';
import { addressMap, areaOf, buildMessage, layoutsOf, sectionsOf, type Layout, type Profile } from '.';
import { packetSize, type Variables } from './carrier';

/** What a message is told besides its memory. */
interface Said {
	variables: Variables;
	contents: number[];
	/** Bytes of memory. */
	size: number;
}

const base = fc.record({ deviceId: fc.nat(15), channel: fc.integer({ min: 1, max: 16 }) });

/** What such a message can be told. */
function anySaid(profile: Profile, { carrier }: Layout): fc.Arbitrary<Said> {
	const plain = (variables: Variables, size: number, contents: number[] = []) =>
		base.map((own): Said => ({ variables: { ...own, ...variables }, contents, size }));
	if (!carrier)
		return fc
			.nat(15)
			.chain((slot) =>
				plain({ slot, part: slot, packet: slot, address: slot * 200, size: 64, total: 99 * slot }, 0)
			);
	const { part, recordSize } = carrier;
	if (part.part === 'memory')
		return fc
			.tuple(fc.constantFrom(...addressMap(profile)), fc.nat(10_000), fc.nat(10_000))
			.chain(([stretch, a, b]) => {
				const from = a % stretch.size;
				return plain({ address: stretch.address + from }, 1 + (b % (stretch.size - from)));
			});
	const { slots, record } = areaOf(profile, part.area);
	switch (part.part) {
		case 'body':
			return fc
				.nat(slots / part.records - 1)
				.chain((group) => plain({ slot: group * part.records }, part.records * recordSize));
		case 'column': {
			const { size } = sectionsOf(profile.records[record]).find(({ id }) => id === part.section)!;
			return fc
				.nat(slots / part.records - 1)
				.chain((group) => plain({ slot: group * part.records }, part.records * size));
		}
		case 'listed':
			return fc
				.uniqueArray(fc.nat(slots - 1), { minLength: 1, maxLength: Math.min(6, slots) })
				.chain((contents) => plain({}, contents.length * recordSize, contents));
		case 'section': {
			const own = sectionsOf(profile.records[record]).filter(({ id }) => id === part.section);
			return fc
				.tuple(fc.nat(slots - 1), fc.constantFrom(...own))
				.chain(([slot, section]) => plain({ slot, part: section.part }, section.size));
		}
		case 'stream': {
			const packets = Math.ceil((recordSize * (part.of === 'slot' ? 1 : slots)) / part.bytes);
			return fc
				.tuple(fc.nat(slots - 1), fc.nat(packets - 1))
				.chain(([slot, packet]) => plain({ slot, packet }, packetSize(profile, part, packet)));
		}
	}
}

/** Bytes that can travel in such a message: none above 127 where they go as they are, no word above 16,383 in pairs. */
function anyMemory({ carrier }: Layout, size: number): fc.Arbitrary<Uint8Array> {
	const packing = carrier?.part.packing ?? 'plain';
	return fc
		.uint8Array({ minLength: size, maxLength: size })
		.map((bytes) =>
			packing === 'plain' || packing === 'data-entry'
				? bytes.map((byte) => byte & 0x7f)
				: packing.startsWith('pairs')
					? bytes.map((byte, i) => (i % 2 ? byte : byte & 0x3f))
					: bytes
		);
}

/** Any message of a profile with any content that can travel in it. */
export const anyMessage = (profile: Profile): fc.Arbitrary<Uint8Array> =>
	fc
		.constantFrom(...layoutsOf(profile))
		.chain((layout) =>
			anySaid(profile, layout).chain(({ variables, contents, size }) =>
				anyMemory(layout, size).map((memory) => buildMessage(profile, layout.id, variables, memory, contents))
			)
		);
