/** How a checksum is made; all fields besides `by` may be left out. */
export interface ChecksumRule {
	by: 'sum' | 'xor' | 'crc-16';
	/** Bits that are kept: 7 where none are named, 16 for a CRC. */
	bits?: 7 | 8 | 14 | 16;
	/** What it begins with. */
	start?: number;
	/** What is sent of it: itself, its bits turned over, or what makes it up to nought. */
	complement?: 'none' | 'ones' | 'twos';
	/** Of a CRC, without its highest bit, such as 4129 (0x1021). */
	polynomial?: number;
	/** A CRC that takes the lowest bit of each byte first, and is turned round itself. */
	reflected?: boolean;
	/** What is XORed onto it at the end. */
	last?: number;
	/** How it travels: in seven-bit bytes, or in nibbles. */
	carried?: 'seven-bit' | 'nibbles';
	order?: 'high-first' | 'low-first';
}

export interface Checksum {
	title: string;
	/** Bytes that it takes in the message. */
	width: number;
	/** The checksum of `data` as a number. */
	value(data: Uint8Array): number;
	/** The checksum of `data` (0–127 each, 0–255 where it is over unpacked bytes) as it stands on the wire. */
	of(data: Uint8Array): number[];
}

function sum(bytes: Uint8Array, start: number): number {
	let total = start;
	for (let i = 0; i < bytes.length; i++) total += bytes[i];
	return total;
}

function xor(bytes: Uint8Array, start: number): number {
	let all = start;
	for (let i = 0; i < bytes.length; i++) all ^= bytes[i];
	return all;
}

const reverse = (value: number, bits: number): number => {
	let out = 0;
	for (let i = 0; i < bits; i++) if (value & (1 << i)) out |= 1 << (bits - 1 - i);
	return out;
};

/** Bit by bit, as the catalogue of parametrised CRC algorithms describes them: width 16, polynomial, start, reflection, last XOR. */
function crc16(
	bytes: Uint8Array,
	{ start = 0, polynomial = 0x1021, reflected = false }: ChecksumRule
): number {
	let crc = start & 0xffff;
	for (let i = 0; i < bytes.length; i++) {
		crc ^= (reflected ? reverse(bytes[i], 8) : bytes[i]) << 8;
		for (let bit = 0; bit < 8; bit++)
			crc = crc & 0x8000 ? ((crc << 1) ^ polynomial) & 0xffff : (crc << 1) & 0xffff;
	}
	return reflected ? reverse(crc, 16) : crc;
}

const titleOf = ({ by, bits, complement }: ChecksumRule, kept: number): string =>
	by === 'crc-16'
		? 'CRC-16'
		: [
				complement === 'twos' ? 'negated' : complement === 'ones' ? "one's complement of the" : '',
				bits === undefined && by === 'xor' ? '' : `${kept}-bit`,
				by === 'xor' ? 'XOR' : 'sum'
			]
				.filter(Boolean)
				.join(' ');

/** A checksum by its rule. */
export function checksumBy(rule: ChecksumRule): Checksum {
	const bits = rule.bits ?? (rule.by === 'crc-16' ? 16 : 7);
	const mask = 2 ** bits - 1;
	const each = rule.carried === 'nibbles' ? 4 : 7;
	const width = Math.ceil(bits / each);
	const raw = (data: Uint8Array): number =>
		rule.by === 'crc-16' ? crc16(data, rule) : (rule.by === 'xor' ? xor : sum)(data, rule.start ?? 0);
	const value = (data: Uint8Array): number => {
		let all = raw(data);
		if (rule.complement === 'ones') all = ~all;
		else if (rule.complement === 'twos') all = -all;
		return (all & mask) ^ ((rule.last ?? 0) & mask);
	};
	return {
		title: titleOf(rule, bits),
		width,
		value,
		of(data) {
			const own = value(data);
			const out: number[] = [];
			for (let i = width - 1; i >= 0; i--) out.push((own >> (each * i)) & (2 ** each - 1));
			return rule.order === 'low-first' ? out.reverse() : out;
		}
	};
}

/** Checksums that have a name in a profile. Adding one is adding an entry. */
export const CHECKSUM_RULES = {
	'negated-sum-7': { by: 'sum', complement: 'twos' },
	'sum-7': { by: 'sum' },
	'xor-7': { by: 'xor' },
	'ones-complement-7': { by: 'sum', complement: 'ones' },
	'sum-14': { by: 'sum', bits: 14 }
} satisfies Record<string, ChecksumRule>;

export type ChecksumId = keyof typeof CHECKSUM_RULES;

export const CHECKSUM_IDS = Object.keys(CHECKSUM_RULES) as [ChecksumId, ...ChecksumId[]];

export const CHECKSUMS = Object.fromEntries(
	CHECKSUM_IDS.map((id) => [id, checksumBy(CHECKSUM_RULES[id])])
) as Record<ChecksumId, Checksum>;
