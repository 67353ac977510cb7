import { fromHex, wireMs } from '../midi';
import { draftOf, heldAt, isSelected, noteHeld, nothingHeld, type Held } from './held';
import { sceneKey } from './place';
import { partAt, type Desk, type Part, type ShowSet } from './set';
import type { Instrument } from './setup';

/** Why a message is sent. */
export type Purpose = 'own' | 'local' | 'silence' | 'bank' | 'program' | 'volume';

export interface SceneMessage {
	instrument: string;
	/** 1–16; null where a message of one's own has none. */
	channel: number | null;
	purpose: Purpose;
	bytes: number[];
	says: string;
	/** The wire that it goes over, and from when to when, ms since the first. */
	line: string;
	atMs: number;
	untilMs: number;
}

export interface LevelJump {
	instrument: string;
	channel: number;
	/** How much louder, or with a minus softer, dB by the usual curve of controller 7. */
	db: number;
}

/** What a scene takes, from what is known. */
export interface SceneChange {
	/** In the order of time. */
	messages: SceneMessage[];
	/** Nothing leads to these, or they are away: what was meant for them is not sent. */
	unreached: { instrument: string; why: 'away' | 'no way'; messages: number }[];
	/** These drop out while they are spoken to: nothing is sent before somebody asks for it. */
	keptBack: { instrument: string; messages: number }[];
	jumps: LevelJump[];
	/** What a hand does. */
	hands: string[];
	/** Channels whose held notes are ended, for their instrument does not let them ring. */
	silenced: { instrument: string; channel: number }[];
	lines: { line: string; busyMs: number }[];
	/** From the first byte until the last instrument plays its sound, ms; longer by loads that nobody measured. */
	readyMs: number;
	/** Instruments that load a program, nobody knows for how long. */
	unmeasured: string[];
	/** What is known once all of it arrived. */
	held: Held;
}

export interface ChangeOptions {
	/** The wire that leads to an instrument; null where none does. */
	line?: (instrument: string) => string | null;
	/** Channels where notes are held now; null where nobody knows. */
	sounding?: readonly { instrument: string; channel: number }[] | null;
	/** Instruments that drop out, and may be spoken to this time. */
	asked?: readonly string[];
}

/** Messages that stay together, and what is to be waited for after them. */
interface Block {
	instrument: Instrument;
	messages: { channel: number | null; purpose: Purpose; bytes: number[]; says: string }[];
	loadMs: number;
	/** The block that must be over, load and all, before this one. */
	after: Block | null;
}

const control = (channel: number, controller: number, value: number) => [0xaf + channel, controller, value];

/** Controller 7 of so many per cent of an instrument's own level. */
export const volumeOf = ({ level }: Pick<Instrument, 'level'>, percent: number): number =>
	Math.min(127, Math.round((level * percent) / 100));

/** How much louder one value of controller 7 is than another, dB: 40 · log₁₀ of their ratio (General MIDI's recommended curve). */
export const louderDb = (from: number, to: number): number =>
	from === to ? 0 : 40 * Math.log10(Math.max(to, 0.5) / Math.max(from, 0.5));

/** Channels that a desk plays: those that switched-on zones reach, and the own sounds of players whose keys play them. */
export function placesOf(
	{ setup: { players } }: Pick<ShowSet, 'setup'>,
	{ zones, local }: Pick<Desk, 'zones' | 'local'>
): { instrument: string; channel: number }[] {
	const own = players.flatMap(({ id, own: instrument, sends, local: is }) =>
		instrument !== null && (local[id] ?? is) ? [{ instrument, channel: sends ?? 1 }] : []
	);
	const places = new Map(
		[...zones.filter(({ on }) => on).flatMap(({ to }) => to), ...own].map((place) => [
			sceneKey(place.instrument, place.channel),
			place
		])
	);
	return [...places.values()];
}

/** What a scene wants of the channels that it plays. */
export const partsPlayed = (
	set: Pick<ShowSet, 'setup'>,
	scene: Pick<Desk, 'zones' | 'local' | 'parts'>
): Part[] => placesOf(set, scene).map(({ instrument, channel }) => partAt(scene, instrument, channel));

/**
 * The fewest messages that bring what instruments are known to hold to what a desk wants, in an order that turns down before
 * it loads and up after, keeps a bank with its program, and gives every instrument its rest. Channels that the
 * desk does not play are left alone; what is not known is sent.
 */
export function sceneChange(set: ShowSet, from: Held, to: Desk, options: ChangeOptions = {}): SceneChange {
	const { line = (id) => id, sounding = null, asked = [] } = options;
	const instruments = new Map(set.setup.instruments.map((each) => [each.id, each]));
	const blocks: Block[] = [];
	const change: Omit<SceneChange, 'messages' | 'lines' | 'readyMs' | 'held'> = {
		unreached: [],
		keptBack: [],
		jumps: [],
		hands: [],
		silenced: [],
		unmeasured: []
	};
	const held = draftOf(from);
	const reach = (id: string): Instrument | null => {
		const one = instruments.get(id);
		return one && !one.away && line(id) !== null && (!one.dropsOut || asked.includes(id)) ? one : null;
	};
	/** Adds a block, or notes that it goes nowhere. */
	const add = (
		id: string,
		messages: Block['messages'],
		loadMs = 0,
		after: Block | null = null
	): Block | null => {
		if (messages.length === 0) return after;
		const instrument = reach(id);
		if (!instrument) {
			const one = instruments.get(id);
			const list = one?.dropsOut && !one.away && line(id) !== null ? change.keptBack : change.unreached;
			const noted = list.find((each) => each.instrument === id);
			if (noted) noted.messages += messages.length;
			else if (list === change.keptBack) change.keptBack.push({ instrument: id, messages: messages.length });
			else
				change.unreached.push({
					instrument: id,
					why: one?.away ? 'away' : 'no way',
					messages: messages.length
				});
			return null;
		}
		const block = { instrument, messages, loadMs, after };
		blocks.push(block);
		for (const { channel, bytes } of messages) noteHeld(held, id, channel ?? 1, bytes);
		return block;
	};

	for (const { instrument, channel, says, bytes } of to.messages) {
		const own = [...fromHex(bytes)];
		if (channel !== null && own[0] < 0xf0) own[0] = (own[0] & 0xf0) | (channel - 1);
		const on = own[0] < 0xf0 ? (own[0] & 0x0f) + 1 : null;
		add(instrument, [{ channel: on, purpose: 'own', bytes: own, says }]);
	}
	for (const { id, name, own, sends } of set.setup.players) {
		const local = to.local[id];
		if (own === null || local === undefined || held.local[id] === local) continue;
		const channel = sends ?? 1;
		const says = `${name}: local ${local ? 'on' : 'off'}`;
		if (add(own, [{ channel, purpose: 'local', bytes: control(channel, 122, local ? 127 : 0), says }]))
			held.local = { ...held.local, [id]: local };
	}
	const silence = (instrument: string, channel: number): Block['messages'] => {
		if (reach(instrument)) change.silenced.push({ instrument, channel });
		return [
			{ channel, purpose: 'silence', bytes: control(channel, 64, 0), says: 'sustain up' },
			{ channel, purpose: 'silence', bytes: control(channel, 123, 0), says: 'all notes off' }
		];
	};
	const sounds = ({ instrument, channel }: { instrument: string; channel: number }) =>
		sounding === null || sounding.some((each) => each.instrument === instrument && each.channel === channel);
	const places = placesOf(set, to);
	if (to.silence)
		for (const place of placesOf(set, {
			zones: set.setup.zones.map((zone) => ({ ...zone, on: true })),
			local: {}
		}))
			if (sounds(place)) add(place.instrument, silence(place.instrument, place.channel));
	for (const place of places) {
		const { instrument: id, channel } = place;
		const instrument = instruments.get(id);
		if (!instrument) continue;
		const { sound, volume } = partAt(to, id, channel);
		const now = heldAt(held, id, channel);
		const head: Block['messages'] = [];
		const level = volume === null ? null : volumeOf(instrument, volume);
		const turn: Block['messages'] =
			level === null || level === now.volume
				? []
				: [
						{
							channel,
							purpose: 'volume',
							bytes: control(channel, 7, level),
							says: `volume ${level}, ${volume} % of ${instrument.level}`
						}
					];
		const up = level !== null && now.volume !== null && level > now.volume;
		const select = sound !== null && !isSelected(sound, now);
		if (select && instrument.rings === false && !to.silence && sounds(place) && reach(id))
			head.push(...silence(id, channel));
		if (!up) head.push(...turn);
		if (select) {
			if (sound.msb !== null && sound.msb !== now.msb)
				head.push({
					channel,
					purpose: 'bank',
					bytes: control(channel, 0, sound.msb),
					says: `bank ${sound.msb}`
				});
			if (sound.lsb !== null && sound.lsb !== now.lsb)
				head.push({
					channel,
					purpose: 'bank',
					bytes: control(channel, 32, sound.lsb),
					says: `bank LSB ${sound.lsb}`
				});
			head.push({
				channel,
				purpose: 'program',
				bytes: [0xbf + channel, sound.program],
				says: `program ${sound.program}: ${sound.name}`
			});
		}
		const first = add(id, head, select ? (instrument.loadMs ?? 0) : 0);
		const turned = up && add(id, turn, 0, first) !== null;
		if (reach(id)) {
			if (select && instrument.loadMs === null && !change.unmeasured.includes(id)) change.unmeasured.push(id);
			const db = level === null || now.volume === null ? 0 : louderDb(now.volume, level);
			if (Math.abs(db) > set.loudDb && (turned || !up)) change.jumps.push({ instrument: id, channel, db });
		}
	}
	for (const { controller, page } of to.pages)
		if (held.pages[controller] !== page) change.hands.push(`${controller}: turn to ${page}.`);
	if (to.tempo !== null && to.tempo !== held.tempo) change.hands.push(`Tempo ${to.tempo}.`);
	const pages = Object.fromEntries(to.pages.map(({ controller, page }) => [controller, page]));
	held.pages = { ...held.pages, ...pages };
	held.tempo = to.tempo ?? held.tempo;
	return { ...change, ...timed(blocks, (id) => line(id)!), held };
}

/** What it takes from one scene to another, or from nothing known. */
export const changeBetween = (
	set: ShowSet,
	from: Desk | null,
	to: Desk,
	options: ChangeOptions = {}
): SceneChange =>
	sceneChange(set, from ? sceneChange(set, nothingHeld, from, options).held : nothingHeld, to, options);

/** When each message goes over its wire: on every wire the instrument that takes longest from then on comes first. */
function timed(
	blocks: readonly Block[],
	line: (instrument: string) => string
): Pick<SceneChange, 'messages' | 'lines' | 'readyMs'> {
	const messages: SceneMessage[] = [];
	const busy = new Map<string, number>();
	let readyMs = 0;
	/** When an instrument takes the next message. */
	const free = new Map<string, number>();
	const freeAt = ({ instrument }: Block) => free.get(instrument.id) ?? 0;
	const byLine = new Map<string, Block[]>();
	for (const block of blocks) {
		const over = line(block.instrument.id);
		byLine.set(over, [...(byLine.get(over) ?? []), block]);
	}
	for (const [over, all] of byLine) {
		const left = new Set(all);
		/** Loads that an instrument still has before it. */
		const ahead = new Map<string, number>();
		for (const { instrument, loadMs } of all)
			ahead.set(instrument.id, (ahead.get(instrument.id) ?? 0) + loadMs);
		let nowMs = 0;
		while (left.size > 0) {
			const open = [...left].filter(({ after }) => after === null || !left.has(after));
			const soonest = Math.max(nowMs, Math.min(...open.map(freeAt)));
			const block = open
				.filter((each) => freeAt(each) <= soonest)
				.reduce((best, each) =>
					(ahead.get(each.instrument.id) ?? 0) > (ahead.get(best.instrument.id) ?? 0) ? each : best
				);
			left.delete(block);
			const { id, restMs } = block.instrument;
			let at = Math.max(soonest, freeAt(block));
			for (const message of block.messages) {
				at = Math.max(at, free.get(id) ?? 0);
				const untilMs = at + wireMs(message.bytes.length);
				messages.push({ instrument: id, ...message, line: over, atMs: at, untilMs });
				free.set(id, untilMs + restMs);
				at = untilMs;
			}
			nowMs = at;
			ahead.set(id, (ahead.get(id) ?? 0) - block.loadMs);
			free.set(id, Math.max(free.get(id) ?? 0, at + block.loadMs));
			readyMs = Math.max(readyMs, at + block.loadMs);
		}
		busy.set(over, nowMs);
	}
	return {
		messages: messages.sort((a, b) => a.atMs - b.atMs),
		lines: [...busy].map(([name, busyMs]) => ({ line: name, busyMs })),
		readyMs
	};
}
