import type { Rig, RigChange } from '../../core/rig';
import { attempt } from '../attempt';
import { call } from '../../hardware/api';
import { notices } from '../notices.svelte';
import { refresh } from '../refresh';

interface Changed {
	rig: Rig;
	revision: number;
	undo: RigChange[];
}

/**
 * Makes changes to the studio's wiring and says so in the footer, with the way back.
 * @returns whether they were made; what went wrong is said in the footer, and nothing was changed then
 */
export async function changeRig(changes: RigChange[], says: string, revision?: number): Promise<boolean> {
	if (changes.length === 0) return true;
	const made = await attempt(async () => {
		const { undo } = await call<Changed>('POST', '/rig/changes', { changes, revision });
		notices.say(says, 'good', {
			title: 'Undo',
			run: () => changeRig(undo, `Undone: ${says}`)
		});
	});
	await refresh();
	return made;
}
