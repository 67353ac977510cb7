import { floorSchema, followCalibrations, tellLines, type Floor, type ToldLine } from '../core/pedal';
import { paperServices, takeOrderOf, type Paper, type PaperKind } from './papers';

export const FLOOR: PaperKind<Floor> = {
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

export const {
	document: floorDocument,
	get: getFloor,
	edit: editFloor,
	move: moveFloor,
	take: takeFloor
} = paperServices(
	FLOOR,
	(_, open): OpenFloor => ({ ...open, lines: tellLines(open.document) }),
	'A floor from a file'
);

export const takeFloorSchema = takeOrderOf(floorSchema);
