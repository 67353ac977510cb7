import { BODY_KINDS } from '../surface';
import { fitNames, sameInTheEye } from '../names';
import type { HeardKind } from '../stream';
import { pageWords, views, type MapRule, type Placed } from './check';

/** What a control must be able to send for an address. */
const SENT_AS: Record<string, readonly HeardKind[]> = {
	cc: ['absolute', 'relative', 'momentary', 'toggle'],
	'cc-14': ['absolute-14', 'relative'],
	rpn: ['rpn'],
	nrpn: ['nrpn'],
	note: ['note'],
	'program-change': ['program-change'],
	'pitch-bend': ['pitch-bend'],
	'channel-pressure': ['channel-pressure'],
	sysex: ['sysex']
};

const clear = ({ path }: Placed) => ({
	says: 'Take it off the map.',
	edits: [{ path }]
});

/** What stands on the display of a page, in the order of its controls. */
const named = (placed: readonly Placed[]) => placed.filter(({ assignment }) => assignment.name !== '');

const sameLinks = (a: Placed, b: Placed): boolean =>
	JSON.stringify(a.assignment.links) === JSON.stringify(b.assignment.links);

export const bodyRules: readonly MapRule[] = [
	{
		id: 'nothing-there',
		find: ({ placed }) =>
			placed.flatMap((each) => [
				...(each.control
					? []
					: [
							{
								severity: 'error' as const,
								says: `${each.words} is no control of this surface.`,
								at: each.path,
								cure: clear(each)
							}
						]),
				...each.links
					.filter(({ target }) => !target)
					.map(({ link, list, path }) => ({
						severity: 'error' as const,
						says: list
							? `${each.words} names ${link.target}, which ${list.name} has not.`
							: `${each.words} names ${link.list}, which this map does not hold.`,
						at: path,
						cure: { says: 'Take this link away.', edits: [{ path }] }
					}))
			])
	},
	{
		id: 'no-such-gesture',
		find: ({ placed }) =>
			placed
				.filter(({ control, assignment }) => control && !control.gestures.includes(assignment.gesture))
				.map((each) => ({
					severity: 'error' as const,
					says: `${each.words}: this control has no such gesture.`,
					at: each.path,
					cure: clear(each)
				}))
	},
	{
		id: 'cannot-send',
		find: ({ placed }) =>
			placed.flatMap((each) =>
				each.links
					.filter(
						({ target }) =>
							target &&
							each.control &&
							!SENT_AS[target.address.kind].some((kind) => each.control!.sends.includes(kind))
					)
					.map(({ target, path }) => ({
						severity: 'error' as const,
						says: `${each.words} cannot send ${target!.address.kind.replace('-', ' ')}, by which ${target!.name} is told.`,
						at: path,
						cure: { says: 'Take this link away, and put the target on another control.', edits: [{ path }] }
					}))
			)
	},
	{
		id: 'position-by-steps',
		find: ({ placed }) =>
			placed
				.filter(
					({ control, assignment }) =>
						control &&
						assignment.way === 'relative' &&
						BODY_KINDS[control.kind].position &&
						assignment.links.length > 0
				)
				.map((each) => ({
					severity: 'error' as const,
					says: `${each.words} has a position, and cannot send steps.`,
					at: each.path,
					cure: each.links.some(({ target }) => target?.relative)
						? clear(each)
						: { says: 'Send positions.', edits: [{ path: [...each.path, 'way'], value: 'absolute' }] }
				}))
	},
	{
		id: 'rest-it-cannot',
		find: ({ surface, placed }) =>
			placed
				.filter(
					({ assignment: { way, gesture, links } }) =>
						way === 'rest' && (!surface.rests || gesture.endsWith('move') || links.length > 0)
				)
				.map((each) => ({
					severity: 'error' as const,
					says: surface.rests
						? `${each.words} silences the ${surface.model}: only a push that tells nothing else can.`
						: `${each.words} is meant to silence the ${surface.model}, which nothing does.`,
					at: each.path,
					cure: { says: 'Take it away.', edits: [{ path: each.path }] }
				}))
	},
	{
		id: 'too-many-channels',
		find: ({ placed }) =>
			placed.flatMap((each) => {
				const channels = [...new Set(each.links.map(({ link }) => link.channel))];
				if (!each.control || channels.length <= each.control.channels) return [];
				return [
					{
						severity: 'error' as const,
						says: `${each.words} sends on channels ${channels.join(', ')}; this control can send on ${each.control.channels === 1 ? 'one' : each.control.channels}.`,
						at: each.path,
						cure: {
							says: `Keep what it sends on channel ${channels[0]}.`,
							edits: [
								{
									path: [...each.path, 'links'],
									value: each.assignment.links.filter(({ channel }) => channel === channels[0])
								}
							]
						}
					}
				];
			})
	},
	{
		id: 'too-many-pages',
		find: ({ map, surface }) =>
			map.pages.flatMap((page, i) =>
				page.number > surface.pages.count
					? [
							{
								severity: 'error' as const,
								says: `There is no ${pageWords(map.surface, page)}: ${surface.model} has ${surface.pages.count}.`,
								at: ['pages', i],
								cure: { says: 'Take this page out of the map.', edits: [{ path: ['pages', i] }] }
							}
						]
					: []
			)
	},
	{
		id: 'page-twice',
		find: ({ map, surface }) =>
			map.pages.flatMap((page, i) => {
				const first = map.pages.findIndex(({ number }) => number === page.number);
				if (first === i) return [];
				const free = Array.from({ length: surface.pages.count }, (_, n) => n + 1).find((n) =>
					map.pages.every(({ number }) => number !== n)
				);
				return [
					{
						severity: 'error' as const,
						says: `Two pages have the number ${page.number}.`,
						at: ['pages', i],
						cure: free
							? { says: `Number it ${free}.`, edits: [{ path: ['pages', i, 'number'], value: free }] }
							: { says: 'Take one of them out.', edits: [{ path: ['pages', i] }] }
					}
				];
			})
	},
	{
		id: 'name-too-long',
		find: ({ placed, surface }) =>
			named(placed).flatMap((each) => {
				const room = surface.display?.characters;
				if (room === undefined || each.assignment.name.length <= room) return [];
				const { short } = fitNames([each.assignment.name], room, surface.display!.charset).names[0];
				return [
					{
						severity: 'warning' as const,
						says: `“${each.assignment.name}” on ${each.words} has ${each.assignment.name.length} characters; the display shows ${room}.`,
						at: each.path,
						cure: { says: `Write “${short}”.`, edits: [{ path: [...each.path, 'name'], value: short }] }
					}
				];
			})
	},
	{
		id: 'name-not-distinct',
		find: (checked) =>
			views(checked).flatMap(({ placed }) => {
				const room = checked.surface.display?.characters ?? 64;
				const all = named(placed);
				const shown = (each: Placed) => sameInTheEye(each.assignment.name.slice(0, room));
				// Two that tell the very same, as pads of overlapping rows do, may be called the same.
				return all
					.filter((each, i) =>
						all.some((other, j) => j < i && shown(other) === shown(each) && !sameLinks(other, each))
					)
					.map((each) => {
						const others = new Set(all.filter((other) => other !== each).map(shown));
						const base = each.assignment.name.slice(0, Math.max(1, room - 1));
						const digit = [2, 3, 4, 5, 6, 7, 8, 9].find((n) => !others.has(sameInTheEye(`${base}${n}`)));
						return {
							severity: 'warning' as const,
							says: `“${each.assignment.name}” stands on ${each.words} and on another control of the page.`,
							at: each.path,
							cure:
								digit === undefined
									? { says: 'Write another name.', edits: [] }
									: {
											says: `Write “${base}${digit}”.`,
											edits: [{ path: [...each.path, 'name'], value: `${base}${digit}` }]
										}
						};
					});
			})
	},
	{
		id: 'global-overwritten',
		find: ({ placed }) =>
			placed
				.filter(
					({ page, assignment }) =>
						page !== null &&
						placed.some(
							(other) =>
								other.page === null &&
								other.assignment.control === assignment.control &&
								other.assignment.gesture === assignment.gesture
						)
				)
				.map((each) => ({
					severity: 'warning' as const,
					says: `${each.words} does something else here than on every page.`,
					at: each.path,
					cure: { says: 'Leave it as it is on every page.', edits: [{ path: each.path }] }
				}))
	},
	{
		id: 'assigned-twice',
		find: ({ placed }) =>
			placed
				.filter((each, i) =>
					placed.some(
						(other, j) =>
							j < i &&
							other.page === each.page &&
							other.assignment.control === each.assignment.control &&
							other.assignment.gesture === each.assignment.gesture
					)
				)
				.map((each) => ({
					severity: 'error' as const,
					says: `${each.words} is assigned twice.`,
					at: each.path,
					cure: clear(each)
				}))
	}
];
