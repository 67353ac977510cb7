import type { Profile } from '../schema';
import type { Fault } from './fault';

/** References: what they name is there, and what names it, and a bank says how large it is. */
export const referenceFaults = ({ areas, records }: Profile): Fault[] =>
	Object.entries(records).flatMap(([recordId, { references = [], parameters }]) =>
		references.flatMap((reference, i): Fault[] => {
			const path = ['records', recordId, 'references', i];
			const isThere = (id: string) => parameters.some((parameter) => parameter.id === id);
			return [
				...(areas.some(({ id }) => id === reference.to)
					? []
					: [{ path: [...path, 'to'], says: `there is no area “${reference.to}”` }]),
				...(['number', 'bank'] as const).flatMap((field): Fault[] => {
					const id = reference[field];
					return id === undefined || isThere(id)
						? []
						: [{ path: [...path, field], says: `there is no parameter “${id}”` }];
				}),
				...((reference.bank === undefined) === (reference.perBank === undefined)
					? []
					: [{ path: [...path, 'perBank'], says: 'a bank and how many slots it has go together' }]),
				...(references.findIndex(({ id }) => id === reference.id) === i
					? []
					: [{ path: [...path, 'id'], says: `“${reference.id}” is used twice` }])
			];
		})
	);
