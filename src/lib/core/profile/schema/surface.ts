import { z } from 'zod';
import { id } from './common';

/** What a cell of a controller's template can tell, and how: as maps call it. */
export const CELL_KINDS = [
	'off',
	'cc',
	'cc-14',
	'rpn',
	'nrpn',
	'note',
	'program-change',
	'pitch-bend',
	'channel-pressure',
	/** Nothing is sent while it is held. */
	'rest'
] as const;
export const CELL_WAYS = [
	'absolute',
	'relative twos-complement',
	'relative sign-bit',
	'relative offset-64',
	'momentary',
	'toggle',
	'value'
] as const;
/** Fields of a cell: parameters whose ids are the cell's, a hyphen, and one of these. */
export const CELL_FIELDS = ['kind', 'way', 'channel', 'number', 'low', 'high'] as const;

/** A controller's templates: how the records of an area say what its controls do. */
export const surface = z.strictObject({
	/** The body, a `silent-drawer.surface`, by its id. */
	body: z.string().min(1).max(60),
	area: id,
	/** What the raw values of the field `kind` stand for, from the lowest; the same for `way`. */
	kinds: z.array(z.enum(CELL_KINDS)).min(1),
	ways: z.array(z.enum(CELL_WAYS)).min(1),
	/** One for each gesture that a template can say something of. A field `quick` says what a notch counts at its quickest, a text `text` what its display shows. */
	/** The parameter that says for all cells what a notch counts at its quickest, where one setting is for all. */
	quick: id.optional(),
	/**
	 * Where a slot holds all pages at once: what stands before a cell's id, for each of them in their order. Left out, a slot
	 * is one page.
	 */
	pages: z.array(id).min(1).max(128).optional(),
	cells: z
		.array(z.strictObject({ cell: id, control: z.string().min(1).max(60), gesture: z.string().max(20) }))
		.min(1)
		.max(1000)
});

export type SurfaceMemory = z.infer<typeof surface>;
