import { Problem } from '../problem';
import { faultPath } from '../reading';
import { referenceFaults } from './references';
import { profileShape, type Profile, type ProfileRecord } from './schema';

/** A record whose parameters all stand for one value each. A row that is not there is left for {@link referenceFaults}. */
const spelledOut = ({ rows, ...record }: ProfileRecord): ProfileRecord => ({
	...record,
	parameters: record.parameters.flatMap(({ each, ...one }) => {
		const row = each === undefined ? undefined : rows?.[each];
		if (!row) return [each === undefined ? one : { ...one, each }];
		return row.of.map(({ id, name }, i) => ({
			...one,
			id: `${id}-${one.id}`,
			name: `${name} ${one.name}`,
			offset: one.offset + i * row.stride
		}));
	})
});

const withParameters = (profile: Profile): Profile => ({
	...profile,
	records: Object.fromEntries(Object.entries(profile.records).map(([id, record]) => [id, spelledOut(record)]))
});

/** A profile in its shape, in which everything that is named is there and fits; parameters are spelled out. */
export const profileSchema = profileShape.transform(withParameters).superRefine((profile, context) => {
	for (const fault of referenceFaults(profile))
		context.addIssue({ code: 'custom', path: fault.path, message: fault.says });
});

/**
 * A profile from parsed JSON.
 * @throws Problem `profile.invalid` with `detail.faults: { at, says }[]`, each naming the faulty part
 */
export function parseProfile(json: unknown): Profile {
	const result = profileSchema.safeParse(json);
	if (result.success) return result.data;
	const faults = result.error.issues.map((issue) => ({
		at: faultPath(issue.path) || '(the whole file)',
		says: issue.message
	}));
	throw new Problem(
		'profile.invalid',
		`The profile has ${faults.length === 1 ? 'a fault' : `${faults.length} faults`}: ${faults[0].at}: ${faults[0].says}.`,
		'Correct the part that is named and try again.',
		{ faults }
	);
}
