const sum = (bytes: Uint8Array): number => {
	let total = 0;
	for (let i = 0; i < bytes.length; i++) total += bytes[i];
	return total;
};

const xor = (bytes: Uint8Array): number => {
	let all = 0;
	for (let i = 0; i < bytes.length; i++) all ^= bytes[i];
	return all;
};

export interface Checksum {
	title: string;
	/** Bytes that it takes in the message. */
	width: 1 | 2;
	/** The checksum of `data` (0–127 each) as it stands on the wire. */
	of(data: Uint8Array): number[];
}

/** Checksums by their id in a profile. Adding one is adding an entry. */
export const CHECKSUMS = {
	'negated-sum-7': { title: 'negated 7-bit sum', width: 1, of: (data) => [-sum(data) & 0x7f] },
	'sum-7': { title: 'plain 7-bit sum', width: 1, of: (data) => [sum(data) & 0x7f] },
	'xor-7': { title: 'XOR', width: 1, of: (data) => [xor(data) & 0x7f] },
	'ones-complement-7': {
		title: "one's complement of the 7-bit sum",
		width: 1,
		of: (data) => [~sum(data) & 0x7f]
	},
	'sum-14': {
		title: '14-bit sum, high byte first',
		width: 2,
		of: (data) => [(sum(data) >> 7) & 0x7f, sum(data) & 0x7f]
	}
} satisfies Record<string, Checksum>;

export type ChecksumId = keyof typeof CHECKSUMS;

export const CHECKSUM_IDS = Object.keys(CHECKSUMS) as [ChecksumId, ...ChecksumId[]];
