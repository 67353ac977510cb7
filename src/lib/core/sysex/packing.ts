import { Problem } from '../problem';

export interface Packing {
	title: string;
	/** Bytes on the wire for `bytes` bytes of memory. */
	packedLength(bytes: number): number;
	/** Memory bytes for `packed` bytes on the wire; -1 where no memory makes that length. */
	unpackedLength(packed: number): number;
	/** Memory to wire. @throws Problem `packing.too-large` where a value cannot travel. */
	pack(memory: Uint8Array): Uint8Array;
	/** Wire to memory, refusing what `pack` could not have made. @throws Problem `packing.invalid` */
	unpack(packed: Uint8Array): Uint8Array;
}

const invalid = (offset: number, why: string) =>
	new Problem(
		'packing.invalid',
		`The data cannot be unpacked: ${why}.`,
		'The dump is damaged, or its profile names the wrong packing.',
		{ offset }
	);
const tooLarge = (offset: number, limit: number) =>
	new Problem(
		'packing.too-large',
		`A value at byte ${offset} is larger than ${limit}.`,
		'This device cannot hold it.',
		{ offset }
	);

function sevenInEight(topBits: 'first' | 'last', order: 'low' | 'high'): Packing {
	const bit = (index: number) => (order === 'low' ? index : 6 - index);
	const packing: Packing = {
		title: `7-in-8, top bits ${topBits}, ${order} bit first`,
		packedLength: (bytes) => bytes + Math.ceil(bytes / 7),
		unpackedLength: (packed) =>
			packed % 8 === 1 ? -1 : Math.floor(packed / 8) * 7 + Math.max(0, (packed % 8) - 1),
		pack(memory) {
			const out = new Uint8Array(packing.packedLength(memory.length));
			let at = 0;
			for (let start = 0; start < memory.length; start += 7) {
				const count = Math.min(7, memory.length - start);
				const data = topBits === 'first' ? at + 1 : at;
				let tops = 0;
				for (let i = 0; i < count; i++) {
					const byte = memory[start + i];
					if (byte & 0x80) tops |= 1 << bit(i);
					out[data + i] = byte & 0x7f;
				}
				out[topBits === 'first' ? at : at + count] = tops;
				at += count + 1;
			}
			return out;
		},
		unpack(packed) {
			const length = packing.unpackedLength(packed.length);
			if (length < 0) throw invalid(packed.length - 1, 'its last group holds no data');
			const out = new Uint8Array(length);
			let at = 0;
			for (let start = 0; start < length; start += 7) {
				const count = Math.min(7, length - start);
				const topsAt = topBits === 'first' ? at : at + count;
				const data = topBits === 'first' ? at + 1 : at;
				const tops = packed[topsAt];
				let used = 0;
				for (let i = 0; i < count; i++) {
					if (packed[data + i] > 0x7f) throw invalid(data + i, 'a byte is larger than 127');
					used |= 1 << bit(i);
					out[start + i] = packed[data + i] | ((tops >> bit(i)) & 1 ? 0x80 : 0);
				}
				if (tops & ~used) throw invalid(topsAt, 'a top bit belongs to no byte');
				at += count + 1;
			}
			return out;
		}
	};
	return packing;
}

function nibbles(first: 'high' | 'low'): Packing {
	const high = first === 'high' ? 0 : 1;
	return {
		title: `nibbles, ${first} first`,
		packedLength: (bytes) => bytes * 2,
		unpackedLength: (packed) => (packed % 2 ? -1 : packed / 2),
		pack(memory) {
			const out = new Uint8Array(memory.length * 2);
			for (let i = 0; i < memory.length; i++) {
				out[2 * i + high] = memory[i] >> 4;
				out[2 * i + 1 - high] = memory[i] & 0x0f;
			}
			return out;
		},
		unpack(packed) {
			if (packed.length % 2) throw invalid(packed.length - 1, 'half a byte is missing');
			const out = new Uint8Array(packed.length / 2);
			for (let i = 0; i < packed.length; i++)
				if (packed[i] > 0x0f) throw invalid(i, 'a nibble is larger than 15');
			for (let i = 0; i < out.length; i++) out[i] = (packed[2 * i + high] << 4) | packed[2 * i + 1 - high];
			return out;
		}
	};
}

/** Memory is a row of 16-bit words, high byte first, none larger than 16,383. */
function pairs(first: 'high' | 'low'): Packing {
	const high = first === 'high' ? 0 : 1;
	return {
		title: `14-bit pairs, ${first} first`,
		packedLength: (bytes) => bytes,
		unpackedLength: (packed) => (packed % 2 ? -1 : packed),
		pack(memory) {
			if (memory.length % 2) throw tooLarge(memory.length - 1, 16383);
			const out = new Uint8Array(memory.length);
			for (let i = 0; i < memory.length; i += 2) {
				const value = (memory[i] << 8) | memory[i + 1];
				if (value > 0x3fff) throw tooLarge(i, 16383);
				out[i + high] = value >> 7;
				out[i + 1 - high] = value & 0x7f;
			}
			return out;
		},
		unpack(packed) {
			if (packed.length % 2) throw invalid(packed.length - 1, 'half a pair is missing');
			const out = new Uint8Array(packed.length);
			for (let i = 0; i < packed.length; i += 2) {
				if (packed[i] > 0x7f || packed[i + 1] > 0x7f) throw invalid(i, 'a byte is larger than 127');
				const value = (packed[i + high] << 7) | packed[i + 1 - high];
				out[i] = value >> 8;
				out[i + 1] = value & 0xff;
			}
			return out;
		}
	};
}

const plain: Packing = {
	title: 'plain 7-bit bytes',
	packedLength: (bytes) => bytes,
	unpackedLength: (packed) => packed,
	pack(memory) {
		const wide = memory.findIndex((byte) => byte > 0x7f);
		if (wide >= 0) throw tooLarge(wide, 127);
		return memory.slice();
	},
	unpack(packed) {
		const wide = packed.findIndex((byte) => byte > 0x7f);
		if (wide >= 0) throw invalid(wide, 'a byte is larger than 127');
		return packed.slice();
	}
};

/** Packings by their id in a profile. Adding one is adding an entry. */
export const PACKINGS = {
	plain,
	'7in8-first-low': sevenInEight('first', 'low'),
	'7in8-first-high': sevenInEight('first', 'high'),
	'7in8-last-low': sevenInEight('last', 'low'),
	'7in8-last-high': sevenInEight('last', 'high'),
	'nibbles-high-first': nibbles('high'),
	'nibbles-low-first': nibbles('low'),
	'pairs-14-high-first': pairs('high'),
	'pairs-14-low-first': pairs('low')
} satisfies Record<string, Packing>;

export type PackingId = keyof typeof PACKINGS;

export const PACKING_IDS = Object.keys(PACKINGS) as [PackingId, ...PackingId[]];
