const NAMES = ['C', 'C♯', 'D', 'E♭', 'E', 'F', 'F♯', 'G', 'A♭', 'A', 'B♭', 'B'];
const STEPS: Record<string, number> = { c: 0, d: 2, e: 4, f: 5, g: 7, a: 9, b: 11 };

/** A key as a musician calls it; 60 is C4. */
export const keyName = (key: number): string => `${NAMES[key % 12]}${Math.floor(key / 12) - 1}`;
export const keysName = ([low, high]: readonly number[]): string => `${keyName(low)}–${keyName(high)}`;

/** The key that is meant by `C4`, `f#3`, `E♭2` or its number; null where none is. */
export function keyNamed(text: string): number | null {
	const number = /^\s*(\d{1,3})\s*$/.exec(text);
	const named = /^\s*([a-g])\s*([#♯b♭]?)\s*(-?\d)\s*$/i.exec(text);
	const key = number
		? Number(number[1])
		: named
			? STEPS[named[1].toLowerCase()] +
				({ '#': 1, '♯': 1, b: -1, '♭': -1 }[named[2].toLowerCase()] ?? 0) +
				12 * (Number(named[3]) + 1)
			: NaN;
	return key >= 0 && key <= 127 ? key : null;
}
