import { sameBytes } from '../midi';
import { areaOf, formatValue, readName, readParameter, type Profile } from '../profile';

/** One parameter that differs, in the panel's own units. */
export interface ParameterChange {
	id: string;
	name: string;
	from: string;
	to: string;
	/** Raw values, for sorting and drawing. */
	fromRaw: number;
	toRaw: number;
}

export interface RecordChange {
	/** Old and new name, when they differ. */
	name: { from: string; to: string } | null;
	parameters: ParameterChange[];
	/** Bytes that differ and belong to no parameter and no name. */
	otherBytes: number;
}

/** What differs between two records of an area; null when they are the same, byte for byte. */
export function recordChange(
	profile: Profile,
	areaId: string,
	before: Uint8Array,
	after: Uint8Array
): RecordChange | null {
	if (sameBytes(before, after)) return null;
	const record = profile.records[areaOf(profile, areaId).record];
	const [oldName, newName] = [readName(profile, record, before), readName(profile, record, after)];
	const parameters: ParameterChange[] = [];
	const claimed = new Set<number>();
	if (record.name) for (let i = 0; i < record.name.length; i++) claimed.add(record.name.offset + i);
	for (const parameter of record.parameters) {
		for (let i = 0; i < Math.ceil((parameter.bit + parameter.bits) / 8); i++)
			claimed.add(parameter.offset + i);
		const [fromRaw, toRaw] = [readParameter(parameter, before), readParameter(parameter, after)];
		if (fromRaw !== toRaw)
			parameters.push({
				id: parameter.id,
				name: parameter.name,
				from: formatValue(parameter, fromRaw),
				to: formatValue(parameter, toRaw),
				fromRaw,
				toRaw
			});
	}
	let otherBytes = 0;
	for (let i = 0; i < before.length; i++) if (before[i] !== after[i] && !claimed.has(i)) otherBytes++;
	return {
		name: oldName !== newName && oldName !== null && newName !== null ? { from: oldName, to: newName } : null,
		parameters,
		otherBytes
	};
}
