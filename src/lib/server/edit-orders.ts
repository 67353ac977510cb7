import { z } from 'zod';
import { applyEdits, type Edit } from '../core/edit';
import { Problem } from '../core/problem';
import { faultPath, unknownFields } from '../core/reading';

const keySchema = z.union([
	z
		.string()
		.min(1)
		.max(60)
		.refine((key) => key !== '__proto__', { message: 'That is no field.' }),
	z.number().int().min(0).max(4000)
]);
/** Edits that are one step, made on the revision that they were thought of. */
export const editOrderSchema = z.object({
	revision: z.number().int().min(0),
	says: z.string().trim().min(1).max(200),
	edits: z
		.array(z.object({ path: z.array(keySchema).min(1).max(8), value: z.unknown().optional() }))
		.min(1)
		.max(500)
});
export type EditOrder = Omit<z.infer<typeof editOrderSchema>, 'edits'> & { edits: readonly Edit[] };

/** A move through steps, from the one that the page showed as the next. */
export const moveOrderSchema = z.object({
	move: z.enum(['undo', 'redo']),
	step: z.number().int().min(1)
});
export type MoveOrder = z.infer<typeof moveOrderSchema>;

/** Something that is edited in steps: its kind, the word for it with its article, and what it may be. */
export interface Editable<T> {
	kind: string;
	a: string;
	schema: z.ZodType<T>;
}

/** What edits make of a document. @throws Problem `KIND.invalid` where that is none of its kind */
export function madeBy<T>({ kind, a, schema }: Editable<T>, document: T, edits: readonly Edit[]): T {
	let edited: unknown;
	try {
		edited = applyEdits(document, edits);
	} catch {
		// A path through something that holds nothing.
		throw new Problem(`${kind}.invalid`, `These edits do not fit the ${kind}.`, 'Look at it as it is now.');
	}
	const read = schema.safeParse(edited);
	if (read.success) {
		const [unknown] = unknownFields(edited, read.data);
		if (unknown === undefined) return read.data;
		throw new Problem(
			`${kind}.invalid`,
			`${a[0].toUpperCase()}${a.slice(1)} has no field ${unknown}.`,
			'Nothing was changed.'
		);
	}
	const [issue] = read.error.issues;
	throw new Problem(
		`${kind}.invalid`,
		`That would be no ${kind}: ${faultPath(issue.path)}: ${issue.message}.`,
		'Nothing was changed.'
	);
}

/** @throws Problem `KIND.conflict` where somebody else was quicker */
export function onRevision({ kind }: Editable<unknown>, now: number, thought: number): void {
	if (now !== thought)
		throw new Problem(
			`${kind}.conflict`,
			`This ${kind} was changed elsewhere meanwhile.`,
			'It is shown as it is now; do it again if it still fits.'
		);
}

/** The step that a move means. @throws Problem `KIND.step.conflict` where that is not the next one any more */
export function movedTo<S extends { id: number }>(
	{ kind }: Editable<unknown>,
	next: S | null,
	{ move, step }: MoveOrder
): S {
	if (next?.id === step) return next;
	throw new Problem(
		`${kind}.step.conflict`,
		`Something else would be ${move === 'undo' ? 'undone' : 'redone'} now.`,
		'It is shown as it is now; do it again if it still fits.'
	);
}
