import { Problem } from '../problem';
import { parameterNamed } from './meaning';
import { putParameter } from './parameter';
import type { Profile, ProfileParameter, ProfileRecord, ProfileReference } from './schema';
import { areaOf, slotLabel } from './slots';
import { readValue } from './value';

/** What a record says of a slot of another area, or of its own. */
export interface Link {
	/** The reference of the record. */
	id: string;
	name: string;
	/** The area that it is into. */
	to: string;
	/** The slot, from 0; null where it names none, or one that is not there. */
	slot: number | null;
}

interface Sources {
	number: ProfileParameter;
	/** The value of it that names the first slot of a bank. */
	base: number;
	bank: ProfileParameter | null;
	/** Slots of a bank; all of them where there is one. */
	perBank: number;
}

function sourcesOf(record: ProfileRecord, { number, base, bank, perBank }: ProfileReference): Sources {
	const own = parameterNamed(record, number)!;
	return {
		number: own,
		base: base ?? own.range[0],
		bank: bank === undefined ? null : parameterNamed(record, bank)!,
		perBank: perBank ?? Infinity
	};
}

function slotNamed(record: ProfileRecord, reference: ProfileReference, bytes: Uint8Array): number | null {
	const { number, base, bank, perBank } = sourcesOf(record, reference);
	const value = readValue(number, bytes);
	const within = value - base;
	if (within < 0 || within >= perBank || reference.none?.includes(value)) return null;
	return within + (bank ? (readValue(bank, bytes) - bank.range[0]) * perBank : 0);
}

/** The slots that a record of an area names, in the order of the profile. */
export function linksIn(profile: Profile, areaId: string, bytes: Uint8Array): Link[] {
	const record = profile.records[areaOf(profile, areaId).record];
	return (record.references ?? []).map((reference): Link => {
		const slot = slotNamed(record, reference, bytes);
		const isThere = slot !== null && slot >= 0 && slot < areaOf(profile, reference.to).slots;
		return { id: reference.id, name: reference.name, to: reference.to, slot: isThere ? slot : null };
	});
}

/**
 * A copy of a record in which one of its references names another slot; no other bit changes.
 * @throws Problem `reference.range` where its parameters cannot name that slot
 */
export function pointTo(
	profile: Profile,
	areaId: string,
	bytes: Uint8Array,
	referenceId: string,
	slot: number
): Uint8Array {
	const record = profile.records[areaOf(profile, areaId).record];
	const reference = record.references!.find(({ id }) => id === referenceId)!;
	const { number, base, bank, perBank } = sourcesOf(record, reference);
	const [value, inBank] = bank
		? [base + (slot % perBank), bank.range[0] + Math.floor(slot / perBank)]
		: [base + slot, 0];
	const fits =
		value <= number.range[1] && !reference.none?.includes(value) && (!bank || inBank <= bank.range[1]);
	if (!fits) {
		const target = areaOf(profile, reference.to);
		throw new Problem(
			'reference.range',
			`“${reference.name}” cannot name ${target.slotWord} ${slotLabel(target.labels, slot)}.`,
			'Leave that sound where it is, or choose another place for it.'
		);
	}
	const copy = bytes.slice();
	putParameter(number, copy, value);
	if (bank) putParameter(bank, copy, inBank);
	return copy;
}
