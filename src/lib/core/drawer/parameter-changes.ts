import { sameBytes } from '../midi';
import {
	areaOf,
	bitsOfTexts,
	claimedBits,
	formatValue,
	meaningOf,
	readName,
	readValue,
	readText,
	type Profile
} from '../profile';

const quoted = (text: string): string => `“${text}”`;

/** One parameter or text that differs, in the panel's own units. */
export interface ParameterChange {
	id: string;
	name: string;
	from: string;
	to: string;
}

export interface RecordChange {
	/** Old and new name, when they differ. */
	name: { from: string; to: string } | null;
	parameters: ParameterChange[];
	/** Bytes that differ in bits which no parameter reads and no name shows. */
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
	const renamed = oldName !== newName && oldName !== null && newName !== null;
	for (const parameter of record.parameters) {
		const [fromRaw, toRaw] = [readValue(parameter, before), readValue(parameter, after)];
		if (fromRaw === toRaw) continue;
		const [was, is] = [before, after].map((bytes) => meaningOf(record, parameter, bytes));
		// What meant something else before says so with its old name.
		const old = formatValue(was, fromRaw);
		parameters.push({
			id: parameter.id,
			name: is.name,
			from: was.name === is.name ? old : `${was.name} ${old}`,
			to: formatValue(is, toRaw)
		});
	}
	const rewritten = record.texts.filter((text) => {
		const [from, to] = [readText(profile, text, before), readText(profile, text, after)];
		if (from !== to) parameters.push({ id: text.id, name: text.name, from: quoted(from), to: quoted(to) });
		return from !== to;
	});
	const shown = bitsOfTexts(before.length, [...(renamed ? [record.name!] : []), ...rewritten]);
	const claimed = claimedBits(record);
	let otherBytes = 0;
	for (let i = 0; i < before.length; i++) {
		// A text that reads the same can still be written otherwise.
		if (((before[i] ^ after[i]) & ~claimed[i] & ~shown[i]) !== 0) otherBytes++;
	}
	return {
		name: renamed ? { from: oldName, to: newName } : null,
		parameters,
		otherBytes
	};
}
