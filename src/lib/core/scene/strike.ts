import type { Curve, Zone } from './setup';

/** Half of the way up is struck with this, for a curve that makes it easy or hard. */
const BEND: Record<Exclude<Curve, 'full'>, number> = { even: 1, soft: 0.6, hard: 1.7 };

const clamp = (value: number, low: number, high: number) => Math.min(high, Math.max(low, value));

/** What becomes of a key that is struck in a zone. */
export type Struck = { note: number; velocity: number } | { dropped: 'softer' | 'harder' | 'no such note' };

/**
 * The note that a zone makes of a key, and how hard it sounds; the key is one of its own.
 * @param velocity 1–127, as struck
 * @param expression 0–127, where the expression pedal of the player stands
 */
export function strike(zone: Zone, key: number, velocity: number, expression: number): Struck {
	const [least, most] = zone.struck;
	if (velocity < least) return { dropped: 'softer' };
	if (velocity > most) return { dropped: 'harder' };
	const note = key + 12 * zone.octaves + zone.semitones;
	if (note < 0 || note > 127) return { dropped: 'no such note' };
	let hard = zone.curve === 'full' ? 127 : 127 * (velocity / 127) ** BEND[zone.curve];
	// Between nothing outside and all of it inside: two zones whose fades lie over one another are a crossfade.
	if (velocity - least < zone.fadeIn) hard *= (velocity - least + 1) / (zone.fadeIn + 1);
	if (most - velocity < zone.fadeOut) hard *= (most - velocity + 1) / (zone.fadeOut + 1);
	hard *= zone.strength / 100;
	if (zone.expression === 'velocity') hard *= expression / 127;
	// A floor above the ceiling: the ceiling holds.
	const within = Math.min(zone.ceiling, Math.max(zone.floor, Math.round(hard)));
	return { note, velocity: clamp(within, 1, 127) };
}
