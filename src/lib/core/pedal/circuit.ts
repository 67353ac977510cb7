import { CONTACTS, modeOf, type CableKind, type Contact, type Jack, type Pedal, type PotPart } from './floor';
import { Network } from './network';

/** Jacks of one box, a cable, and pedals: one of each, or two at one end of a splitting cable. */
export interface Pairing {
	jacks: readonly Jack[];
	/** Null where the pedal has a cable of its own. */
	cable: CableKind | null;
	pedals: readonly Pedal[];
	/** Contacts at the jacks at which nothing arrives: a broken wire, or a plug that is not in. */
	cut?: readonly Contact[];
}

/** What stands in for resistors that nobody knows, in kΩ. */
export interface Assumed {
	pullKohm: number;
	feedKohm: number;
	loadKohm: number;
	potKohm: number;
}
/** What is taken where nobody asks for other corners. */
export const USUAL: Assumed = { pullKohm: 10, feedKohm: 1, loadKohm: 1000, potKohm: 10 };

const CORNERS: { [K in keyof Assumed]: readonly number[] } = {
	pullKohm: [1, 47],
	feedKohm: [0.1, 2.2],
	loadKohm: [100, 1000],
	potKohm: [10, 50]
};

/** The corners of what such boxes and pedals have, for the resistors of a pairing that are not known; one where all are. */
export function cornersOf({ jacks, pedals }: Pairing): Assumed[] {
	const modes = jacks.map(modeOf);
	const pots = modes.filter(({ takes }) => takes === 'expression');
	const unknown: (keyof Assumed)[] = [
		...(pots.length < modes.length && modes.some(({ pullKohm }) => pullKohm === null)
			? ['pullKohm' as const]
			: []),
		...(pots.some(({ feedKohm }) => feedKohm === null) ? ['feedKohm' as const] : []),
		...(pots.some(({ loadKohm }) => loadKohm === null) ? ['loadKohm' as const] : []),
		...(pedals.some(({ parts }) => parts.some((part) => part.is === 'pot' && part.kohm === null))
			? ['potKohm' as const]
			: [])
	];
	return unknown.reduce<Assumed[]>(
		(all, key) => all.flatMap((each) => CORNERS[key].map((kohm) => ({ ...each, [key]: kohm }))),
		[USUAL]
	);
}

/** Where each part of each pedal is: a foot down or up as 1 or 0, a pot from heel 0 to toe 1. */
export type Position = readonly (readonly number[])[];

/** What a contact of a jack reads, as a share of the box’s supply. */
export interface Read {
	jack: number;
	contact: 'tip' | 'ring';
	level: number;
}

/** The contact of a jack, or of a pedal. */
const at = (whose: 'jack' | 'pedal', index: number, contact: Contact) =>
	// All jacks of a box share its ground.
	whose === 'jack' && contact === 'sleeve' ? 'ground' : `${whose} ${index} ${contact}`;

/** A plug with two contacts in a socket for three: its sleeve lies on the socket’s ring, too. */
const shortens = (plug: 'ts' | 'trs', socket: 'ts' | 'trs') => plug === 'ts' && socket === 'trs';

/** A wire from a jack’s contact to a pedal’s; each is a place in a socket. */
type Wire = [jack: number, from: Contact, pedal: number, to: Contact];

interface Wiring {
	wires: Wire[];
	/** The plug in each jack, and in each pedal’s socket; null where its own cable leads out of it. */
	jackPlugs: ('ts' | 'trs')[];
	pedalPlugs: ('ts' | 'trs' | null)[];
}

const through = (jack: number, pedal: number, contacts: readonly Contact[]): Wire[] =>
	contacts.map((contact) => [jack, contact, pedal, contact]);

/** How a pairing is wired; null where its plugs do not go together. */
export function wiringOf({ jacks, cable, pedals }: Pairing): Wiring | null {
	const own = pedals.map(({ plug }) => plug.startsWith('own'));
	if (cable === null) {
		if (jacks.length !== 1 || pedals.length !== 1 || !own[0]) return null;
		const plug = pedals[0].plug === 'own-ts' ? 'ts' : 'trs';
		const contacts = plug === 'ts' ? (['tip', 'sleeve'] as const) : CONTACTS;
		return { wires: through(0, 0, contacts), jackPlugs: [plug], pedalPlugs: [null] };
	}
	if (own.some(Boolean)) return null;
	if (cable !== 'split') {
		if (jacks.length !== 1 || pedals.length !== 1) return null;
		const plug = cable === 'ts' ? 'ts' : 'trs';
		const wires: Wire[] =
			cable === 'ts'
				? through(0, 0, ['tip', 'sleeve'])
				: cable === 'trs'
					? through(0, 0, CONTACTS)
					: [
							[0, 'tip', 0, 'ring'],
							[0, 'ring', 0, 'tip'],
							[0, 'sleeve', 0, 'sleeve']
						];
		return { wires, jackPlugs: [plug], pedalPlugs: [plug] };
	}
	// Three contacts at one end; two plugs at the other, the first on the tip, the second on the ring.
	if (jacks.length === 1)
		return {
			wires: pedals.flatMap((_, i): Wire[] => [
				[0, i === 0 ? 'tip' : 'ring', i, 'tip'],
				[0, 'sleeve', i, 'sleeve']
			]),
			jackPlugs: ['trs'],
			pedalPlugs: pedals.map(() => 'ts')
		};
	if (pedals.length !== 1) return null;
	return {
		wires: jacks.flatMap((_, i): Wire[] => [
			[i, 'tip', 0, i === 0 ? 'tip' : 'ring'],
			[i, 'sleeve', 0, 'sleeve']
		]),
		jackPlugs: jacks.map(() => 'ts'),
		pedalPlugs: ['trs']
	};
}

/** How far along its track a pot’s wiper stands, from its second end, 0–1. `travel`: 0 heel – 1 toe. */
export function trackAt(
	{ heel, toe, taper }: Pick<PotPart, 'heel' | 'toe' | 'taper'>,
	travel: number
): number {
	const along = heel + (toe - heel) * travel;
	if (taper === 'even') return along;
	return taper === 'slow' ? along ** 2.5 : 1 - (1 - along) ** 2.5;
}

/** Whether a switch joins its contacts. `down`: the foot is, or a latching one is on. */
export const closes = (rest: 'open' | 'closed', flipped: boolean, down: boolean): boolean =>
	(rest === 'closed') !== (flipped !== down);

/** The contacts that a jack reads, as it is set. */
export function readContacts(jack: Jack): ('tip' | 'ring')[] {
	const mode = modeOf(jack);
	if (mode.takes === 'expression') return [mode.wiper];
	return mode.takes === 'switch' ? ['tip'] : ['tip', 'ring'];
}

const socketOf = (plug: Pedal['plug']) => (plug === 'socket-ts' ? 'ts' : 'trs');

/** A pairing as a network; null where its plugs do not go together. */
export function circuitOf(pairing: Pairing, position: Position, assumed: Assumed): Network | null {
	const wiring = wiringOf(pairing);
	if (!wiring) return null;
	const network = new Network();
	pairing.jacks.forEach((jack, i) => {
		const mode = modeOf(jack);
		if (shortens(wiring.jackPlugs[i], jack.socket)) network.join(at('jack', i, 'ring'), 'ground');
		if (mode.takes === 'expression') {
			const other = mode.wiper === 'tip' ? 'ring' : 'tip';
			network.feed(at('jack', i, other), mode.feedKohm ?? assumed.feedKohm);
			network.resist(at('jack', i, mode.wiper), 'ground', mode.loadKohm ?? assumed.loadKohm);
		} else
			for (const contact of readContacts(jack))
				network.feed(at('jack', i, contact), mode.pullKohm ?? assumed.pullKohm);
	});
	// A socket for two contacts has no ring: what would lie there touches nothing.
	const joins = ([jack, from, pedal, to]: Wire) =>
		!pairing.cut?.includes(from) &&
		!(from === 'ring' && pairing.jacks[jack].socket === 'ts') &&
		!(to === 'ring' && pairing.pedals[pedal].plug === 'socket-ts');
	for (const wire of wiring.wires.filter(joins))
		network.join(at('jack', wire[0], wire[1]), at('pedal', wire[2], wire[3]));
	pairing.pedals.forEach((pedal, i) => {
		const plug = wiring.pedalPlugs[i];
		if (plug && shortens(plug, socketOf(pedal.plug)))
			network.join(at('pedal', i, 'ring'), at('pedal', i, 'sleeve'));
		pedal.parts.forEach((part, p) => {
			if (part.is === 'switch') {
				const [a, b] = part.between;
				if (closes(part.rest, pedal.flipped, position[i][p] >= 0.5))
					network.join(at('pedal', i, a), at('pedal', i, b));
				return;
			}
			const track = trackAt(part, position[i][p]);
			const kohm = part.kohm ?? assumed.potKohm;
			const wiper = at('pedal', i, part.wiper);
			network.resist(at('pedal', i, part.ends[0]), wiper, (1 - track) * kohm);
			network.resist(wiper, at('pedal', i, part.ends[1]), track * kohm);
		});
	});
	return network;
}

/**
 * What the box reads with everything in a position: by resistors and joined contacts alone, the box’s supply being 1.
 * @returns null where the plugs do not go together
 */
export function readings(pairing: Pairing, position: Position, assumed: Assumed = USUAL): Read[] | null {
	const network = circuitOf(pairing, position, assumed);
	if (!network) return null;
	const voltage = network.voltages('ground');
	return pairing.jacks.flatMap((jack, i) =>
		readContacts(jack).map((contact) => ({ jack: i, contact, level: voltage(at('jack', i, contact)) }))
	);
}

/** Whether a jack’s supply for a pot lies on its ground: the box may get warm, and its other pedals go dead. */
export function feedShorted(pairing: Pairing, position: Position, assumed: Assumed = USUAL): boolean {
	const network = circuitOf(pairing, position, assumed);
	if (!network) return false;
	const voltage = network.voltages('ground');
	return pairing.jacks.some((jack, i) => {
		const mode = modeOf(jack);
		if (mode.takes !== 'expression') return false;
		return voltage(at('jack', i, mode.wiper === 'tip' ? 'ring' : 'tip')) < 0.02;
	});
}

/** All parts at rest: feet up, pots at the heel. */
export const atRest = (pedals: readonly Pedal[]): number[][] => pedals.map(({ parts }) => parts.map(() => 0));
