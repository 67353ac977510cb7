import type { Transaction } from 'sequelize';
import { z } from 'zod';
import { editsInto, inverseEdits, type Edit } from '../core/edit';
import type { Studio } from './db/connection';
import { stored } from './store/sql';
import { madeBy, movedTo, onRevision, type Editable, type EditOrder, type MoveOrder } from './edit-orders';
import { paperRevision, paperRow, putPaper } from './store/papers';
import { addStep, markStep, nextStep, nextSteps, type NextSteps } from './store/steps';

/** A kind of paper: what a studio has one of, from the start on. */
export interface PaperKind<T> extends Editable<T> {
	empty: T;
	/** What else changes with a change, as part of the same step. `at`: now, by the server's clock. */
	follow?: (before: T, after: T, at: string) => Edit[];
}

export interface Paper<T> {
	document: T;
	/** 0 where nothing was ever written. */
	revision: number;
	updatedAt: string | null;
	steps: NextSteps;
}

async function opened<T>(studio: Studio, paper: PaperKind<T>, transaction?: Transaction): Promise<Paper<T>> {
	const row = await paperRow(studio, paper.kind, transaction);
	return {
		revision: row?.revision ?? 0,
		updatedAt: row?.updatedAt ?? null,
		document: row ? stored(paper.schema, row.document) : paper.empty,
		steps: await nextSteps(studio, paper.kind, transaction)
	};
}

export const getPaper = <T>(studio: Studio, paper: PaperKind<T>): Promise<Paper<T>> => opened(studio, paper);

/** Documents that were read, by kind: nobody changes one in place, and every change of a paper is a revision. */
const read = new WeakMap<Studio, Map<string, { revision: number; document: unknown }>>();

/** The document alone: read again only once it has changed. */
async function documentOf<T>(studio: Studio, { kind, schema, empty }: PaperKind<T>): Promise<T> {
	let own = read.get(studio);
	if (!own) read.set(studio, (own = new Map()));
	const known = own.get(kind);
	if (known?.revision === (await paperRevision(studio, kind))) return known.document as T;
	const row = await paperRow(studio, kind);
	const document = row ? stored(schema, row.document) : empty;
	own.set(kind, { revision: row?.revision ?? 0, document });
	return document;
}

/**
 * Makes edits of a paper as one step that can be undone.
 * @throws Problem `KIND.conflict` where somebody else was quicker, `KIND.invalid`
 */
export const editPaper = <T>(studio: Studio, paper: PaperKind<T>, order: EditOrder): Promise<Paper<T>> =>
	studio.write((transaction) =>
		editPaperIn(studio, paper, transaction, (now) => {
			onRevision(paper, now.revision, order.revision);
			return order;
		})
	);

/** As `editPaper`, as part of what else is written: edits thought of on the paper as it is then; none where it stays. */
export async function editPaperIn<T>(
	studio: Studio,
	paper: PaperKind<T>,
	transaction: Transaction,
	think: (now: Paper<T>) => Pick<EditOrder, 'says' | 'edits'>
): Promise<Paper<T>> {
	const now = await opened(studio, paper, transaction);
	const { says, edits } = think(now);
	if (edits.length === 0) return now;
	const at = studio.now().toISOString();
	const asked = madeBy(paper, now.document, edits);
	const all = [...edits, ...(paper.follow?.(now.document, asked, at) ?? [])];
	const document = madeBy(paper, now.document, all);
	const undo = inverseEdits(now.document, all);
	await addStep(studio, { owner: paper.kind, at, says, edits: all, undo }, transaction);
	await putPaper(studio, { kind: paper.kind, document, updatedAt: at }, transaction);
	return opened(studio, paper, transaction);
}

/** Undoes the last step of a paper, or makes it again. @throws Problem `KIND.step.conflict` */
export const movePaper = <T>(studio: Studio, paper: PaperKind<T>, order: MoveOrder): Promise<Paper<T>> =>
	studio.write(async (transaction) => {
		const now = await opened(studio, paper, transaction);
		const next = movedTo(paper, await nextStep(studio, paper.kind, order.move, transaction), order);
		const back = order.move === 'undo';
		const document = madeBy(paper, now.document, back ? next.undo : next.edits);
		await putPaper(
			studio,
			{ kind: paper.kind, document, updatedAt: studio.now().toISOString() },
			transaction
		);
		await markStep(studio, next.id, back, transaction);
		return opened(studio, paper, transaction);
	});

/** A paper from a file, put in the place of the one that there is, on the revision that is known. */
export const takeOrderOf = <T>(schema: z.ZodType<T>) =>
	z.object({ revision: z.number().int().min(0), document: schema });

/** Takes a paper over from a file as one step, which can be undone. @throws Problem `KIND.conflict` */
export const takePaper = <T extends object>(
	studio: Studio,
	paper: PaperKind<T>,
	{ revision, document }: { revision: number; document: T },
	says: string
): Promise<Paper<T>> =>
	editPaper(studio, paper, {
		revision,
		says,
		edits: editsInto({}, document)
	});

/**
 * What is done with a kind of paper whose pages are told more than the document.
 * @param tell what is said of it besides
 * @param taken how the step is called that takes one from a file
 * @throws Problem `KIND.conflict`, `KIND.invalid` where it is edited or taken, `KIND.step.conflict` where it is moved
 */
export function paperServices<T extends object, Told>(
	paper: PaperKind<T>,
	tell: (studio: Studio, paper: Paper<T>) => Told | Promise<Told>,
	taken: string
) {
	const told = async (studio: Studio, work: Promise<Paper<T>>): Promise<Told> => tell(studio, await work);
	return {
		document: (studio: Studio) => documentOf(studio, paper),
		get: (studio: Studio) => told(studio, getPaper(studio, paper)),
		edit: (studio: Studio, order: EditOrder) => told(studio, editPaper(studio, paper, order)),
		move: (studio: Studio, order: MoveOrder) => told(studio, movePaper(studio, paper, order)),
		take: (studio: Studio, order: { revision: number; document: T }) =>
			told(studio, takePaper(studio, paper, order, taken))
	};
}
