import { z } from 'zod';
import { checkPower, powerSchema, type Power, type PowerFinding } from '../core/power';
import type { Studio } from './db/connection';
import type { EditOrder, MoveOrder } from './edit-orders';
import { editPaper, getPaper, movePaper, takeOrderOf, takePaper, type Paper, type PaperKind } from './papers';

const POWER: PaperKind<Power> = {
	kind: 'power',
	a: 'a power plan',
	schema: powerSchema,
	empty: powerSchema.parse({})
};

/** What draws and what feeds, with what is wrong with it. */
export interface OpenPower extends Paper<Power> {
	findings: PowerFinding[];
}

const told = async (paper: Promise<Paper<Power>>): Promise<OpenPower> => {
	const open = await paper;
	return { ...open, findings: checkPower(open.document) };
};

/** The document alone, without what is to be said of it. */
export const powerDocument = async (studio: Studio): Promise<Power> =>
	(await getPaper(studio, POWER)).document;

export const getPower = (studio: Studio): Promise<OpenPower> => told(getPaper(studio, POWER));

/** @throws Problem `power.conflict`, `power.invalid` */
export const editPower = (studio: Studio, order: EditOrder): Promise<OpenPower> =>
	told(editPaper(studio, POWER, order));

/** @throws Problem `power.step.conflict` */
export const movePower = (studio: Studio, order: MoveOrder): Promise<OpenPower> =>
	told(movePaper(studio, POWER, order));

export const takePowerSchema = takeOrderOf(powerSchema);

/** A power file to be planned, and for how long. */
export const planPowerSchema = z.object({
	power: powerSchema,
	seconds: z.number().min(0.1).max(300).default(20)
});

/** @throws Problem `power.conflict` */
export const takePower = (studio: Studio, order: z.infer<typeof takePowerSchema>): Promise<OpenPower> =>
	told(takePaper(studio, POWER, order, 'Power from a file'));
