import type { Edit } from '../../edit';
import type { Address } from '../../profile';
import { portOf, views, type Linked, type MapRule, type Placed } from './check';

/** Controllers that a channel or device takes for something else (MIDI 1.0, table III). */
const CONTROLLERS: readonly { from: number; to: number; rule: string; says: string }[] = [
	{ from: 0, to: 0, rule: 'bank-select', says: 'chooses a bank' },
	{ from: 32, to: 32, rule: 'bank-select', says: 'chooses a bank' },
	{ from: 6, to: 6, rule: 'data-entry', says: 'carries the value of whatever parameter was chosen last' },
	{ from: 38, to: 38, rule: 'data-entry', says: 'carries the value of whatever parameter was chosen last' },
	{ from: 96, to: 97, rule: 'data-entry', says: 'steps whatever parameter was chosen last' },
	{ from: 98, to: 101, rule: 'data-entry', says: 'chooses a parameter' },
	{ from: 120, to: 127, rule: 'channel-mode', says: 'is a channel mode message' }
];

/** Controllers that a target is told by. */
const controllersOf = (address: Address): number[] =>
	address.kind === 'cc'
		? [address.number]
		: address.kind === 'cc-14'
			? [address.number, address.number + 32]
			: [];

const reservedRule = (id: string): MapRule => ({
	id,
	find: ({ placed }) =>
		CONTROLLERS.filter(({ rule }) => rule === id).flatMap(({ from, to, says }) =>
			placed.flatMap(({ links, words, path }) =>
				links
					.filter(
						({ target }) =>
							target &&
							controllersOf(target.address).some((controller) => controller >= from && controller <= to)
					)
					.map(({ target, list }) => ({
						severity: id === 'channel-mode' ? ('error' as const) : ('warning' as const),
						says: `${words} sends ${target!.name} of ${list!.name} by a controller ${from === to ? from : `of ${from}–${to}`}, which ${says}.`,
						at: path,
						cure: { says: 'Leave it empty, and reach this target another way.', edits: emptied(path) }
					}))
			)
		)
});

/** Nothing, on purpose. */
const emptied = (path: Placed['path']): Edit[] => [
	{ path: [...path, 'links'], value: [] },
	{ path: [...path, 'empty'], value: true }
];

/** What is sent, in words that are equal where the same message would be sent. */
function messagesOf({ link, target }: Linked): string[] {
	if (!target) return [];
	const { address } = target;
	if (address.kind === 'cc' || address.kind === 'cc-14')
		return controllersOf(address).map((number) => `controller ${number} on channel ${link.channel}`);
	if (address.kind === 'sysex') return [`the message ${address.bytes}`];
	const number = 'number' in address ? ` ${address.number}` : '';
	return [`${address.kind.replace('-', ' ')}${number} on channel ${link.channel}`];
}

/** What shares its target on purpose moves it from two places, and is no clash. */
const sameTarget = (a: Linked, b: Linked) => a.link.list === b.link.list && a.link.target === b.link.target;

export const addressRules: readonly MapRule[] = [
	reservedRule('bank-select'),
	reservedRule('data-entry'),
	reservedRule('channel-mode'),
	{
		id: 'same-address',
		find: (checked) => {
			const seen = new Set<string>();
			return views(checked).flatMap(({ placed }) => {
				const by = new Map<string, { placed: Placed; linked: Linked }[]>();
				for (const each of placed)
					for (const linked of each.links)
						for (const message of messagesOf(linked)) {
							const key = `${message} ${portOf(checked.surface, each.control).id}`;
							by.set(key, [...(by.get(key) ?? []), { placed: each, linked }]);
						}
				return [...by.values()].flatMap((all) => {
					const [first] = all;
					const other = all.find(
						({ placed: second, linked }) => second !== first.placed && !sameTarget(first.linked, linked)
					);
					const key = other && `${first.linked.path.join()} ${other.linked.path.join()}`;
					if (!other || !key || seen.has(key)) return [];
					seen.add(key);
					return [
						{
							severity: 'error' as const,
							says: `${first.placed.words} and ${other.placed.words} both send ${messagesOf(other.linked)[0]}.`,
							at: other.placed.path,
							cure: { says: `Leave ${other.placed.words} empty.`, edits: emptied(other.placed.path) }
						}
					];
				});
			});
		}
	},
	{
		id: 'reserved-channel',
		find: ({ map, placed }) =>
			placed.flatMap(({ links, words }) =>
				links
					.filter(({ link, list }) => map.reserved.includes(link.channel) && list?.whose !== 'host')
					.map(({ link, path }) => {
						const free = Array.from({ length: 16 }, (_, i) => i + 1).find(
							(channel) =>
								!map.reserved.includes(channel) &&
								placed.every((each) => each.links.every((other) => other.link.channel !== channel))
						);
						return {
							severity: 'error' as const,
							says: `${words} sends on channel ${link.channel}, which the host’s own map uses.`,
							at: path,
							cure: free
								? {
										says: `Send on channel ${free}, which nothing in this map uses, and set the device to it.`,
										edits: [{ path: [...path, 'channel'], value: free }]
									}
								: { says: 'Free a channel in the host’s map.', edits: [] }
						};
					})
			)
	},
	{
		id: 'not-heard',
		find: ({ placed }) =>
			placed.flatMap(({ links, words }) =>
				links
					.filter(
						({ link, list }) => list && list.channels.length > 0 && !list.channels.includes(link.channel)
					)
					.map(({ link, list, path }) => ({
						severity: 'error' as const,
						says: `${words} sends on channel ${link.channel}, and ${list!.name} hears on ${list!.channels.join(', ')}.`,
						at: path,
						cure: {
							says: `Send on channel ${list!.channels[0]}.`,
							edits: [{ path: [...path, 'channel'], value: list!.channels[0] }]
						}
					}))
			)
	},
	{
		id: 'pads-on-the-keys',
		find: ({ map, placed, surface }) =>
			map.keys === null
				? []
				: placed.flatMap(({ links, words, control }) => {
						const { channel, low, high } = map.keys!;
						const bed = surface.controls.find(({ kind }) => kind === 'keys');
						if (control?.kind !== 'pad' || portOf(surface, control) !== portOf(surface, bed)) return [];
						return links
							.filter(
								({ link, target }) =>
									link.channel === channel &&
									target?.address.kind === 'note' &&
									target.address.number >= low &&
									target.address.number <= high
							)
							.map(({ target, path }) => ({
								severity: 'warning' as const,
								says: `${words} plays note ${(target!.address as { number: number }).number} on channel ${channel}, as a key of the key bed does.`,
								at: path,
								cure: {
									says: `Play the pads on channel ${(channel % 16) + 1}.`,
									edits: [{ path: [...path, 'channel'], value: (channel % 16) + 1 }]
								}
							}));
					})
	}
];
