/** Sixteen bytes of two messages side by side. */
export interface ByteLine {
	offset: number;
	before: (number | null)[];
	after: (number | null)[];
	/** Which of the sixteen differ. */
	differs: boolean[];
}

const WIDTH = 16;

/** Lines of two messages side by side; only lines with a difference, with `around` equal lines about them. */
export function byteLines(before: Uint8Array, after: Uint8Array, around = 1): ByteLine[] {
	const lines: ByteLine[] = [];
	for (let offset = 0; offset < Math.max(before.length, after.length); offset += WIDTH) {
		const cell = (bytes: Uint8Array, i: number) => (offset + i < bytes.length ? bytes[offset + i] : null);
		const a = Array.from({ length: WIDTH }, (_, i) => cell(before, i));
		const b = Array.from({ length: WIDTH }, (_, i) => cell(after, i));
		lines.push({ offset, before: a, after: b, differs: a.map((byte, i) => byte !== b[i]) });
	}
	const wanted = new Set<number>();
	lines.forEach((line, i) => {
		if (line.differs.includes(true))
			for (let k = Math.max(0, i - around); k <= Math.min(lines.length - 1, i + around); k++) wanted.add(k);
	});
	return lines.filter((_, i) => wanted.has(i));
}
