import { areaOf, meaningOf, readName, readValue, type Profile } from '../profile';

/** From this on, two records count as one sound that was edited. */
export const SAME_SOUND = 0.7;

const NAME_BONUS = 0.2;

/**
 * How alike two records are, 0–1: the mean closeness of their parameters (1 for equal, falling to 0 at a third of
 * the range; named values are equal or not), and a bonus for the same name. Records without parameters are compared
 * by the share of equal bytes.
 */
export function similarity(profile: Profile, areaId: string, a: Uint8Array, b: Uint8Array): number {
	const record = profile.records[areaOf(profile, areaId).record];
	let closeness = 0;
	if (record.parameters.length === 0) {
		for (let i = 0; i < a.length; i++) if (a[i] === b[i]) closeness++;
		return closeness / a.length;
	}
	for (const parameter of record.parameters) {
		const distance = Math.abs(readValue(parameter, a) - readValue(parameter, b));
		if (distance === 0) closeness++;
		else if (
			!parameter.values &&
			!parameter.flags &&
			meaningOf(record, parameter, a) === meaningOf(record, parameter, b)
		)
			closeness += Math.max(0, 1 - (3 * distance) / (parameter.range[1] - parameter.range[0]));
	}
	const base = closeness / record.parameters.length;
	const name = readName(profile, record, a);
	return Math.min(1, base + (name && name === readName(profile, record, b) ? NAME_BONUS : 0));
}
