import { deviceSchema, type DeviceFacts } from './device';

/** A fact that two people changed, each to something else. */
export interface FactConflict {
	field: keyof DeviceFacts;
	mine: unknown;
	theirs: unknown;
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/**
 * Brings together what two changed of one device since both saw `was`: what only one of them changed is as they left it.
 * @returns the facts, and those on which they differ; of these the facts are as `theirs`
 */
export function mergeFacts(
	was: DeviceFacts,
	mine: DeviceFacts,
	theirs: DeviceFacts
): { facts: DeviceFacts; conflicts: FactConflict[] } {
	const conflicts: FactConflict[] = [];
	const facts: Record<string, unknown> = {};
	for (const field of Object.keys(deviceSchema.shape) as (keyof DeviceFacts)[]) {
		const [before, my, their] = [was[field], mine[field], theirs[field]];
		facts[field] = same(their, before) ? my : their;
		if (!same(my, before) && !same(their, before) && !same(my, their))
			conflicts.push({ field, mine: my, theirs: their });
	}
	return { facts: facts as DeviceFacts, conflicts };
}
