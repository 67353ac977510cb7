import { Problem } from '../problem';
import { readText } from './charset';
import { readField, writeField } from './field';
import type { Profile, ProfileParameter, ProfileRecord } from './schema';

/** The category that a sound itself holds, or an empty text. */
export function categoryOf(record: ProfileRecord, bytes: Uint8Array): string {
	const parameter = record.parameters.find(({ id }) => id === record.category);
	return parameter ? formatValue(parameter, readParameter(parameter, bytes)) : '';
}

/** The raw value of a parameter in a record. */
export const readParameter = (parameter: ProfileParameter, bytes: Uint8Array): number =>
	readField(parameter, bytes);

/**
 * A copy of the record with another raw value; no other bit changes.
 * @throws Problem `parameter.range`
 */
export function writeParameter(parameter: ProfileParameter, bytes: Uint8Array, raw: number): Uint8Array {
	const copy = bytes.slice();
	putParameter(parameter, copy, raw);
	return copy;
}

/**
 * Writes a raw value into a record that is being made; no other bit changes.
 * @throws Problem `parameter.range`
 */
export function putParameter(parameter: ProfileParameter, bytes: Uint8Array, raw: number): void {
	const [low, high] = parameter.range;
	if (!Number.isInteger(raw) || raw < low || raw > high)
		throw new Problem(
			'parameter.range',
			`“${parameter.name}” takes ${formatValue(parameter, low)} to ${formatValue(parameter, high)}.`,
			'Choose a value in that range.'
		);
	writeField(parameter, bytes, raw);
}

/** A raw value as the panel shows it, with its unit: `−12 ct`, `Saw`, `3.5 s`. */
export function formatValue(parameter: ProfileParameter, raw: number): string {
	const [low, high] = parameter.range;
	const named = parameter.values?.[raw - low];
	if (named !== undefined) return named;
	let shown = raw;
	if (parameter.shows) {
		const [from, to] = parameter.shows;
		shown = high === low ? from : from + ((raw - low) / (high - low)) * (to - from);
	}
	const text = shown.toFixed(parameter.decimals).replace('-', '\u2212');
	return parameter.unit ? `${text}\u00a0${parameter.unit}` : text;
}

/** The values and texts of a record as the panel shows them, in the order of the profile. */
export const shownFields = (
	profile: Profile,
	{ parameters, texts }: ProfileRecord,
	bytes: Uint8Array
): { id: string; name: string; shown: string }[] => [
	...parameters.map((parameter) => ({
		id: parameter.id,
		name: parameter.name,
		shown: formatValue(parameter, readParameter(parameter, bytes))
	})),
	...texts.map((text) => ({ id: text.id, name: text.name, shown: readText(profile, text, bytes) }))
];
