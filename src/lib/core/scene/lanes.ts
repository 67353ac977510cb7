/** Puts ranges into lanes, in which none covers another: the lane of each, from 0, as few as there can be. */
export function lanesOf(ranges: readonly (readonly [number, number])[]): number[] {
	const ends: number[] = [];
	const lanes = ranges.map(() => 0);
	const order = ranges.map((_, i) => i).sort((a, b) => ranges[a][0] - ranges[b][0] || a - b);
	for (const i of order) {
		const [from, to] = ranges[i];
		const free = ends.findIndex((end) => end < from);
		lanes[i] = free < 0 ? ends.length : free;
		ends[lanes[i]] = to;
	}
	return lanes;
}
