import { messagesOf } from './parcels';
import { checksumFor, type Carrier } from './carrier';
import type { MessagePart, Profile, ProfileArea } from './schema';

const checksumWords = (checksum: Extract<MessagePart, { part: 'checksum' }>['checksum']): string =>
	typeof checksum === 'string' ? checksum : checksumFor(checksum).title;

const behindEach = (part: Carrier['part']): string =>
	'eachSum' in part && part.eachSum !== undefined ? `, each with ${checksumWords(part.eachSum)}` : '';

/** What a part of a message is, in a few signs: fixed bytes as they are, all others between ‹ and ›. */
export function partWords(part: MessagePart): string {
	switch (part.part) {
		case 'bytes':
			return part.bytes;
		case 'status':
			return part.of === 'program' ? '‹program change›' : '‹controller›';
		case 'variable':
			return `‹${part.variable}›`;
		case 'bits':
			return `‹${part.fields.map((field) => ('variable' in field ? field.variable : field.value.toString(2).padStart(field.bits, '0'))).join(' + ')}›`;
		case 'count':
			return `‹count of ${part.of}›`;
		case 'contents':
			return '‹which slots›';
		case 'body':
			return `‹${part.records} × ${part.area}, ${part.packing}${behindEach(part)}›`;
		case 'listed':
			return `‹these ${part.area}, ${part.packing}${behindEach(part)}›`;
		case 'section':
			return `‹${part.section} of ${part.area}, ${part.packing}›`;
		case 'column':
			return `‹${part.section} of ${part.records} ${part.area}, ${part.packing}›`;
		case 'memory':
			return `‹memory, ${part.packing}›`;
		case 'stream':
			return `‹${part.bytes} bytes of ${part.area}, ${part.packing}›`;
		case 'checksum':
			return `‹${checksumWords(part.checksum)}›`;
	}
}

/** Of what the records of an area are made, and where they lie. */
export function madeOf({ records }: Profile, { addresses, record }: ProfileArea): string {
	const { sections = [] } = records[record];
	const names = sections.map(({ name, times }) => (times === undefined ? name : `${times} × ${name}`));
	const from = addresses?.map(({ base, stride }) => (stride ? `${base}, every ${stride}` : base)) ?? [];
	return [few(names), from.length > 0 ? `from address ${from.join('; ')}` : ''].filter(Boolean).join('; ');
}

/** The titles of the messages that a way names, in quotation marks. */
export const titlesOf = ({ messages }: Profile, ids: string | readonly string[]): string =>
	few(messagesOf(ids).map((id) => `“${messages[id].title}”`));

/** A list that is read at a glance: of a long one its beginning. */
const few = (words: readonly string[]): string =>
	words.length > 12 ? `${words.slice(0, 8).join(', ')} and ${words.length - 8} more` : words.join(', ');
