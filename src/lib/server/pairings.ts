import { z } from 'zod';
import { Problem } from '../core/problem';
import { pairingsSchema, readPairingTable, type Pairings } from '../core/pairing';
import type { Studio } from './db/connection';
import type { EditOrder, MoveOrder } from './edit-orders';
import { editPaper, getPaper, movePaper, type Paper, type PaperKind } from './papers';

export const PAIRINGS: PaperKind<Pairings> = {
	kind: 'pairings',
	a: 'a list of pairings',
	schema: pairingsSchema,
	empty: pairingsSchema.parse({})
};

export const getPairings = (studio: Studio): Promise<Paper<Pairings>> => getPaper(studio, PAIRINGS);

/** @throws Problem `pairings.conflict`, `pairings.invalid` */
export const editPairings = (studio: Studio, order: EditOrder): Promise<Paper<Pairings>> =>
	editPaper(studio, PAIRINGS, order);

/** @throws Problem `pairings.step.conflict` */
export const movePairings = (studio: Studio, order: MoveOrder): Promise<Paper<Pairings>> =>
	movePaper(studio, PAIRINGS, order);

/** Pairings as CSV, added to what there is, on the revision that is known. */
export const addPairingsSchema = z.object({
	revision: z.number().int().min(0),
	text: z.string().max(4_000_000)
});

/**
 * Adds what a table says as one step: all of it, or nothing.
 * @throws Problem `pairings.table` with every faulty line, `pairings.conflict`
 */
export async function addPairings(
	studio: Studio,
	{ revision, text }: z.infer<typeof addPairingsSchema>
): Promise<Paper<Pairings>> {
	const { document } = await getPairings(studio);
	const { records, faults } = readPairingTable(text, new Set(document.records.map(({ id }) => id)));
	if (faults.length > 0)
		throw new Problem(
			'pairings.table',
			`Line ${faults[0].line}: ${faults[0].says}${faults.length > 1 ? ` And ${faults.length - 1} more.` : ''}`,
			'Correct the lines that are named; nothing was added.',
			{ faults }
		);
	if (records.length === 0)
		throw new Problem('pairings.table', 'The table holds no pairing.', 'Nothing was added.');
	return editPairings(studio, {
		revision,
		says: `${records.length} pairings from a table`,
		edits: [{ path: ['records'], value: [...document.records, ...records] }]
	});
}
