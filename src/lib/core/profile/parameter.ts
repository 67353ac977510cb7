import { Problem } from '../problem';
import { readText } from './charset';
import { writeField } from './field';
import { meaningOf, parameterNamed } from './meaning';
import type { Profile, ProfileParameter, ProfileRecord } from './schema';
import { rawOf, readValue } from './value';

/** The category that a sound itself holds, or an empty text. */
export function categoryOf(record: ProfileRecord, bytes: Uint8Array): string {
	const parameter = record.category === undefined ? undefined : parameterNamed(record, record.category);
	return parameter ? formatValue(parameter, readValue(parameter, bytes)) : '';
}

/**
 * A copy of the record with another value; no other bit changes.
 * @throws Problem `parameter.range`
 */
export function writeParameter(parameter: ProfileParameter, bytes: Uint8Array, value: number): Uint8Array {
	const copy = bytes.slice();
	putParameter(parameter, copy, value);
	return copy;
}

/**
 * Writes a value into a record that is being made; no other bit changes.
 * @throws Problem `parameter.range`
 */
export function putParameter(parameter: ProfileParameter, bytes: Uint8Array, value: number): void {
	const [low, high] = parameter.range;
	if (!Number.isInteger(value) || value < low || value > high)
		throw new Problem(
			'parameter.range',
			`“${parameter.name}” takes ${formatValue(parameter, low)} to ${formatValue(parameter, high)}.`,
			'Choose a value in that range.'
		);
	writeField(parameter, bytes, rawOf(parameter, value));
}

/** What the panel shows for a value, as a number. */
export function shownNumber({ range, shows, curve, points }: ProfileParameter, value: number): number {
	const [low, high] = range;
	if (points) {
		const after = points.findIndex(([at]) => at >= value);
		const end = after < 0 ? points.length - 1 : Math.max(1, after);
		const [[fromAt, from], [toAt, to]] = [points[end - 1], points[end]];
		return from + ((value - fromAt) / (toAt - fromAt)) * (to - from);
	}
	if (!shows) return value;
	const [from, to] = shows;
	if (high === low) return from;
	const share = (value - low) / (high - low);
	if (curve === 'exponential') return from * (to / from) ** share;
	if (curve === 'logarithmic') return from + (Math.log(value / low) / Math.log(high / low)) * (to - from);
	return from + share * (to - from);
}

/** A value as the panel shows it, with its unit: `−12 ct`, `Saw`, `3.5 s`. */
export function formatValue(parameter: ProfileParameter, value: number): string {
	const [low] = parameter.range;
	const name = parameter.values?.[value - low] ?? parameter.named?.find(({ at }) => at === value)?.as;
	if (name !== undefined) return name;
	// Bits that stand for no number in this code.
	if (parameter.coded && value >= 2 ** parameter.bits * 16)
		return `‹${rawOf(parameter, value).toString(16).toUpperCase()}›`;
	if (parameter.flags) {
		const set = parameter.flags.filter((_, bit) => Math.floor(value / 2 ** bit) % 2 === 1);
		return set.length > 0 ? set.join(' + ') : '–';
	}
	const text = shownNumber(parameter, value).toFixed(parameter.decimals).replace('-', '\u2212');
	return parameter.unit ? `${text}\u00a0${parameter.unit}` : text;
}

/** The values and texts of a record as the panel shows them, in the order of the profile. */
export const shownFields = (
	profile: Profile,
	record: ProfileRecord,
	bytes: Uint8Array
): { id: string; name: string; shown: string }[] => [
	...record.parameters.map((parameter) => {
		const meaning = meaningOf(record, parameter, bytes);
		return { id: parameter.id, name: meaning.name, shown: formatValue(meaning, readValue(parameter, bytes)) };
	}),
	...record.texts.map((text) => ({ id: text.id, name: text.name, shown: readText(profile, text, bytes) }))
];
