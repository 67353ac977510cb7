/**
 * What differs between two contents of one length: stretches of (how many bytes are equal, how many follow that may
 * differ, these by XOR), both counts as in a MIDI file's variable length. What is equal to the end is left out.
 */

/** Equal bytes between two differing ones that cost no more than a new stretch. */
const GAP = 2;

function putCount(out: number[], count: number): void {
	const groups = [count & 0x7f];
	for (let rest = count >>> 7; rest > 0; rest >>>= 7) groups.unshift((rest & 0x7f) | 0x80);
	out.push(...groups);
}

/** The difference from one content to another of the same length. @throws RangeError where the lengths differ */
export function difference(from: Uint8Array, to: Uint8Array): Uint8Array {
	if (from.length !== to.length) throw new RangeError('Contents of unequal length have no such difference.');
	const out: number[] = [];
	let done = 0;
	const [old, now] = [from, to].map((bytes) => new DataView(bytes.buffer, bytes.byteOffset, bytes.length));
	for (let at = 0; at < to.length; at++) {
		// Most of it is equal: four bytes at a time.
		while (at + 4 <= to.length && old.getUint32(at) === now.getUint32(at)) at += 4;
		if (from[at] === to[at]) continue;
		let last = at;
		for (let next = at + 1; next < to.length && next - last <= GAP + 1; next++)
			if (from[next] !== to[next]) last = next;
		putCount(out, at - done);
		putCount(out, last + 1 - at);
		for (let i = at; i <= last; i++) out.push(from[i] ^ to[i]);
		done = last + 1;
		at = last;
	}
	return Uint8Array.from(out);
}

/** Turns the first content into the second, in place. @throws RangeError where the difference does not fit */
export function applyDifference(bytes: Uint8Array, changes: Uint8Array): void {
	let read = 0;
	const count = (): number => {
		let value = 0;
		for (;;) {
			if (read >= changes.length) throw new RangeError('The difference breaks off.');
			const byte = changes[read++];
			value = value * 128 + (byte & 0x7f);
			if (byte < 0x80) return value;
		}
	};
	let at = 0;
	while (read < changes.length) {
		at += count();
		const length = count();
		if (at + length > bytes.length || read + length > changes.length)
			throw new RangeError('The difference reaches past the end.');
		for (let i = 0; i < length; i++) bytes[at++] ^= changes[read++];
	}
}
