import { linked, MOST_LINKS, type ControlMap, type Told } from './map';
import { SPEC_TARGETS } from './spec-targets';
import { ADDRESS_WORDS, targetListSchema, type Address, type Target, type TargetList } from '../profile';

/** Where messages live that were written by their number. */
export const OWN_LIST = 'by-number';
export const OWN = { id: OWN_LIST, name: 'By number' } as const;

/** How a number is written, with the largest that there is. */
const NUMBERED = { cc: 127, note: 127, rpn: 16382, nrpn: 16382 } as const;
type Numbered = keyof typeof NUMBERED;

/** A list of a map, or the specification's. */
export const listFor = (map: ControlMap, id: string): TargetList | undefined =>
	map.lists.find((list) => list.id === id) ?? (id === SPEC_TARGETS.id ? SPEC_TARGETS : undefined);

/** Lists that can be written from: the map's own, and the specification's names. */
export const listsToWrite = (map: ControlMap): readonly TargetList[] =>
	map.lists.some(({ id }) => id === SPEC_TARGETS.id) ? map.lists : [...map.lists, SPEC_TARGETS];

export interface Candidate {
	list: string;
	target: string;
	/** As it is written, alone or with whose it is where two have the name. */
	says: string;
}

const CHANNEL = /\s+ch\s*(\d{1,2})$/i;
const NUMBER = /^(cc|note|rpn|nrpn)\s*(\d{1,5})$/i;
const DASH = /^[-–—]$/;
const REST = /^rest$/i;

/** Everything that can be written, each in words of its own: what is written so means it, and nothing else. */
export function candidates(map: ControlMap): Candidate[] {
	let said = known.get(map.lists);
	if (!said) known.set(map.lists, (said = sayAll(listsToWrite(map))));
	return said;
}

/** Lists never change: what can be written of them is worked out once. */
const known = new WeakMap<readonly TargetList[], Candidate[]>();

function sayAll(lists: readonly TargetList[]): Candidate[] {
	const all = lists.flatMap((list) => list.targets.map((target) => ({ list, target })));
	/** The words of each, with more behind them where two have the same. */
	const toldApart = (words: string[], more: (i: number) => string): string[] => {
		const times = new Map<string, number>();
		for (const each of words) times.set(each.toLowerCase(), (times.get(each.toLowerCase()) ?? 0) + 1);
		return words.map((each, i) => (times.get(each.toLowerCase())! > 1 ? `${each}${more(i)}` : each));
	};
	const exactly = (i: number) => ` (${all[i].list.id}/${all[i].target.id})`;
	const named = toldApart(
		// Semicolons stand between targets.
		all.map(({ target }) => target.name.replaceAll(';', ',').trim()),
		(i) => `, ${all[i].list.name.replaceAll(';', ',')}`
	);
	const clear = named.map((says, i) => {
		const { list, target } = all[i];
		const number = list.id === OWN_LIST || NUMBER.exec(says) === null;
		// A name that reads as a number, a channel, a dash or a rest would mean that.
		return number && !CHANNEL.test(says) && !DASH.test(says) && !REST.test(says) && target.name.trim() !== ''
			? says
			: `${says}${exactly(i)}`;
	});
	return toldApart(clear, exactly).map((says, i) => ({
		list: all[i].list.id,
		target: all[i].target.id,
		says
	}));
}

/** A target that was written, with what the map has to gain for it, and the channel where one was told. */
export interface MeantTarget {
	list: string;
	target: string;
	adds: Target | null;
	channel: number | null;
}

/** A target as it is written. */
export const targetWords = (map: ControlMap, told: Pick<Told, 'list' | 'target'>): string =>
	candidates(map).find(({ list, target }) => list === told.list && target === told.target)?.says ??
	linked(map, told).target?.name ??
	told.target;

/** The same with its channel. */
export const toldWords = (map: ControlMap, told: Told): string =>
	`${targetWords(map, told)} ch ${told.channel}`;

/** What was meant by what was written; `unknown` where nothing is called so, `also` where several are told. */
export type Meant =
	| { is: 'nothing' }
	| { is: 'empty' }
	/** The surface sends nothing while it is held. */
	| { is: 'rest' }
	| ({ is: 'target'; also?: MeantTarget[] } & MeantTarget)
	| { is: 'unknown'; says: string };

/**
 * Reads what was written on a strip: a name, `CC 74`, `note 36`, `NRPN 300`, each with `ch 3` behind it or not, several
 * with semicolons between; a dash for nothing on purpose; _rest_ for silence while it is held; blank for nothing yet.
 */
export function meantBy(map: ControlMap, written: string): Meant {
	const words = written
		.split(';')
		.map((word) => word.trim())
		.filter(Boolean);
	if (words.length < 2) return meantWord(map, words[0] ?? '');
	const all: MeantTarget[] = [];
	for (const word of words) {
		const meant = meantWord(map, word);
		if (meant.is === 'unknown') return meant;
		if (meant.is !== 'target') return { is: 'unknown', says: 'A dash, for nothing, and a rest stand alone.' };
		const { list, target, adds, channel } = meant;
		all.push({ list, target, adds, channel });
	}
	if (all.length > MOST_LINKS)
		return { is: 'unknown', says: `One control tells ${MOST_LINKS} targets at most.` };
	return { is: 'target', ...all[0], also: all.slice(1) };
}

function meantWord(map: ControlMap, written: string): Meant {
	const text = written.trim();
	if (text === '') return { is: 'nothing' };
	if (DASH.test(text)) return { is: 'empty' };
	if (REST.test(text))
		return map.surface.rests
			? { is: 'rest' }
			: { is: 'unknown', says: `Nothing on a ${map.surface.model} silences it.` };
	const behind = CHANNEL.exec(text);
	const channel = behind ? Number(behind[1]) : null;
	if (channel !== null && (channel < 1 || channel > 16))
		return { is: 'unknown', says: `There is no channel ${channel}: they go from 1 to 16.` };
	const name = text.replace(CHANNEL, '').trim();
	const number = NUMBER.exec(name);
	if (number) return byNumber(map, number[1].toLowerCase() as Numbered, Number(number[2]), channel);
	const folded = name.toLowerCase();
	const found = candidates(map);
	const exact = found.filter(({ says }) => says.toLowerCase() === folded);
	const begins = found.filter(({ says }) => says.toLowerCase().startsWith(folded));
	const [one, other] = exact.length > 0 ? exact : begins;
	if (one && (!other || exact.length > 0))
		return { is: 'target', list: one.list, target: one.target, adds: null, channel };
	if (one)
		return {
			is: 'unknown',
			says: `“${name}” begins ${begins.length} names: ${begins
				.slice(0, 4)
				.map(({ says }) => says)
				.join(', ')}${begins.length > 4 ? ' …' : ''}.`
		};
	return {
		is: 'unknown',
		says: `Nothing that this map can tell is called “${name}”. A number does, too: CC 74, note 36, NRPN 300.`
	};
}

function byNumber(map: ControlMap, kind: Numbered, number: number, channel: number | null): Meant {
	if (number > NUMBERED[kind])
		return {
			is: 'unknown',
			says: `There is no ${kind.toUpperCase()} ${number}: the last is ${NUMBERED[kind]}.`
		};
	const named = targetAt(
		map,
		(_, { address }) => address.kind === kind && 'number' in address && address.number === number
	);
	if (named) return { is: 'target', list: named.list, target: named.target.id, adds: null, channel };
	const target = ownTarget({ kind, number });
	return { is: 'target', list: OWN.id, target: target.id, adds: target, channel };
}

/** The first target that can be written and is wanted. */
export function targetAt(
	map: ControlMap,
	wanted: (list: TargetList, target: Target) => boolean
): { list: string; target: Target } | null {
	for (const list of listsToWrite(map))
		for (const target of list.targets) if (wanted(list, target)) return { list: list.id, target };
	return null;
}

const FOURTEEN_BITS = new Set<Address['kind']>(['cc-14', 'rpn', 'nrpn', 'pitch-bend']);

/** A target that is known by its message alone. */
export function ownTarget(address: Address): Target {
	const number = 'number' in address ? address.number : null;
	return targetListSchema.shape.targets.element.parse({
		id: number === null ? address.kind : `${address.kind}-${number}`,
		name: number === null ? ADDRESS_WORDS[address.kind] : `${ADDRESS_WORDS[address.kind]} ${number}`,
		address,
		...(FOURTEEN_BITS.has(address.kind) ? { high: 16383 } : {})
	});
}
