import { schoolsOf, schoolWords } from '../schools';
import type { MapRule } from './check';

/** What a map says that it means to be, held against its lines. */
export const schoolRules: readonly MapRule[] = [
	{
		id: 'not-as-meant',
		find: ({ map }) =>
			schoolsOf(map).flatMap(({ question, way, meant, says }) =>
				meant === null || way === meant
					? []
					: [
							{
								severity: 'note' as const,
								says: `It is meant: ${schoolWords(question, meant)}. ${says}`,
								at: ['schools', question],
								cure: {
									says:
										way === null
											? 'Mean nothing by it.'
											: `Mean what it does: ${schoolWords(question, way)}.`,
									edits: [{ path: ['schools', question], ...(way === null ? {} : { value: way }) }]
								}
							}
						]
			)
	}
];
