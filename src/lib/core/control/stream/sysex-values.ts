import { CHECKSUMS, type ChecksumId } from '../../sysex';
import { SYSEX_START } from '../../midi';
import type { HeardMessage } from './recording';
import type { Value } from './series';

/** System exclusive messages of one length and one beginning: a control that tells its value in one of their bytes. */
export interface SysexSeries {
	/** Places of the bytes that change, the value first; empty where every message is the same. */
	changing: number[];
	messages: number;
	first: number;
	values: Value[];
}

/** What is longer is a dump: no control sends it. */
const LONGEST = 64;

const data = (bytes: Uint8Array) => bytes.subarray(1, -1);

/** Whether the last byte of every message is a checksum of those before it, from some place on. */
function checked(messages: readonly Uint8Array[]): boolean {
	const length = messages[0].length;
	if (new Set(messages.map((bytes) => bytes[length - 2])).size < 2) return false;
	return (Object.keys(CHECKSUMS) as ChecksumId[])
		.filter((id) => CHECKSUMS[id].width === 1)
		.some((id) =>
			Array.from({ length: Math.max(0, length - 3) }, (_, from) => from + 1).some((from) =>
				messages.every((bytes) => CHECKSUMS[id].of(bytes.subarray(from, length - 2))[0] === bytes[length - 2])
			)
		);
}

/**
 * Sorts SysEx messages by what they speak of: those that are alike but for the last byte that changes (a checksum at the
 * end aside) are one control, and that byte is its value.
 */
export function sysexValues(heard: readonly HeardMessage[]): SysexSeries[] {
	const byLength = new Map<number, { at: number; atMs: number; bytes: Uint8Array }[]>();
	heard.forEach(({ bytes, atMs }, at) => {
		if (bytes[0] !== SYSEX_START || bytes.length < 3 || bytes.length > LONGEST) return;
		const alike = byLength.get(bytes.length);
		if (alike) alike.push({ at, atMs, bytes });
		else byLength.set(bytes.length, [{ at, atMs, bytes }]);
	});
	return [...byLength.values()].flatMap((all) => {
		const sum = checked(all.map(({ bytes }) => bytes));
		const places = Array.from(data(all[0].bytes), (_, i) => i + 1).filter(
			(place) =>
				!(sum && place === all[0].bytes.length - 2) &&
				all.some(({ bytes }) => bytes[place] !== all[0].bytes[place])
		);
		const value = places.at(-1);
		const groups = new Map<string, typeof all>();
		for (const message of all) {
			const key = places
				.filter((place) => place !== value)
				.map((place) => message.bytes[place])
				.join(' ');
			const group = groups.get(key);
			if (group) group.push(message);
			else groups.set(key, [message]);
		}
		return [...groups.values()].map((messages) => ({
			changing: value === undefined ? [] : [value, ...places.filter((place) => place !== value)],
			messages: messages.length,
			first: messages[0].at,
			values: messages.map(({ at, atMs, bytes }) => ({
				at,
				atMs,
				value: value === undefined ? 0 : bytes[value]
			}))
		}));
	});
}
