import type { World } from './knowledge';

/** Why a version was taken. */
export const VERSION_KINDS = {
	routine: 'Routine backup',
	safety: 'Safety copy',
	'before update': 'Before an update',
	'after restore': 'After a restore',
	unfinished: 'Kept unfinished',
	imported: 'Imported'
} as const;

export type VersionKind = keyof typeof VERSION_KINDS;

/** Of which world it is, in words, where that is not the studio's own. */
export const WORLD_WORDS: Record<World, string> = {
	bench: 'Bench (simulated)',
	hardware: 'Hardware',
	file: 'File',
	unrecorded: 'From before the app noted bench or hardware'
};
