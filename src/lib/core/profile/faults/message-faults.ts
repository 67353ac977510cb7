import { wireValue } from '../build';
import { isCarrier } from '../carrier';
import { says } from '../layout';
import { packingOf } from '../packings';
import type { CarrierPart, MessagePart, PartOf, Profile, VariableName } from '../schema';
import { largestNumber } from '../wire-number';
import type { Fault } from './fault';

type Path = (string | number)[];

/** Messages that cannot be built or read as they are described. */
export const messageFaults = (profile: Profile): Fault[] =>
	Object.entries(profile.messages).flatMap(([id, { parts }]) => {
		const path = ['messages', id, 'parts'];
		return [
			...frameFaults(parts, path),
			...parts.flatMap((part, i) => [
				...rangeFaults(parts, part, i, [...path, i]),
				...bitsFaults(part, [...path, i]),
				...countFaults(parts, part, [...path, i]),
				...(isCarrier(part) ? carrierFaults(profile, parts, part, [...path, i]) : [])
			])
		];
	});

function frameFaults(parts: readonly MessagePart[], path: Path): Fault[] {
	const faults: Fault[] = [];
	const first = parts[0];
	const last = parts[parts.length - 1];
	const ofChannel = first.part === 'status';
	if (!ofChannel && (first.part !== 'bytes' || !/^F0/i.test(first.bytes)))
		faults.push({
			path: [...path, 0],
			says: 'a message begins with fixed bytes from F0, or with the status of a channel message'
		});
	if (!ofChannel && (last.part !== 'bytes' || !/F7$/i.test(last.bytes)))
		faults.push({ path: [...path, parts.length - 1], says: 'a message ends with fixed bytes up to F7' });
	const inside = parts.findIndex(({ part }, i) => part === 'status' && i > 0);
	if (inside > 0) faults.push({ path: [...path, inside], says: 'a status stands at the beginning alone' });
	if (parts.filter(isCarrier).length > 1) faults.push({ path, says: 'a message holds one body at most' });
	const lists = parts.filter(({ part }) => part === 'contents').length;
	const listed = parts.filter(({ part }) => part === 'listed').length;
	if (lists !== listed)
		faults.push({ path, says: 'a list of contents and the records that it lists go together, once' });
	parts.forEach((part, i) => {
		if (part.part !== 'bytes') return;
		const inner = ofChannel
			? part.bytes.split(' ')
			: part.bytes.split(' ').slice(i === 0 ? 1 : 0, i === parts.length - 1 ? -1 : undefined);
		if (inner.some((byte) => parseInt(byte, 16) > 0x7f))
			faults.push({ path: [...path, i, 'bytes'], says: 'data bytes are 00 to 7F' });
	});
	return faults;
}

/** Parts that speak of others by their names. */
function rangeFaults(parts: readonly MessagePart[], part: MessagePart, i: number, path: Path): Fault[] {
	if (part.part !== 'checksum' && !(part.part === 'count' && part.of === 'bytes')) return [];
	const [from, to] = [part.from, part.to].map((name) =>
		parts.findIndex((other) => name !== undefined && other.name === name)
	);
	const faults: Fault[] = [];
	if (from < 0)
		faults.push({ path: [...path, 'from'], says: `no part of this message is named “${part.from}”` });
	if (to < 0) faults.push({ path: [...path, 'to'], says: `no part of this message is named “${part.to}”` });
	if (from >= 0 && to >= 0 && (from > to || (part.part === 'checksum' && from <= i && i <= to)))
		faults.push({ path, says: 'a checksum covers parts from first to last, and not itself' });
	if (part.part === 'checksum' && part.over === 'memory' && !parts.some(isCarrier))
		faults.push({ path: [...path, 'over'], says: 'this message carries no memory' });
	return faults;
}

function bitsFaults(part: MessagePart, path: Path): Fault[] {
	if (part.part !== 'bits') return [];
	const sum = part.fields.reduce((all, { bits }) => all + bits, 0);
	const large = part.fields.find((field) => 'value' in field && field.value >= 2 ** field.bits);
	return [
		...(sum === 7 ? [] : [{ path: [...path, 'fields'], says: `they come to ${sum} bits; a byte has seven` }]),
		...(large && 'value' in large
			? [{ path: [...path, 'fields'], says: `${large.value} does not fit in ${large.bits} bits` }]
			: [])
	];
}

function countFaults(parts: readonly MessagePart[], part: MessagePart, path: Path): Fault[] {
	if (part.part !== 'count' || part.of === 'bytes') return [];
	const carrier = parts.find(isCarrier);
	const counts = part.of === 'memory' ? carrier : carrier?.part === 'body' || carrier?.part === 'listed';
	return counts ? [] : [{ path: [...path, 'of'], says: `this message holds no ${part.of} to count` }];
}

/** Whether so many of something can be told apart: the number of each, from nought, fits where it is said. */
function counts(parts: readonly MessagePart[], name: VariableName, many: number): boolean {
	type Spec = Parameters<typeof wireValue>[0];
	const fits = (spec: Spec, largest: number) =>
		spec.variable !== name || wireValue(spec, Math.min(many, spec.modulo ?? many) - 1) <= largest;
	return parts.every((part) =>
		part.part === 'variable'
			? fits(part, largestNumber(part))
			: part.part !== 'bits' ||
				part.fields.every((field) => !('variable' in field) || fits(field, 2 ** field.bits - 1))
	);
}

/** Whether so many bytes come back as they were. */
const canPack = ({ packing }: CarrierPart, bytes: number): boolean => {
	const { packedLength, unpackedLength } = packingOf(packing);
	return unpackedLength(packedLength(bytes)) === bytes;
};

function carrierFaults(
	profile: Profile,
	parts: readonly MessagePart[],
	part: CarrierPart,
	path: Path
): Fault[] {
	if (part.part === 'memory')
		return says({ parts }, 'address') ? [] : [{ path, says: 'memory is of an address, which a part says' }];
	const area = profile.areas.find(({ id }) => id === part.area);
	if (!area) return [{ path: [...path, 'area'], says: `there is no area “${part.area}”` }];
	const record = profile.records[area.record];
	if (!record) return [];
	const unpackable = (size: number): Fault[] =>
		canPack(part, size)
			? []
			: [{ path: [...path, 'packing'], says: `records of ${size} bytes cannot be packed this way` }];
	switch (part.part) {
		case 'body':
			return area.slots % part.records !== 0
				? [
						{
							path: [...path, 'records'],
							says: `${area.slots} slots cannot be cut into messages of ${part.records}`
						}
					]
				: unpackable(part.eachSum === undefined ? record.size * part.records : record.size);
		case 'listed':
			return unpackable(record.size);
		case 'column':
			return [
				...(area.slots % part.records === 0
					? []
					: [
							{
								path: [...path, 'records'],
								says: `${area.slots} slots cannot be cut into messages of ${part.records}`
							}
						]),
				...columnFaults(profile, area.id, record, part, path, unpackable)
			];
		case 'section':
			return sectionFaults(record.sections ?? [], parts, part, path, unpackable);
		case 'stream': {
			const total = record.size * (part.of === 'slot' ? 1 : area.slots);
			const last = total % part.bytes;
			return [
				...(says({ parts }, 'packet') ? [] : [{ path, says: 'packets have a number, which a part says' }]),
				...(counts(parts, 'packet', Math.ceil(total / part.bytes))
					? []
					: [
							{
								path,
								says: `there are ${Math.ceil(total / part.bytes)} packets, and their number does not fit`
							}
						]),
				...unpackable(Math.min(total, part.bytes)),
				...(last === 0 ? [] : unpackable(last))
			];
		}
	}
}

function sectionFaults(
	sections: NonNullable<Profile['records'][string]['sections']>,
	parts: readonly MessagePart[],
	part: PartOf<'section'>,
	path: Path,
	unpackable: (size: number) => Fault[]
): Fault[] {
	const section = sections.find(({ id }) => id === part.section);
	if (!section) return [{ path: [...path, 'section'], says: `there is no section “${part.section}”` }];
	return [
		...unpackable(section.size),
		...(section.times !== undefined && !says({ parts }, 'part')
			? [{ path, says: `there are ${section.times} of “${section.name}”, and no part says which` }]
			: [])
	];
}

/** A section of each slot, by itself: then the others travel by themselves, too. */
function columnFaults(
	profile: Profile,
	area: string,
	{ sections = [] }: Profile['records'][string],
	part: PartOf<'column'>,
	path: Path,
	unpackable: (size: number) => Fault[]
): Fault[] {
	const section = sections.find(({ id }) => id === part.section);
	if (!section) return [{ path: [...path, 'section'], says: `there is no section “${part.section}”` }];
	const messageWith = (fits: (part: MessagePart) => boolean): string | undefined =>
		Object.entries(profile.messages).find(([, { parts }]) => parts.some(fits))?.[0];
	const whole = messageWith(
		(other) =>
			(other.part === 'body' || other.part === 'listed' || other.part === 'stream') && other.area === area
	);
	const alone = messageWith(
		(other) => other.part === 'section' && other.area === area && other.section === part.section
	);
	return [
		...unpackable(section.size * part.records),
		...(alone
			? [
					{
						path,
						says: `“${alone}” carries the same section of one slot; here that of many travels together`
					}
				]
			: []),
		...(section.times === undefined
			? []
			: [
					{ path: [...path, 'section'], says: `there are ${section.times} of “${section.name}” in each slot` }
				]),
		...(whole
			? [
					{
						path,
						says: `“${whole}” carries whole records of this area; here each section travels by itself`
					}
				]
			: [])
	];
}
