import { canUpdate, firmwareUpdate, procedureSchema, type Procedure } from '../core/care';
import type { Device } from '../core/gear';
import { Problem } from '../core/problem';
import type { Studio } from './db/connection';
import { stored } from './store/sql';
import { forgottenBy } from './forgotten';
import { profileOrNull } from './profiles';
import { shippedDocuments } from './shipped';
import { markProcedureRemoved, procedureRow, procedureRows, putProcedure } from './store/procedures';

let shipped: Procedure[] | null = null;

/** The procedures that come with the app, read once. */
const shippedProcedures = (): Procedure[] =>
	(shipped ??= shippedDocuments('procedures').map((document) => procedureSchema.parse(document)));

export interface ListedProcedure {
	procedure: Procedure;
	/** Written here, or changed here from one that ships. */
	own: boolean;
	/** One of that id ships with the app, too. */
	ships: boolean;
}

/** Every procedure, the studio's own in the place of shipped ones of their id. */
export async function listProcedures(studio: Studio): Promise<ListedProcedure[]> {
	const own = (await procedureRows(studio)).map((document) => stored(procedureSchema, document));
	const ids = new Set(own.map(({ id }) => id));
	return [
		...own.map((procedure) => ({
			procedure,
			own: true,
			ships: shippedProcedures().some(({ id }) => id === procedure.id)
		})),
		...shippedProcedures()
			.filter(({ id }) => !ids.has(id))
			.map((procedure) => ({ procedure, own: false, ships: true }))
	].sort((a, b) => a.procedure.title.localeCompare(b.procedure.title));
}

/**
 * A procedure, as it is for a device: an update of a model whose loader its profile knows is that profile's, unless the studio
 * wrote one of its own.
 * @throws Problem `procedure.not-found`
 */
export async function getProcedure(
	studio: Studio,
	id: string,
	device: Device | null = null
): Promise<Procedure> {
	const found = (await listProcedures(studio)).find(({ procedure }) => procedure.id === id);
	if (!found)
		throw new Problem(
			'procedure.not-found',
			`There is no procedure “${id}”.`,
			'It may have been taken away in another tab: look at the list again.'
		);
	const profile = device && profileOrNull(studio, device.profileId);
	if (!found.own && id === 'firmware-update' && profile && canUpdate(profile))
		return firmwareUpdate(
			profile,
			forgottenBy(studio, device).map(({ says }) => says)
		);
	return found.procedure;
}

/** Keeps a procedure of the studio's own; one that ships stays, and comes back when this one is taken away. */
export async function saveProcedure(studio: Studio, json: unknown): Promise<Procedure> {
	const procedure = procedureSchema.parse(json);
	await putProcedure(studio, procedure.id, procedure, studio.now().toISOString());
	return procedure;
}

/** Takes a procedure of the studio's own away, or brings it back. @throws Problem `procedure.not-found` */
export async function removeProcedure(studio: Studio, id: string, back = false): Promise<void> {
	const row = await procedureRow(studio, id);
	if (!row || (row.removedAt === null) === back)
		throw new Problem(
			'procedure.not-found',
			`There is no procedure of your own “${id}”${back ? ' that was taken away' : ''}.`,
			'Those that come with the app stay.'
		);
	await markProcedureRemoved(studio, id, back ? null : studio.now().toISOString());
}
