import { z } from 'zod';
import { checkPower, powerSchema, type Power, type PowerFinding } from '../core/power';
import { paperServices, takeOrderOf, type Paper, type PaperKind } from './papers';

export const POWER: PaperKind<Power> = {
	kind: 'power',
	a: 'a power plan',
	schema: powerSchema,
	empty: powerSchema.parse({})
};

/** What draws and what feeds, with what is wrong with it. */
export interface OpenPower extends Paper<Power> {
	findings: PowerFinding[];
}

export const {
	document: powerDocument,
	get: getPower,
	edit: editPower,
	move: movePower,
	take: takePower
} = paperServices(
	POWER,
	(_, open): OpenPower => ({ ...open, findings: checkPower(open.document) }),
	'Power from a file'
);

export const takePowerSchema = takeOrderOf(powerSchema);

/** A power file to be planned, and for how long. */
export const planPowerSchema = z.object({
	power: powerSchema,
	seconds: z.number().min(0.1).max(300).default(20)
});
