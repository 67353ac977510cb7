import type { Edit } from '../edit';
import type { LoadAsked } from './show-loads';

/** Something that a show needs and that is not there, not known, or to be done by hand. */
export interface ReadyItem {
	/** `missing`: the show will be wrong; `unknown`: nobody has shown it; `look`: perhaps not meant so; `hand`: a hand does it in time. */
	kind: 'missing' | 'unknown' | 'look' | 'hand';
	/** Scenes that it is about, by number. */
	scenes: number[];
	says: string;
	/** What does away with it, in one step: edits, or sounds to load; without either, what a hand does. */
	cure: { says: string; edits: Edit[]; load?: LoadAsked };
}
