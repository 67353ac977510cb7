import { Problem } from '../../core/problem';
import type { RigChange } from '../../core/rig';
import { call } from '../../hardware/api';
import { attempt } from '../attempt';
import { notices } from '../notices.svelte';
import { refresh } from '../refresh';
import type { Undo } from '../way-back';
import { problemOf } from '../words';

/**
 * Makes changes to the studio's wiring and says so in the footer, with the way back.
 * @returns whether they were made; what went wrong is said in the footer, and nothing was changed then
 */
export async function changeRig(changes: RigChange[], says: string, revision?: number): Promise<boolean> {
	if (changes.length === 0) return true;
	const made = await attempt(async () => {
		const { step } = await call<{ step: number }>('POST', '/rig/changes', { changes, revision, says });
		notices.say(says, 'good', way('Undo', 'undo', step));
	});
	await refresh();
	return made;
}

/** What takes a step of the wiring's history back. */
const way = (title: string, move: keyof typeof SAYS, step: number): Undo => ({
	title,
	way: { by: 'wiring', move, step }
});

const SAYS = { undo: 'Undone', redo: 'Done again', 'leave-out': 'Left out of the history' };

/**
 * Undoes or redoes a step of the wiring, and says so in the footer with the way back. A step that does not fit any more
 * is offered to be left out, so that those before it can be undone.
 * @returns whether it worked
 */
export async function moveWiring(move: keyof typeof SAYS, step: number): Promise<boolean> {
	try {
		const { says, redo, undo } = await call<{
			says: string;
			undo: { id: number } | null;
			redo: { id: number } | null;
		}>('POST', '/rig/moves', { move, step });
		// An older step that is undone is a step of its own, which is undone in its turn.
		const back =
			move === 'leave-out'
				? undefined
				: redo?.id === step
					? way('Redo', 'redo', step)
					: undo && way('Undo', 'undo', undo.id);
		notices.say(`${SAYS[move]}: ${says}`, 'good', back ?? undefined);
		return true;
	} catch (error) {
		const { message, remedy } = problemOf(error);
		const stuck = error instanceof Problem && error.code === 'rig.step.gone.conflict';
		notices.say(`${message} ${remedy}`, 'bad', stuck ? way('Leave it out', 'leave-out', step) : undefined);
		return false;
	} finally {
		await refresh();
	}
}
