import { z } from 'zod';
import { checkJoin, clocksOf, indexRig, roleOf, type Rig, type RigDevice } from '../../rig';

const id = z.string().min(1).max(60);
const words = (limit: number) => z.string().trim().max(limit).default('');
const message = z
	.string()
	.trim()
	.regex(/^[0-9A-Fa-f]{2}( [0-9A-Fa-f]{2})*$/, 'Write bytes as in “C0 0B”.')
	.max(3000);
const pattern = z
	.string()
	.trim()
	.regex(/^(([0-9A-Fa-f]{2}|\.\.)( ([0-9A-Fa-f]{2}|\.\.))*)?$/, 'Write bytes as in “F0 7D .. F7”.')
	.max(3000)
	.default('');

/** What a studio's power-on list holds besides what its catalogue, wiring and profiles say. */
export const powerOnSchema = z.object({
	format: z.literal('silent-drawer.power-on').default('silent-drawer.power-on'),
	version: z.literal(1).default(1),
	/** Places in the order in which one walks; the others follow by name. */
	places: z.array(z.string().trim().max(40)).max(60).default([]),
	/** Devices that nobody switches: fed by what they hang on, or always on. */
	left: z.array(id).max(500).default([]),
	/** What comes after what, besides what the wiring says. */
	orders: z
		.array(z.object({ first: id, then: id }))
		.max(500)
		.default([]),
	/** What is set, loaded or sent each time. */
	items: z
		.array(
			z.object({
				id,
				device: id,
				what: z.enum(['set', 'load', 'send']),
				says: z.string().trim().min(1).max(300),
				see: words(200),
				/** What the app sends by itself. */
				messages: z.array(message).max(40).default([]),
				/** What it is asked afterwards, and what it answers where it took them; empty where it cannot be asked. */
				ask: pattern,
				answer: pattern
			})
		)
		.max(1000)
		.default([])
});
export type PowerOn = z.infer<typeof powerOnSchema>;

/** What has to be set on a device after a cut, and who says so. */
export interface Forgotten {
	id: string;
	says: string;
	from: 'profile' | 'catalogue' | 'pairing';
}

/** A studio as it is switched on. */
export interface SwitchFacts {
	rig: Rig;
	/** By device of the rig. */
	forgets: ReadonlyMap<string, readonly Forgotten[]>;
	/** Devices that can be asked who they are. */
	askable: ReadonlySet<string>;
	/** Devices whose sounds were changed since they were read, with how it is said. */
	changed: ReadonlyMap<string, string>;
}

/** One thing that is done, in its place. */
export const switchItemSchema = z.object({
	id: z.string().min(1).max(200),
	device: z.string(),
	name: z.string(),
	place: z.string(),
	what: z.enum(['keep', 'switch', 'set', 'load', 'send']),
	says: z.string(),
	see: z.string(),
	/** Why it stands where it does; empty where any place would do. */
	why: z.string(),
	/** Ids of what comes before it. */
	after: z.array(z.string()),
	messages: z.array(z.string()),
	ask: z.string(),
	answer: z.string(),
	/** Whether the app can ask the device who it is, and so show that it is on. */
	askable: z.boolean()
});
export type SwitchItem = z.infer<typeof switchItemSchema>;

export interface SwitchList {
	items: SwitchItem[];
	/** Orders that contradict each other, in words. */
	conflicts: string[];
}

const LOUD = /amplifier|speaker|monitor box|active box/i;
const MIXER = /mixer/i;
/** What has no supply of its own. */
const PASSIVE = /expression pedal|foot switch/i;

interface Before {
	first: string;
	then: string;
	why: string;
	/** Clocks have a leader only while the studio is switched on. */
	by: 'hosting' | 'feeding' | 'clock' | 'level' | 'note';
}

/** Which devices are switched on before which, and why. */
function ordersOf({ rig }: SwitchFacts, list: PowerOn, there: ReadonlyMap<string, RigDevice>): Before[] {
	const index = indexRig(rig);
	const orders: Before[] = [];
	const add = (by: Before['by'], first: string, then: string, why: string) => {
		if (first !== then && there.has(first) && there.has(then)) orders.push({ by, first, then, why });
	};
	const name = (device: string) => there.get(device)?.name ?? '';
	for (const cable of rig.cables) {
		const [from, to] = [index.ports.get(cable.from), index.ports.get(cable.to)];
		if (!from || !to) continue;
		const [host, hosted] = from.port.connector === 'usb-host' ? [from, to] : [to, from];
		if (
			host.port.connector === 'usb-host' &&
			hosted.port.connector === 'usb-device' &&
			checkJoin(host, hosted, cable.adapter).fits
		)
			add('hosting', host.device.id, hosted.device.id, `${host.device.name} hosts it`);
		const feed = [from, to].find(({ port }) => port.connector === 'power' && port.direction === 'out');
		const fed = [from, to].find(({ port }) => port.connector === 'power' && port.direction === 'in');
		if (feed && fed) add('feeding', feed.device.id, fed.device.id, `${feed.device.name} feeds it`);
	}
	const clocks = clocksOf(rig);
	for (const source of clocks.sources) {
		const leader = source.device?.id ?? source.host?.computer;
		if (leader)
			for (const follower of clocks.followers)
				if (source.reaches.has(follower.id))
					add('clock', leader, follower.id, `${name(leader)} leads its clock`);
	}
	for (const [device, { kind }] of there)
		for (const [other, { kind: otherKind }] of there) {
			if (LOUD.test(kind) && !LOUD.test(otherKind))
				add('level', other, device, 'amplifiers last on, first off');
			if (MIXER.test(kind) && !LOUD.test(otherKind) && !MIXER.test(otherKind))
				add('level', other, device, 'after what plays into it');
		}
	for (const { first, then } of list.orders) add('note', first, then, `after ${name(first)}, as you noted`);
	return orders;
}

/**
 * Devices in an order that keeps to what comes before what, and goes to another place only when nothing is left to do where
 * one stands. What contradicts itself is told, and broken where the walk comes to it first.
 */
function inOrder(
	devices: readonly RigDevice[],
	orders: readonly Pick<Before, 'first' | 'then'>[],
	places: readonly string[]
): { devices: RigDevice[]; broken: RigDevice[] } {
	const rank = (place: string) => {
		const at = places.indexOf(place);
		return at < 0 ? places.length : at;
	};
	const walk = [...devices].sort(
		(a, b) => rank(a.place) - rank(b.place) || a.place.localeCompare(b.place) || a.name.localeCompare(b.name)
	);
	const waits = new Map(walk.map(({ id: device }) => [device, new Set<string>()]));
	for (const { first, then } of orders) waits.get(then)?.add(first);
	const done: RigDevice[] = [];
	const broken: RigDevice[] = [];
	const left = new Set(walk);
	let here = walk[0]?.place ?? '';
	while (left.size > 0) {
		const free = [...left].filter(({ id: device }) => waits.get(device)!.size === 0);
		const next = free.find(({ place }) => place === here) ?? free[0] ?? [...left][0];
		if (free.length === 0) broken.push(next);
		here = next.place;
		left.delete(next);
		done.push(next);
		for (const waiting of waits.values()) waiting.delete(next.id);
	}
	return { devices: done, broken };
}

/** The devices that somebody switches, by id. */
const switched = ({ rig }: SwitchFacts, { left }: PowerOn): ReadonlyMap<string, RigDevice> =>
	new Map(
		rig.devices
			.filter(({ id: device, kind }) => !PASSIVE.test(kind) && !left.includes(device))
			.map((device) => [device.id, device])
	);
const plain = { see: '', why: '', messages: [] as string[], ask: '', answer: '', askable: false };
const conflictWords = ({ name }: RigDevice) =>
	`What comes before “${name}” comes after it, too: its place is a guess.`;

/**
 * What is done to switch a studio on: each device in the order that matters, with what it forgets, and what is loaded or sent
 * once everything that hangs on it is there.
 */
export function switchOnList(facts: SwitchFacts, list: PowerOn): SwitchList {
	const there = switched(facts, list);
	const orders = ordersOf(facts, list, there);
	const { devices, broken } = inOrder([...there.values()], orders, list.places);
	/** Devices that nobody switches have settings all the same: they come first. */
	const rest = facts.rig.devices.filter(({ id: device }) => !there.has(device));
	const items = [...rest, ...devices].flatMap((device): SwitchItem[] => {
		const { id: key, name, place } = device;
		const common = { ...plain, device: key, name, place };
		const on = `${key}:on`;
		const isSwitched = there.has(key);
		const before = orders.filter(({ then }) => then === key);
		const hosted = orders.filter(({ first, by }) => first === key && by === 'hosting');
		const own = list.items.filter((item) => item.device === key);
		return [
			...(isSwitched
				? [
						{
							...common,
							id: on,
							what: 'switch' as const,
							says: roleOf(device) === 'host' ? 'Switch it on and log in' : 'Switch it on',
							why: [...new Set(before.map(({ why }) => why))].join('; '),
							after: [...new Set(before.map(({ first }) => `${first}:on`))],
							askable: facts.askable.has(key)
						}
					]
				: []),
			...(facts.forgets.get(key) ?? []).map((forgotten) => ({
				...common,
				id: `${key}:${forgotten.id}`,
				what: 'set' as const,
				says: forgotten.says,
				why: {
					profile: 'forgotten at power-off, says its profile',
					catalogue: 'noted in the catalogue',
					pairing: 'so that it works with what it hangs on'
				}[forgotten.from],
				after: isSwitched ? [on] : []
			})),
			...own.map((item) => ({
				...common,
				id: `${key}:own:${item.id}`,
				what: item.what,
				says: item.says,
				see: item.see,
				messages: item.messages,
				ask: item.ask,
				answer: item.answer,
				// What a computer loads talks to what hangs on it.
				after: [
					...(isSwitched ? [on] : []),
					...(item.what === 'load' ? hosted.map(({ then }) => `${then}:on`) : [])
				]
			}))
		];
	});
	return { items: settled(loudLast(items, there)), conflicts: broken.map(conflictWords) };
}

/** What makes everything audible comes after all that is set, loaded and sent elsewhere, too. */
function loudLast(items: readonly SwitchItem[], there: ReadonlyMap<string, RigDevice>): SwitchItem[] {
	const isLoud = ({ device }: SwitchItem) => LOUD.test(there.get(device)?.kind ?? '');
	const quiet = items.filter((item) => !isLoud(item)).map(({ id: item }) => item);
	return items.map((item) =>
		isLoud(item) && item.what === 'switch'
			? { ...item, after: [...new Set([...item.after, ...quiet])] }
			: item
	);
}

/** Items moved behind what comes before them, where that stands further on; otherwise as they are. */
function settled(items: readonly SwitchItem[]): SwitchItem[] {
	const known = new Set(items.map(({ id: item }) => item));
	const done = new Set<string>();
	const out: SwitchItem[] = [];
	const waits = ({ after }: SwitchItem) => after.some((each) => known.has(each) && !done.has(each));
	let left = [...items];
	while (left.length > 0) {
		// An order that contradicts itself: the first goes on.
		const free = left.every(waits) ? left[0] : null;
		left = left.filter((item) => {
			if (item !== free && waits(item)) return true;
			out.push(item);
			done.add(item.id);
			return false;
		});
	}
	return out;
}

/** What is done to switch a studio off: what would be lost is kept, then the same order backwards. */
export function switchOffList(facts: SwitchFacts, list: PowerOn): SwitchList {
	const there = switched(facts, list);
	const orders = ordersOf(facts, list, there).filter(({ by }) => by !== 'clock');
	const backwards = orders.map(({ first, then, why }) => ({ first: then, then: first, why }));
	const { devices, broken } = inOrder([...there.values()], backwards, [...list.places].reverse());
	const keep = devices.flatMap((device): SwitchItem[] => {
		const says = facts.changed.get(device.id);
		return says === undefined
			? []
			: [
					{
						...plain,
						id: `${device.id}:keep`,
						device: device.id,
						name: device.name,
						place: device.place,
						what: 'keep',
						says: `Back it up first, or leave it: ${says}`,
						after: []
					}
				];
	});
	const off = devices.map((device): SwitchItem => {
		const before = backwards.filter(({ then }) => then === device.id);
		return {
			...plain,
			id: `${device.id}:off`,
			device: device.id,
			name: device.name,
			place: device.place,
			what: 'switch',
			says: roleOf(device) === 'host' ? 'Save, close its programs, shut it down' : 'Switch it off',
			why: LOUD.test(device.kind)
				? 'amplifiers last on, first off'
				: before.length > 0
					? `after ${[...new Set(before.map(({ first }) => there.get(first)!.name))].join(', ')}`
					: '',
			after: [
				...(facts.changed.has(device.id) ? [`${device.id}:keep`] : []),
				...new Set(before.map(({ first }) => `${first}:off`))
			]
		};
	});
	return { items: [...keep, ...off], conflicts: broken.map(conflictWords) };
}

/** Where one walks to another place: that place beside its first item, null beside the others. */
export const walksOf = (items: readonly SwitchItem[]): (string | null)[] =>
	items.map(({ place }, i) => (i === 0 || items[i - 1].place !== place ? place || 'no place noted' : null));
