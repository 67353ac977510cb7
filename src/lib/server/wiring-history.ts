import type { Transaction } from 'sequelize';
import { z } from 'zod';
import { Problem } from '../core/problem';
import type { RigChange } from '../core/rig';
import type { Studio } from './db/connection';
import { changeRigIn, writeRigIn, type StudioRig } from './rig';
import { dropStep, markStep, nextSteps, stepRow, type StepName, type WiringStep } from './store/wiring-steps';

/** A move through the history of the wiring, from the step that the page showed as the next. */
export const moveSchema = z.object({
	move: z.enum(['undo', 'redo', 'leave-out']),
	step: z.number().int().min(1)
});
export type Move = z.infer<typeof moveSchema>;

export interface Moved extends StudioRig {
	/** The step that was undone, redone or left out. */
	says: string;
	undo: StepName | null;
	redo: StepName | null;
}

const late = (says: string) =>
	new Problem('rig.step.conflict', says, 'It is shown as it is now; do it again if it still fits.');

/** Makes a step's changes; what they are about may be gone. */
async function make(
	studio: Studio,
	step: WiringStep,
	changes: readonly RigChange[],
	transaction: Transaction
): Promise<StudioRig> {
	try {
		return await writeRigIn(studio, changes, transaction);
	} catch (thrown) {
		if (!(thrown instanceof Problem)) throw thrown;
		throw new Problem(
			'rig.step.gone.conflict',
			`“${step.says}” does not fit any more: ${thrown.message}`,
			'Bring back what it is about, or leave this step out to go on with those before it.',
			{ step: step.id }
		);
	}
}

/**
 * Undoes or redoes a step, or takes it out of the history. The last one is undone in its place; an older one as a change
 * of its own.
 * @throws Problem `rig.step.not-found`, `rig.step.conflict` where another tab was quicker, `rig.step.gone.conflict`
 *   where it does not fit the wiring any more
 */
export async function moveWiring(studio: Studio, { move, step: id }: Move): Promise<Moved> {
	return studio.write(async (transaction) => {
		const step = await stepRow(studio, id, transaction);
		if (!step)
			throw new Problem(
				'rig.step.not-found',
				'That step is not in the history of the wiring any more.',
				'What was done after it may still be undone.'
			);
		const next = await nextSteps(studio, transaction);
		let now: StudioRig;
		if (move === 'leave-out') {
			await dropStep(studio, id, transaction);
			now = await writeRigIn(studio, [], transaction);
		} else if (move === 'redo') {
			if (next.redo?.id !== id) throw late('Something else would be redone now.');
			now = await make(studio, step, step.changes, transaction);
			await markStep(studio, id, false, transaction);
		} else {
			if (step.undone) throw late('That was undone already.');
			if (next.undo?.id === id) {
				now = await make(studio, step, step.undo, transaction);
				await markStep(studio, id, true, transaction);
			} else now = await changeRigIn(studio, step.undo, transaction, `Undone: ${step.says}`);
		}
		return { ...now, says: step.says, ...(await nextSteps(studio, transaction)) };
	});
}
