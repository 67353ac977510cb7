import { planBackup, type BackupPlan } from '../core/transfer';
import type { LiveWorld } from '../core/drawer';
import { linesOf, type Candidate } from '../core/rig';
import { midiDesk } from './midi-desk.svelte';

/** Plans a backup of everything that can be backed up in this world; what cannot be is named with the reason. */
export function planStudio(
	candidates: readonly Candidate[],
	places: readonly string[],
	world: LiveWorld,
	here = ''
): BackupPlan {
	return planBackup(
		candidates.map(({ device, profile, in: back, out, past, torn }) => ({
			id: device.id,
			name: device.name,
			place: device.place,
			profile,
			past,
			torn,
			ports:
				world === 'bench'
					? device.benchUnit !== null
						? [back?.name ?? `Bench, ${device.name}`]
						: null
					: out && back && midiDesk.knows(back.port, 'in') && midiDesk.knows(out.port, 'out')
						? linesOf({ out, in: back })
						: null
		})),
		places,
		here
	);
}
