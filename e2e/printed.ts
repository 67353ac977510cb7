import { inflateSync } from 'node:zlib';

/** A stroked or filled rectangle on a printed page, in millimetres. */
export interface Printed {
	width: number;
	height: number;
}

const MM_PER_POINT = 25.4 / 72;
/** A row of a transformation of the plane, PDF 1.7, 8.3.3. */
type Matrix = [number, number, number, number, number, number];

const times = ([a, b, c, d, e, f]: Matrix, [A, B, C, D, E, F]: Matrix): Matrix => [
	a * A + b * C,
	a * B + b * D,
	c * A + d * C,
	c * B + d * D,
	e * A + f * C + E,
	e * B + f * D + F
];

/** What a PDF's pages are: how many, and how large each is, in millimetres. */
export function pagesOf(pdf: Buffer): Printed[] {
	return [...pdf.toString('latin1').matchAll(/\/MediaBox\s*\[\s*0 0 ([\d.]+) ([\d.]+)/g)].map(
		([, width, height]) => ({ width: +width * MM_PER_POINT, height: +height * MM_PER_POINT })
	);
}

/** Every rectangle that a PDF's pages draw, in the size that it has on paper. */
export function rectanglesOf(pdf: Buffer): Printed[] {
	const text = pdf.toString('latin1');
	const found: Printed[] = [];
	for (const { index } of text.matchAll(/stream\r?\n/g)) {
		const start = index + /^stream\r?\n/.exec(text.slice(index))![0].length;
		let content: string;
		try {
			content = inflateSync(pdf.subarray(start, text.indexOf('endstream', start))).toString('latin1');
		} catch {
			// No packed stream: a font or a picture.
			continue;
		}
		found.push(...rectanglesIn(content));
	}
	return found;
}

function rectanglesIn(content: string): Printed[] {
	const found: Printed[] = [];
	const kept: Matrix[] = [];
	let now: Matrix = [1, 0, 0, 1, 0, 0];
	for (const line of content.split('\n')) {
		const words = line.trim().split(/\s+/);
		const numbers = words.slice(0, -1).map(Number);
		switch (words.at(-1)) {
			case 'q':
				kept.push(now);
				break;
			case 'Q':
				now = kept.pop() ?? now;
				break;
			case 'cm':
				now = times(numbers as Matrix, now);
				break;
			case 're':
				found.push({
					width: Math.abs(numbers[2]) * Math.hypot(now[0], now[1]) * MM_PER_POINT,
					height: Math.abs(numbers[3]) * Math.hypot(now[2], now[3]) * MM_PER_POINT
				});
		}
	}
	return found;
}
