import { describeWith, isMatch, matchAny, type Profile } from '../core/profile';
import type { Passed } from '../hardware/traffic.svelte';

export const MONITOR_KINDS = {
	notes: 'Notes',
	control: 'Controllers and programs',
	clock: 'Clock and real time',
	exclusive: 'System exclusive',
	other: 'Other'
} as const;
export type MonitorKind = keyof typeof MONITOR_KINDS;

/** What kind of message it is, for the filter. */
export function kindOf(bytes: Uint8Array): MonitorKind {
	const [status] = bytes;
	if (status === 0xf0) return 'exclusive';
	if (status >= 0xf8) return 'clock';
	const high = status & 0xf0;
	if (high === 0x80 || high === 0x90 || high === 0xa0) return 'notes';
	if (high === 0xb0 || high === 0xc0 || high === 0xd0 || high === 0xe0) return 'control';
	return 'other';
}

const known = new WeakMap<Uint8Array, string>();

/** What a message means, by the profile that knows it. */
export function meaning(profiles: readonly Profile[], bytes: Uint8Array): string {
	let says = known.get(bytes);
	if (says === undefined) {
		const profile =
			bytes[0] === 0xf0 ? (profiles.find((candidate) => isMatch(matchAny(candidate, bytes))) ?? null) : null;
		const words = describeWith(profile, bytes);
		says = profile ? `${profile.model}: ${words}` : words;
		known.set(bytes, says);
	}
	return says;
}

/** Messages and bytes of each port over the last second of `passed` (oldest first). */
export function ratesOf(
	passed: readonly Passed[],
	nowMs: number
): { port: string; messages: number; bytes: number }[] {
	const rates = new Map<string, { port: string; messages: number; bytes: number }>();
	for (let i = passed.length - 1; i >= 0 && passed[i].atMs > nowMs - 1000; i--) {
		const { port, bytes } = passed[i];
		const rate = rates.get(port) ?? { port, messages: 0, bytes: 0 };
		rate.messages++;
		rate.bytes += bytes.length;
		rates.set(port, rate);
	}
	return [...rates.values()].sort((a, b) => a.port.localeCompare(b.port));
}
