/** How a number stands in a message. */
export interface NumberForm {
	/** Bytes that it takes. */
	width: number;
	/** Bits in each: 7 where none are named. */
	digits?: 7 | 4;
	order?: 'high-first' | 'low-first';
}

/** The largest number that fits. */
export const largestNumber = ({ width, digits = 7 }: NumberForm): number => 2 ** (digits * width) - 1;

/** The bytes of a number that fits. */
export function numberBytes(value: number, form: NumberForm): number[] {
	const base = 2 ** (form.digits ?? 7);
	const bytes: number[] = [];
	let rest = value;
	for (let i = 0; i < form.width; i++) {
		bytes.push(rest % base);
		rest = Math.floor(rest / base);
	}
	return form.order === 'low-first' ? bytes : bytes.reverse();
}

/** The number that stands at `start`; -1 where a byte is none of its digits. */
export function numberAt(bytes: Uint8Array, start: number, form: NumberForm): number {
	const base = 2 ** (form.digits ?? 7);
	let value = 0;
	for (let i = 0; i < form.width; i++) {
		const digit = bytes[start + (form.order === 'low-first' ? form.width - 1 - i : i)];
		if (digit >= base) return -1;
		value = value * base + digit;
	}
	return value;
}
