import { applyEdits, type Edit } from '../edit';
import { sceneNumbered, type Scene, type ShowSet } from './set';

/** A change of the set as its history has it. */
export interface PastStep {
	/** When it was made, ISO 8601. */
	at: string;
	says: string;
	/** What takes it back. */
	undo: Edit[];
}

/** What a scene held once. */
export interface EarlierScene {
	scene: Scene;
	/** Until when, ISO 8601, and the change that ended it. */
	until: string;
	ended: string;
}

/** The most that is told of one scene. */
const MOST = 30;

/**
 * What the scene of a number held before, the latest first; nothing of what it holds now.
 * @param steps changes of the set, the latest first
 */
export function earlierScenes(now: ShowSet, steps: readonly PastStep[], number: number): EarlierScene[] {
	const found: EarlierScene[] = [];
	let document = now;
	let last = JSON.stringify(sceneNumbered(now, number));
	const told = new Set([last]);
	for (const { at, says, undo } of steps) {
		if (found.length === MOST) break;
		document = applyEdits(document, undo);
		const scene = sceneNumbered(document, number);
		const content = JSON.stringify(scene);
		if (scene && content !== last && !told.has(content)) {
			told.add(content);
			found.push({ scene, until: at, ended: says });
		}
		last = content;
	}
	return found;
}
