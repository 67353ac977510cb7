import type { Profile } from '../../profile';
import { wireMs } from '../../midi';
import { slotsInScope, type Scope } from '../scope';
import { captureCost, planCapture } from '../asks';

/** A past capture of the same device: what it was predicted to take, and what it took, in ms. */
export interface Past {
	predictedMs: number;
	tookMs: number;
}

/** Identity request and reply, and the device's time to think. */
const IDENTITY_MS = wireMs(6 + 15) + 10;
/** How long somebody needs to walk to a device and press its dump button. */
const HANDS_MS = 15_000;
/** Of the past, this many captures count. */
const REMEMBERED = 7;

/** Time that the wire and the profile's pauses need for a capture, in ms; hands aside. */
export function wireTime(profile: Profile, scope: Scope): number {
	const { asks } = planCapture(profile, slotsInScope(profile, scope));
	return captureCost(asks).ms + (profile.identity.answers ? IDENTITY_MS : 0);
}

const median = (values: number[]): number => {
	const sorted = values.toSorted((a, b) => a - b);
	const half = sorted.length >> 1;
	return sorted.length % 2 ? sorted[half] : (sorted[half - 1] + sorted[half]) / 2;
};

/**
 * How long a capture will take, in ms: the wire's time, corrected by how this device's own captures went against
 * what was predicted (the median of the last seven ratios).
 */
export function predictCapture(
	profile: Profile,
	scope: Scope,
	past: readonly Past[],
	hands: boolean
): number {
	const wire = wireTime(profile, scope);
	const ratios = past
		.filter(({ predictedMs, tookMs }) => predictedMs > 0 && tookMs > 0)
		.slice(-REMEMBERED)
		.map(({ predictedMs, tookMs }) => tookMs / predictedMs);
	// Past captures include the waiting for hands.
	return ratios.length > 0 ? wire * median(ratios) : wire + (hands ? HANDS_MS : 0);
}
