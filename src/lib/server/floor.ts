import type { z } from 'zod';
import { floorSchema, followCalibrations, tellLines, type Floor, type ToldLine } from '../core/pedal';
import type { Studio } from './db/connection';
import type { EditOrder, MoveOrder } from './edit-orders';
import { editPaper, getPaper, movePaper, takeOrderOf, takePaper, type Paper, type PaperKind } from './papers';

const FLOOR: PaperKind<Floor> = {
	kind: 'floor',
	a: 'a floor',
	schema: floorSchema,
	empty: floorSchema.parse({}),
	follow: (before, after, at) => followCalibrations(before, after, at)
};

/** The floor, with what each of its lines comes to. */
export interface OpenFloor extends Paper<Floor> {
	lines: ToldLine[];
}

const told = async (paper: Promise<Paper<Floor>>): Promise<OpenFloor> => {
	const open = await paper;
	return { ...open, lines: tellLines(open.document) };
};

/** The document alone, without what is to be said of it. */
export const floorDocument = async (studio: Studio): Promise<Floor> =>
	(await getPaper(studio, FLOOR)).document;

export const getFloor = (studio: Studio): Promise<OpenFloor> => told(getPaper(studio, FLOOR));

/** @throws Problem `floor.conflict`, `floor.invalid` */
export const editFloor = (studio: Studio, order: EditOrder): Promise<OpenFloor> =>
	told(editPaper(studio, FLOOR, order));

/** @throws Problem `floor.step.conflict` */
export const moveFloor = (studio: Studio, order: MoveOrder): Promise<OpenFloor> =>
	told(movePaper(studio, FLOOR, order));

export const takeFloorSchema = takeOrderOf(floorSchema);

/** @throws Problem `floor.conflict` */
export const takeFloor = (studio: Studio, order: z.infer<typeof takeFloorSchema>): Promise<OpenFloor> =>
	told(takePaper(studio, FLOOR, order, 'A floor from a file'));
