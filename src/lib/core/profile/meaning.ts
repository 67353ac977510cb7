import type { ProfileParameter, ProfileRecord } from './schema';
import { readValue } from './value';

/** Meanings of a parameter by its cases, each made once. */
const cases = new WeakMap<ProfileParameter, ProfileParameter[]>();

function meaningsOf(parameter: ProfileParameter): ProfileParameter[] {
	let made = cases.get(parameter);
	if (!made) {
		const { when, each: _, ...own } = parameter;
		made = when!.cases.map(({ is: _is, ...meaning }) => ({
			...own,
			shows: undefined,
			curve: undefined,
			points: undefined,
			values: undefined,
			named: undefined,
			flags: undefined,
			...meaning
		}));
		cases.set(parameter, made);
	}
	return made;
}

const byId = new WeakMap<ProfileRecord, Map<string, ProfileParameter>>();

/** The parameter of that id, found without looking through all of them. */
export function parameterNamed(record: ProfileRecord, id: string): ProfileParameter | undefined {
	let map = byId.get(record);
	if (!map) byId.set(record, (map = new Map(record.parameters.map((each) => [each.id, each]))));
	return map.get(id);
}

/** The parameters of a record, what decides what others mean before them. */
export const decidersFirst = ({ parameters }: ProfileRecord): ProfileParameter[] => [
	...parameters.filter(({ when }) => !when),
	...parameters.filter(({ when }) => when)
];

/**
 * What a parameter means in a record: where that depends on another one, by what that one is. The same object comes for
 * the same meaning.
 */
export function meaningOf(
	record: ProfileRecord,
	parameter: ProfileParameter,
	bytes: Uint8Array
): ProfileParameter {
	const { when } = parameter;
	if (!when) return parameter;
	const decides = parameterNamed(record, when.parameter);
	if (!decides) return parameter;
	const value = readValue(decides, bytes);
	const at = when.cases.findIndex(({ is }) => is.includes(value));
	return at < 0 ? parameter : meaningsOf(parameter)[at];
}
