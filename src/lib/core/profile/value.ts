import { readField } from './field';
import type { ProfileParameter, ValueCode } from './schema';

/** How a value is written: its bits, its code, and, where that turns it round, its range. */
type Coding = Pick<ProfileParameter, 'bits' | 'coded' | 'range'>;

/** Values that no number stands for lie above all that do, so that bits which differ never read alike. */
const strange = (bits: number, raw: number): number => 2 ** bits * 16 + raw;

/** A code between bits (as a number, 0 to 2^bits − 1) and values. Each value has one writing. */
interface Code {
	read(raw: number, coding: Coding): number;
	write(value: number, coding: Coding): number;
}

const CODES: Record<ValueCode, Code> = {
	'twos-complement': {
		read: (raw, { bits }) => (raw >= 2 ** (bits - 1) ? raw - 2 ** bits : raw),
		write: (value, { bits }) => (value < 0 ? value + 2 ** bits : value)
	},
	'sign-bit': {
		read: (raw, { bits }) => {
			const half = 2 ** (bits - 1);
			if (raw === half) return strange(bits, raw);
			return raw > half ? half - raw : raw;
		},
		write: (value, { bits }) => (value < 0 ? 2 ** (bits - 1) - value : value)
	},
	offset: {
		read: (raw, { bits }) => raw - 2 ** (bits - 1),
		write: (value, { bits }) => value + 2 ** (bits - 1)
	},
	bcd: {
		read: (raw, { bits }) => {
			const digits = raw.toString(16);
			return /[a-f]/.test(digits) ? strange(bits, raw) : Number(digits);
		},
		write: (value) => parseInt(String(value), 16)
	},
	reversed: {
		read: (raw, { range: [low, high] }) => low + high - raw,
		write: (value, { range: [low, high] }) => low + high - value
	}
};

/** The value that bits stand for. */
export const valueOf = (coding: Coding, raw: number): number =>
	coding.coded === undefined ? raw : CODES[coding.coded].read(raw, coding);

/** The value of a parameter in a record, as its code says. */
export const readValue = (parameter: ProfileParameter, bytes: Uint8Array): number =>
	valueOf(parameter, readField(parameter, bytes));

/** The bits that stand for a value. */
export function rawOf(coding: Coding, value: number): number {
	if (coding.coded === undefined) return value;
	const odd = value - 2 ** coding.bits * 16;
	return odd >= 0 ? odd : CODES[coding.coded].write(value, coding);
}

/** The lowest and the highest value that so many bits can hold in this code. */
export function valueLimits({ bits, coded, range: [low, high] }: Coding): [number, number] {
	const half = 2 ** (bits - 1);
	switch (coded) {
		case 'twos-complement':
		case 'offset':
			return [-half, half - 1];
		case 'sign-bit':
			return [1 - half, half - 1];
		case 'bcd':
			return [0, 10 ** Math.floor(bits / 4) - 1];
		case 'reversed':
			return [low + high - (2 ** bits - 1), low + high];
		case undefined:
			return [0, 2 ** bits - 1];
	}
}
