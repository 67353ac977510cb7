import { addressOf, addressWords, sameAddress, spokenFor } from '../learn';
import { pageWords, type MapRule } from './check';

/** Learning notes what a control says when it is moved or pushed by itself. */
const PLAIN = ['move', 'push'];

/** What was heard of a surface, held against what the map wants of it. */
export const heardRules: readonly MapRule[] = [
	{
		id: 'speaks-otherwise',
		find: ({ map, placed }) =>
			placed.flatMap(({ page, assignment, links, words, path }) => {
				const [first] = links;
				// A host hears whatever comes and does with it what it was told there.
				if (!first?.target || first.list?.whose !== 'device' || !PLAIN.includes(assignment.gesture))
					return [];
				const wanted = spokenFor(first.target.address, first.link.channel);
				return map.learnt
					.filter(
						(learnt) =>
							learnt.control === assignment.control && (page === null || learnt.page === page.number)
					)
					.map(addressOf)
					.filter((heard) => !sameAddress(heard, wanted))
					.slice(0, 1)
					.map((heard) => ({
						severity: 'warning' as const,
						says: `${words} is to tell ${first.target!.name} by ${addressWords(wanted)}; what was heard of it is ${addressWords(heard)}.`,
						at: path,
						cure: {
							says: 'Set the surface so that it says this, then learn the control again.',
							edits: []
						}
					}));
			})
	},
	{
		id: 'heard-alike',
		find: ({ map, controls }) =>
			map.pages.flatMap((page) => {
				const here = map.learnt.filter((learnt) => learnt.page === page.number);
				return here.flatMap((learnt, i) => {
					const twin = here
						.slice(0, i)
						.find(
							(other) => other.control !== learnt.control && sameAddress(addressOf(other), addressOf(learnt))
						);
					const name = (control: string) => controls.get(control)?.name ?? control;
					return twin
						? [
								{
									severity: 'error' as const,
									says: `On ${pageWords(map.surface, page)}, ${name(twin.control)} and ${name(learnt.control)} were both heard as ${addressWords(addressOf(learnt))}.`,
									at: ['learnt'],
									cure: { says: 'Give one of them another message, then learn it again.', edits: [] }
								}
							]
						: [];
				});
			})
	}
];
