import type { Transaction } from 'sequelize';
import { z } from 'zod';
import {
	checkMap,
	emptyMap,
	followFirst,
	lostWalks,
	mapSchema,
	readTable,
	stampWalks,
	walkedWords,
	walksOf,
	type ControlMap,
	type Walks
} from '../core/control';
import { applyEdits, inverseEdits } from '../core/edit';
import { Problem } from '../core/problem';
import type { Studio } from './db/connection';
import { madeBy, movedTo, onRevision, type Editable, type EditOrder, type MoveOrder } from './edit-orders';
import { newId } from './new-id';
import { insertMap, mapRow, mapRows, markRemoved, putDocument, type KeptMap } from './store/maps';
import { addStep, markStep, nextStep, nextSteps, type NextSteps } from './store/steps';
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

/** A map as a CSV, made on the revision that it was exported from or that is known. */
export const tableMapSchema = z.object({
	revision: z.number().int().min(1),
	text: z.string().max(4_000_000)
});

const MAP: Editable<ControlMap> = { kind: 'map', a: 'a map', schema: mapSchema };

export interface OpenMap extends KeptMap {
	steps: NextSteps;
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

async function opened(studio: Studio, id: string, transaction?: Transaction): Promise<OpenMap> {
	return { ...(await kept(studio, id, transaction)), steps: await nextSteps(studio, id, transaction) };
}

/** @throws Problem `map.not-found` */
export const getMap = (studio: Studio, id: string): Promise<OpenMap> => opened(studio, id);

/**
 * Makes edits as one step that can be undone. Copies of what they change follow; pages that change count as walked no more.
 * @throws Problem `map.not-found`, `map.conflict` where somebody else was quicker, `map.invalid`
 */
export async function editMap(
	studio: Studio,
	id: string,
	{ revision, says, edits }: EditOrder
): Promise<OpenMap> {
	return studio.write(async (transaction) => {
		const now = await kept(studio, id, transaction);
		onRevision(MAP, now.revision, revision);
		const asked = madeBy(MAP, now.document, edits);
		const follow = followFirst(now.document, asked);
		const edited = applyEdits(asked, follow);
		const at = studio.now().toISOString();
		const lost = lostWalks(now.document, edited);
		const stamp = stampWalks(now.document, applyEdits(edited, lost), at);
		const all = [...edits, ...follow, ...lost, ...stamp];
		const step = { owner: id, at, says, edits: all, undo: inverseEdits(now.document, all) };
		await addStep(studio, step, transaction);
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
export async function moveMap(studio: Studio, id: string, order: MoveOrder): Promise<OpenMap> {
	return studio.write(async (transaction) => {
		const now = await kept(studio, id, transaction);
		const next = movedTo(MAP, await nextStep(studio, id, order.move, transaction), order);
		const back = order.move === 'undo';
		const document = madeBy(MAP, now.document, back ? next.undo : next.edits);
		await putDocument(studio, { id, document, updatedAt: studio.now().toISOString() }, transaction);
		await markStep(studio, next.id, back, transaction);
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
