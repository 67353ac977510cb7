import type { MessagePart, VariableName } from '../schema';

/** What of the answers a message needs: how its data travel, and its checksum. */
export interface Carries {
	/** The part that `<data>` is; null where a message carries none. */
	data: MessagePart | null;
	checksum: Extract<MessagePart, { part: 'checksum' }>['checksum'] | null;
	/** Over the bytes as they travel, or over the memory that they carry. */
	over: 'wire' | 'memory';
	/** Sounds in one message: its number counts so many at a time. */
	together: number;
}

export type Pattern = { parts: MessagePart[]; fault: null } | { parts: null; fault: string };

const VARIABLES: Record<string, VariableName> = {
	device: 'deviceId',
	slot: 'slot',
	part: 'part',
	packet: 'packet',
	address: 'address',
	size: 'size'
};
const NAMES = [...Object.keys(VARIABLES), 'count', 'data', 'sum', 'controller'];
/** `<slot>`, `<slot 2>`, `<slot 2 low>`, `<30+part>`. */
const PLACE = /^<(?:([0-9A-F]{2})\+)?([a-z]+)(?: ([1-8]))?( low)?>$/i;
const TOKEN = /<[^>]*>|[^\s<>[\]]+|[[\]]/g;

const bad = (fault: string): Pattern => ({ parts: null, fault });

/** A place between < and >, as the part that it is; or what is wrong with it. */
function placeOf(token: string, { data, checksum, over, together }: Carries): MessagePart | string {
	const [, add, name, digits, low] = PLACE.exec(token) ?? [];
	if (name === undefined || !NAMES.includes(name.toLowerCase()))
		return `${token} is no place: there are ${NAMES.map((one) => `<${one}>`).join(', ')}`;
	const width = Number(digits ?? 1);
	const order = low ? { order: 'low-first' as const } : {};
	switch (name.toLowerCase()) {
		case 'controller':
			return { part: 'status', of: 'controller' };
		case 'data':
			return data ?? 'this message carries no <data>';
		case 'sum':
			return checksum === null
				? 'no checksum is chosen'
				: { part: 'checksum', checksum, from: 'data', to: 'data', ...(over === 'memory' ? { over } : {}) };
		case 'count':
			return { part: 'count', of: 'bytes', from: 'data', to: 'data', width, ...order, add: 0 };
		default:
			return {
				part: 'variable',
				variable: VARIABLES[name.toLowerCase()],
				width,
				...order,
				add: add === undefined ? 0 : parseInt(add, 16),
				divide: VARIABLES[name.toLowerCase()] === 'slot' ? together : 1
			};
	}
}

/**
 * A message as a manual writes it, in our own notation: hexadecimal bytes, places between < and > (`F0 7D 21 <device> 11 <slot>
 * <data> <sum> F7`), and [ ] round what the checksum covers; without them it covers the data.
 */
export function patternParts(text: string, carries: Carries): Pattern {
	const parts: MessagePart[] = [];
	/** Where the covered stretch begins and ends, as numbers of parts. */
	let [from, to]: (number | null)[] = [null, null];
	let joins = false;
	for (const token of text.match(TOKEN) ?? []) {
		if (token === '[') {
			if (from !== null) return bad('a checksum covers one stretch: one [ and one ]');
			from = parts.length;
			joins = false;
		} else if (token === ']') {
			if (from === null || to !== null || parts.length === from)
				return bad('the ] has no [ with something behind it');
			to = parts.length - 1;
			joins = false;
		} else if (token.startsWith('<')) {
			const part = placeOf(token, carries);
			if (typeof part === 'string') return bad(part);
			parts.push(part.part === carries.data?.part ? { ...part, name: 'data' } : part);
			joins = false;
		} else {
			if (!/^[0-9A-F]{2}$/i.test(token)) return bad(`“${token}” is no byte: write two signs, 0–9 and A–F`);
			const last = parts.at(-1);
			if (joins && last?.part === 'bytes') last.bytes += ` ${token.toUpperCase()}`;
			else parts.push({ part: 'bytes', bytes: token.toUpperCase() });
			joins = true;
		}
	}
	if (from !== null && to === null) return bad('the [ has no ]');
	const fault = frameFault(parts, carries);
	return fault ? bad(fault) : { parts: from === null ? parts : covered(parts, from, to!), fault: null };
}

/** What is wrong with a message as a whole. */
function frameFault(parts: readonly MessagePart[], { data }: Carries): string | null {
	const [first, last] = [parts.at(0), parts.at(-1)];
	if (first?.part !== 'status') {
		if (first?.part !== 'bytes' || !first.bytes.startsWith('F0')) return 'it begins with F0';
		if (last?.part !== 'bytes' || !last.bytes.endsWith('F7')) return 'it ends with F7';
	}
	const sums = parts.filter(({ part }) => part === 'checksum').length;
	if (sums > 1) return 'it has one <sum> at most';
	const carried = parts.filter(({ part }) => part === data?.part).length;
	if (data && carried !== 1) return 'it carries <data> once';
	return null;
}

/** Gives names to the ends of what the checksum covers. */
function covered(parts: readonly MessagePart[], from: number, to: number): MessagePart[] {
	const nameOf = (at: number, own: string) => ('name' in parts[at] && parts[at].name ? parts[at].name : own);
	const [first, last] = [nameOf(from, 'covered'), from === to ? nameOf(from, 'covered') : nameOf(to, 'last')];
	return parts.map((part, at): MessagePart => {
		if (part.part === 'checksum') return { ...part, from: first, to: last };
		if (at === from) return { ...part, name: first } as MessagePart;
		return at === to ? ({ ...part, name: last } as MessagePart) : part;
	});
}
