import { backupCandidates } from '$lib/server/snapshots';

/** What is known of every device before a backup, in each world: the line says on the page where it goes. */
export async function load({ locals }) {
	const bench = await backupCandidates(locals.studio, 'bench');
	const hardware = await backupCandidates(locals.studio, 'hardware');
	return {
		places: bench.places,
		candidates: { bench: bench.candidates, hardware: hardware.candidates }
	};
}
