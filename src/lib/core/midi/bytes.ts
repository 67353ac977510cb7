import { Problem } from '../problem';

const HEX = Array.from({ length: 256 }, (_, value) => value.toString(16).padStart(2, '0'));

/** Lower-case hexadecimal of `bytes`, two digits each, joined by `separator`. */
export function toHex(bytes: Uint8Array, separator = ''): string {
	if (separator === '') {
		let text = '';
		for (let i = 0; i < bytes.length; i++) text += HEX[bytes[i]];
		return text;
	}
	return Array.from(bytes, (byte) => HEX[byte]).join(separator);
}

/**
 * Bytes from hexadecimal text; white space between digits is allowed.
 * @throws Problem `hex.invalid`
 */
export function fromHex(text: string): Uint8Array {
	const digits = text.replace(/\s+/g, '');
	if (digits.length % 2 !== 0 || /[^0-9a-f]/i.test(digits))
		throw new Problem(
			'hex.invalid',
			`“${text.slice(0, 40)}” is not a row of hexadecimal bytes.`,
			'Write two digits for each byte.'
		);
	const bytes = new Uint8Array(digits.length / 2);
	for (let i = 0; i < bytes.length; i++)
		bytes[i] = (digitAt(digits, 2 * i) << 4) | digitAt(digits, 2 * i + 1);
	return bytes;
}

/** The value of a hexadecimal digit: 0–9, then A–F or a–f, whose codes differ in a bit that does not count. */
function digitAt(digits: string, at: number): number {
	const code = digits.charCodeAt(at);
	return code < 0x40 ? code & 0x0f : (code & 0x0f) + 9;
}

/** Whether both hold the same bytes. */
export function sameBytes(a: Uint8Array, b: Uint8Array): boolean {
	if (a.length !== b.length) return false;
	for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
	return true;
}

/** One array with the contents of all. */
export function joinBytes(parts: readonly Uint8Array[]): Uint8Array {
	let length = 0;
	for (const part of parts) length += part.length;
	const joined = new Uint8Array(length);
	let at = 0;
	for (const part of parts) {
		joined.set(part, at);
		at += part.length;
	}
	return joined;
}
