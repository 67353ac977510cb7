import { partsPlayed } from './scene-change';
import type { Scene, ShowSet, Sound } from './set';

/** A sound of an instrument as a text, to look it up by. */
export const soundKey = (instrument: string, sound: Sound | null): string =>
	JSON.stringify([instrument, sound]);

/** The sounds that keys of a scene lead to, by `soundKey`. */
export const soundsPlayed = (set: ShowSet, scene: Scene): Set<string> =>
	new Set(partsPlayed(set, scene).map(({ instrument, sound }) => soundKey(instrument, sound)));
