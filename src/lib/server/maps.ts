import type { Transaction } from 'sequelize';
import { z } from 'zod';
import {
	applyEdits,
	checkMap,
	emptyMap,
	followFirst,
	inverseEdits,
	lostWalks,
	mapSchema,
	readTable,
	stampWalks,
	walkedWords,
	walksOf,
	type ControlMap,
	type Edit,
	type Walks
} from '../core/control';
import { Problem } from '../core/problem';
import { faultPath, unknownFields } from '../core/reading';
import type { Studio } from './db/connection';
import { newId } from './new-id';
import {
	addMapStep,
	insertMap,
	mapRow,
	mapRows,
	markMapStep,
	markRemoved,
	nextMapStep,
	putDocument,
	type KeptMap,
	type MapStepName
} from './store/maps';
import { shippedSurface } from './surfaces';

/** A new map: of a surface with nothing on it, or one that somebody has kept in a file. */
export const newMapSchema = z.discriminatedUnion('from', [
	z.object({
		from: z.literal('surface'),
		name: z.string().trim().min(1).max(80),
		surface: z.string().min(1).max(60)
	}),
	z.object({ from: z.literal('document'), document: mapSchema })
]);

const keySchema = z.union([
	z
		.string()
		.min(1)
		.max(60)
		.refine((key) => key !== '__proto__', { message: 'That is no field.' }),
	z.number().int().min(0).max(4000)
]);
/** Edits of a map that are one step, made on the revision that they were thought of. */
export const editMapSchema = z.object({
	revision: z.number().int().min(1),
	says: z.string().trim().min(1).max(200),
	edits: z
		.array(z.object({ path: z.array(keySchema).min(1).max(8), value: z.unknown().optional() }))
		.min(1)
		.max(500)
});
export type EditMap = z.infer<typeof editMapSchema>;

/** A map as a CSV, made on the revision that it was exported from or that is known. */
export const tableMapSchema = z.object({
	revision: z.number().int().min(1),
	text: z.string().max(4_000_000)
});

/** A move through the steps of a map, from the one that the page showed as the next. */
export const moveMapSchema = z.object({ move: z.enum(['undo', 'redo']), step: z.number().int().min(1) });

export interface OpenMap extends KeptMap {
	steps: { undo: MapStepName | null; redo: MapStepName | null };
}

/** A map in a list. */
export interface MapLine {
	id: string;
	name: string;
	surface: string;
	walks: Walks;
	/** The same in words. */
	walked: string;
	/** Errors and warnings. */
	troubles: number;
	updatedAt: string;
}

const gone = () =>
	new Problem('map.not-found', 'There is no such map.', 'It may have been taken away: see the list of maps.');

async function kept(studio: Studio, id: string, transaction?: Transaction): Promise<KeptMap> {
	const found = await mapRow(studio, id, transaction);
	if (!found || found.removedAt !== null) throw gone();
	return found;
}

export async function listMaps(studio: Studio): Promise<MapLine[]> {
	return (await mapRows(studio)).map(({ id, document, updatedAt }) => ({
		id,
		name: document.name,
		surface: `${document.surface.maker} ${document.surface.model}`.trim(),
		walks: walksOf(document),
		walked: walkedWords(walksOf(document)),
		troubles: checkMap(document).filter(({ severity }) => severity !== 'note').length,
		updatedAt
	}));
}

/** @returns its id. @throws Problem `surface.not-found` */
export async function createMap(
	studio: Studio,
	order: z.infer<typeof newMapSchema>
): Promise<{ id: string }> {
	const document =
		order.from === 'document' ? order.document : emptyMap(shippedSurface(order.surface), order.name);
	const [id, at] = [newId(), studio.now().toISOString()];
	await studio.write((transaction) =>
		insertMap(
			studio,
			{ id, document, revision: 1, createdAt: at, updatedAt: at, removedAt: null },
			transaction
		)
	);
	return { id };
}

const nameOf = ({ id, says }: MapStepName): MapStepName => ({ id, says });

async function opened(studio: Studio, id: string, transaction?: Transaction): Promise<OpenMap> {
	const [map, undo, redo] = [
		await kept(studio, id, transaction),
		await nextMapStep(studio, id, 'undo', transaction),
		await nextMapStep(studio, id, 'redo', transaction)
	];
	return { ...map, steps: { undo: undo && nameOf(undo), redo: redo && nameOf(redo) } };
}

/** @throws Problem `map.not-found` */
export const getMap = (studio: Studio, id: string): Promise<OpenMap> => opened(studio, id);

/** The map that edits make. @throws Problem `map.invalid` where that is no map */
function made(map: ControlMap, edits: readonly Edit[]): ControlMap {
	let edited: unknown;
	try {
		edited = applyEdits(map, edits);
	} catch {
		// A path through something that holds nothing.
		throw new Problem('map.invalid', 'These edits do not fit the map.', 'Look at it as it is now.');
	}
	const read = mapSchema.safeParse(edited);
	if (read.success) {
		const [unknown] = unknownFields(edited, read.data);
		if (unknown === undefined) return read.data;
		throw new Problem('map.invalid', `A map has no field ${unknown}.`, 'Nothing was changed.');
	}
	const [issue] = read.error.issues;
	throw new Problem(
		'map.invalid',
		`That would be no map: ${faultPath(issue.path)}: ${issue.message}.`,
		'Nothing was changed.'
	);
}

/**
 * Makes edits as one step that can be undone. Copies of what they change follow; pages that change count as walked no more.
 * @throws Problem `map.not-found`, `map.conflict` where somebody else was quicker, `map.invalid`
 */
export async function editMap(
	studio: Studio,
	id: string,
	{ revision, says, edits }: Omit<EditMap, 'edits'> & { edits: readonly Edit[] }
): Promise<OpenMap> {
	return studio.write(async (transaction) => {
		const now = await kept(studio, id, transaction);
		if (now.revision !== revision)
			throw new Problem(
				'map.conflict',
				'This map was changed elsewhere meanwhile.',
				'It is shown as it is now; do it again if it still fits.'
			);
		const asked = made(now.document, edits);
		const follow = followFirst(now.document, asked);
		const edited = applyEdits(asked, follow);
		const at = studio.now().toISOString();
		const lost = lostWalks(now.document, edited);
		const stamp = stampWalks(now.document, applyEdits(edited, lost), at);
		const all = [...edits, ...follow, ...lost, ...stamp];
		const step = { mapId: id, at, says, edits: all, undo: inverseEdits(now.document, all) };
		await addMapStep(studio, step, transaction);
		await putDocument(
			studio,
			{ id, document: applyEdits(edited, [...lost, ...stamp]), updatedAt: at },
			transaction
		);
		return opened(studio, id, transaction);
	});
}

/**
 * Undoes the last step of a map, or makes it again.
 * @throws Problem `map.not-found`, `map.step.conflict` where that is not the next step any more
 */
export async function moveMap(
	studio: Studio,
	id: string,
	{ move, step }: z.infer<typeof moveMapSchema>
): Promise<OpenMap> {
	return studio.write(async (transaction) => {
		const now = await kept(studio, id, transaction);
		const next = await nextMapStep(studio, id, move, transaction);
		if (next?.id !== step)
			throw new Problem(
				'map.step.conflict',
				`Something else would be ${move === 'undo' ? 'undone' : 'redone'} now.`,
				'It is shown as it is now; do it again if it still fits.'
			);
		const document = made(now.document, move === 'undo' ? next.undo : next.edits);
		await putDocument(studio, { id, document, updatedAt: studio.now().toISOString() }, transaction);
		await markMapStep(studio, next.id, move === 'undo', transaction);
		return opened(studio, id, transaction);
	});
}

/**
 * Makes a map say what a table does, as one step.
 * @throws Problem `map.table` with every faulty cell, and as {@link editMap}
 */
export async function tableMap(
	studio: Studio,
	id: string,
	{ revision, text }: z.infer<typeof tableMapSchema>
): Promise<OpenMap> {
	const { document } = await kept(studio, id);
	const read = readTable(document, text);
	if ('edits' in read) return editMap(studio, id, { revision, says: 'As a table has it', edits: read.edits });
	const [{ line, column, says }] = read.faults;
	throw new Problem(
		'map.table',
		`Line ${line}, ${column}: ${says}${read.faults.length > 1 ? ` And ${read.faults.length - 1} more.` : ''}`,
		'Correct the cells that are named; nothing was changed.',
		{ faults: read.faults }
	);
}

/** Takes a map away; it can be brought back. @throws Problem `map.not-found` */
export async function removeMap(studio: Studio, id: string): Promise<void> {
	await studio.write(async (transaction) => {
		await kept(studio, id, transaction);
		await markRemoved(studio, id, studio.now().toISOString(), transaction);
	});
}

/** Brings a map back. @throws Problem `map.not-found` */
export async function bringMapBack(studio: Studio, id: string): Promise<void> {
	await studio.write(async (transaction) => {
		if (!(await mapRow(studio, id, transaction))) throw gone();
		await markRemoved(studio, id, null, transaction);
	});
}
