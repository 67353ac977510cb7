import { pressesBetween } from '../surface';
import { REACHES } from '../map';
import { pageWords, portOf, type MapRule } from './check';

const DIN = ['din', 'trs-a', 'trs-b'];

/** What is between the surface and whoever listens, and between a page and the hand that wants it. */
export const wayRules: readonly MapRule[] = [
	{
		id: 'wrong-port',
		find: ({ placed, surface }) =>
			placed.flatMap((each) =>
				each.links.flatMap(({ list, path }) => {
					const port = portOf(surface, each.control);
					const wanted = list?.whose === 'host' ? 'control' : 'playing';
					if (!list || port.use === 'both' || port.use === wanted) return [];
					return [
						{
							severity: 'error' as const,
							says:
								wanted === 'playing'
									? `${each.words} plays ${list.name} by ${port.name}, which the host takes for a control port.`
									: `${each.words} tells the host by ${port.name}, which is for playing.`,
							at: path,
							cure: { says: 'Take this link away, or set the port otherwise in the host.', edits: [{ path }] }
						}
					];
				})
			)
	},
	{
		id: 'not-carried-over',
		find: ({ placed }) =>
			placed.flatMap((each) =>
				each.links
					.filter(({ link }) => link.reach !== 'template')
					.map(({ link, target, path }) => ({
						severity: link.reach === 'instance' ? ('warning' as const) : ('note' as const),
						says: `${each.words} to ${target?.name ?? link.target} is ${REACHES[link.reach]}.`,
						at: path,
						cure: {
							says: 'Make it anew for each song, or choose a target that is kept in the template.',
							edits: []
						}
					}))
			)
	},
	{
		id: 'target-missing-in-program',
		find: ({ map, placed }) =>
			placed.flatMap((each) =>
				each.links.flatMap(({ target, link, path }) => {
					if (!each.page || !target || target.programs.length === 0) return [];
					const has = (program: number) =>
						target.programs.some(({ from, to }) => program >= from && program <= to);
					const lacking = each.page.programs
						.filter(({ channel }) => channel === link.channel)
						.flatMap(({ from, to }) => Array.from({ length: Math.max(0, to - from + 1) }, (_, i) => from + i))
						.filter((program) => !has(program));
					if (lacking.length === 0) return [];
					return [
						{
							severity: 'error' as const,
							says: `${pageWords(map.surface, each.page)} opens with program ${lacking[0] + 1}, which has no ${target.name}${lacking.length > 1 ? ` (nor have ${lacking.length - 1} others with which it opens)` : ''}.`,
							at: path,
							cure: { says: 'Leave it out of this page.', edits: [{ path }] }
						}
					];
				})
			)
	},
	{
		id: 'page-not-reached',
		find: ({ map, surface }) => {
			const reached = new Set(
				map.pages
					.filter(
						({ number, programs }) =>
							number === 1 || programs.length > 0 || pressesBetween(surface.pages, 1, number) !== null
					)
					.map(({ number }) => number)
			);
			return map.pages.flatMap((page, i) =>
				reached.has(page.number) || page.number > surface.pages.count
					? []
					: [
							{
								severity: 'error' as const,
								says: `Nothing leads to ${pageWords(map.surface, page)}: ${surface.model} has neither keys for ${surface.pages.word}s nor a program that opens it.`,
								at: ['pages', i],
								cure: {
									says: 'Say with which program it opens, or take it out.',
									edits: [{ path: ['pages', i] }]
								}
							}
						]
			);
		}
	},
	{
		id: 'usb-to-din',
		find: ({ map, placed, surface }) =>
			map.hosted !== 'nothing' || surface.ports.some(({ connector }) => DIN.includes(connector))
				? []
				: [
						...new Set(
							placed.flatMap(({ links }) => links.flatMap(({ list }) => (list?.dinOnly ? [list.name] : [])))
						)
					].map((name) => ({
						severity: 'error' as const,
						says: `${surface.model} speaks by USB alone, ${name} hears by DIN alone, and nothing between them is a USB host.`,
						at: ['hosted'],
						cure: {
							says: 'Put a computer or a USB host box between them; a USB interface, which is itself a USB device, does not do it.',
							edits: [{ path: ['hosted'], value: 'host-box' }]
						}
					}))
	},
	{
		id: 'feedback',
		find: ({ map, placed, surface }) => {
			if (!map.echoes) return [];
			const told = placed.filter(
				({ links, control }) =>
					links.some(({ list }) => list?.whose === 'host') && portOf(surface, control).use === 'both'
			);
			return told.length === 0
				? []
				: [
						{
							severity: 'error' as const,
							says: `The host sends back what it hears, on the port where ${surface.model} both plays and is told: ${told.length === 1 ? told[0].words : `${told.length} controls`} would go round.`,
							at: ['echoes'],
							cure: {
								says: 'Switch the echo of this port off in the host.',
								edits: [{ path: ['echoes'], value: false }]
							}
						}
					];
		}
	},
	{
		id: 'never-walked',
		find: ({ map }) => {
			const open = map.pages.filter(({ number }) => !map.walked.some(({ page }) => page === number));
			return open.length === 0
				? []
				: [
						{
							severity: 'note' as const,
							says: `${open.length === map.pages.length ? 'This map was never walked' : `${open.map((other) => pageWords(map.surface, other)).join(', ')} ${open.length === 1 ? 'was' : 'were'} never walked`}: nobody has touched every control since and heard that it speaks for itself.`,
							at: ['walked'],
							cure: { says: 'Learn what its controls say, and walk back.', edits: [] }
						}
					];
		}
	}
];
