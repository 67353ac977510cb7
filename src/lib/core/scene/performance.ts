import type { Player, Setup, Zone } from './setup';
import { strike } from './strike';

/** A place where notes sound: a channel of an instrument; 0 for the keys of the instrument itself. */
export interface Place {
	instrument: string;
	channel: number;
}

/** Something that an instrument is told. */
export interface Told extends Place {
	message: Uint8Array;
}

/** A key that made no note somewhere, and why. */
export interface Dropped {
	player: string;
	key: number;
	zone: string;
	instrument: string | null;
	why: 'softer' | 'harder' | 'no such note' | 'out of its range' | 'struck at nothing';
}

export interface Heard {
	told: Told[];
	dropped: Dropped[];
}

const SUSTAIN = 64;
const SOSTENUTO = 66;
const EXPRESSION = 11;
const MODULATION = 1;
const HOLDING = [SUSTAIN, SOSTENUTO] as const;
const DOWN = 64;
/** The pitch wheel at rest, 14 bits. */
const CENTRE = 0x2000;
/** Keys of an instrument itself have no channel. */
const LOCAL = 0;

/** A note that a held key keeps on, somewhere. */
interface Kept {
	place: string;
	note: number;
	zone: string | null;
}

const keyOf = ({ instrument, channel }: Place) => JSON.stringify([instrument, channel]);
const placeOf = (key: string): Place => {
	const [instrument, channel] = JSON.parse(key) as [string, number];
	return { instrument, channel };
};

/** What a player does now, beside its keys. */
interface Hands {
	keys: Map<number, Kept[]>;
	/** By controller; what was never heard is at rest. */
	controllers: Map<number, number>;
	bend: number;
}

/**
 * Plays what players do through a setup: what each instrument is told. Whatever the setup is changed to in the midst, every note
 * is ended where it was begun, and every pedal is let go where it was pressed.
 */
export class Performance {
	#setup: Setup;
	readonly #hands = new Map<string, Hands>();
	/** Keys that keep a note on, by place and note. */
	readonly #on = new Map<string, number>();
	/** Whose pedal holds what at a place: by controller and place, each player’s value. */
	readonly #holds = new Map<string, Map<string, number>>();
	/** Zones that sound what is played now. */
	#active: ReadonlySet<string>;
	/** What wheels were last told, by place. */
	readonly #wheels = new Map<string, { bend: number; modulation: number }>();
	#heard: Heard = { told: [], dropped: [] };

	constructor(setup: Setup) {
		this.#setup = setup;
		this.#active = this.#activeZones();
	}

	/** A channel message of a player. Whatever else there is (clock, dumps, program changes) goes nowhere from here. */
	play(player: string, message: Uint8Array): Heard {
		return this.#during(() => this.#take(player, message));
	}

	#take(player: string, message: Uint8Array): void {
		const one = this.#setup.players.find(({ id }) => id === player);
		const [status, first, second] = message;
		const kind = status & 0xf0;
		if (!one) return;
		if (kind === 0x90 && second > 0) this.#press(one, first, second);
		else if (kind === 0x80 || kind === 0x90) this.#release(player, first);
		else if (kind === 0xb0) this.#control(player, first, second);
		else if (kind === 0xe0) {
			this.#turning(player).bend = first | (second << 7);
			this.#tellWheels();
		}
	}

	/** Another setup from now on. What is held rings until it is let go; zones that are gone play nothing new. */
	change(setup: Setup): Heard {
		return this.#during(() => {
			this.#setup = setup;
			this.#follow();
		});
	}

	/** Everything is let go: keys, pedals, wheels. */
	end(): Heard {
		return this.#during(() => this.#letAll());
	}

	#letAll(): void {
		for (const [player, { keys }] of this.#hands)
			for (const key of [...keys.keys()]) this.#release(player, key);
		for (const [player, hands] of this.#hands) {
			for (const controller of HOLDING)
				if (hands.controllers.has(controller)) this.#control(player, controller, 0);
			hands.controllers.clear();
			hands.bend = CENTRE;
		}
		// What a pedal had taken out is there again.
		this.#follow();
	}

	/** What is told while something is done. */
	#during(does: () => void): Heard {
		const heard = (this.#heard = { told: [], dropped: [] });
		does();
		return heard;
	}

	#handsOf(player: string): Hands {
		let hands = this.#hands.get(player);
		if (!hands) this.#hands.set(player, (hands = { keys: new Map(), controllers: new Map(), bend: CENTRE }));
		return hands;
	}

	/** The hands of a player who turns a wheel: from now on theirs are the last. */
	#turning(player: string): Hands {
		const hands = this.#handsOf(player);
		this.#hands.delete(player);
		this.#hands.set(player, hands);
		return hands;
	}

	#tell(place: string, ...bytes: [number, number, number]): void {
		const { instrument, channel } = placeOf(place);
		// The keys of an instrument itself speak to it without a channel: what it does is written as if on the first.
		const [status, first, second] = bytes;
		this.#heard.told.push({
			instrument,
			channel,
			message: Uint8Array.of(status | Math.max(0, channel - 1), first, second)
		});
	}

	#activeZones(): Set<string> {
		const out = ({ player, leaves }: Zone) => {
			if (!leaves) return false;
			const down = (this.#hands.get(player)?.controllers.get(leaves.controller) ?? 0) >= DOWN;
			return down === (leaves.when === 'down');
		};
		return new Set(this.#setup.zones.filter((zone) => zone.on && !out(zone)).map(({ id }) => id));
	}

	/** Zones of a player that sound now. */
	#zonesOf(player: string): Zone[] {
		return this.#setup.zones.filter((zone) => zone.player === player && this.#active.has(zone.id));
	}

	#press(player: Player, key: number, velocity: number): void {
		this.#release(player.id, key);
		const kept: Kept[] = [];
		const { keys, controllers } = this.#handsOf(player.id);
		const begin = (place: Place, note: number, hard: number, zone: string | null) => {
			const at = keyOf(place);
			const name = JSON.stringify([at, note]);
			const others = this.#on.get(name) ?? 0;
			// Once more where it sounds already: the voice is struck anew, and ends with the last key that keeps it.
			if (others > 0) this.#tell(at, 0x80, note, 64);
			this.#tell(at, 0x90, note, hard);
			this.#on.set(name, others + 1);
			kept.push({ place: at, note, zone });
		};
		if (player.own !== null && player.local)
			begin({ instrument: player.own, channel: LOCAL }, key, velocity, null);
		for (const zone of this.#zonesOf(player.id)) {
			if (key < zone.keys[0] || key > zone.keys[1]) continue;
			const struck = strike(zone, key, velocity, controllers.get(EXPRESSION) ?? 127);
			const drop = (why: Dropped['why'], instrument: string | null = null) =>
				this.#heard.dropped.push({ player: player.id, key, zone: zone.id, instrument, why });
			if ('dropped' in struck) {
				drop(struck.dropped);
				continue;
			}
			for (const place of zone.to) {
				const instrument = this.#setup.instruments.find(({ id }) => id === place.instrument);
				if (!instrument) drop('struck at nothing', place.instrument);
				else if (struck.note < instrument.keys[0] || struck.note > instrument.keys[1])
					drop('out of its range', place.instrument);
				else begin(place, struck.note, struck.velocity, zone.id);
			}
		}
		keys.set(key, kept);
	}

	#let(kept: readonly Kept[]): void {
		for (const { place, note } of kept) {
			const name = JSON.stringify([place, note]);
			const left = (this.#on.get(name) ?? 1) - 1;
			if (left > 0) this.#on.set(name, left);
			else {
				this.#on.delete(name);
				this.#tell(place, 0x80, note, 64);
			}
		}
	}

	#release(player: string, key: number): void {
		const { keys } = this.#handsOf(player);
		const kept = keys.get(key);
		if (!kept) return;
		keys.delete(key);
		this.#let(kept);
	}

	#control(player: string, controller: number, value: number): void {
		const hands = controller === MODULATION ? this.#turning(player) : this.#handsOf(player);
		hands.controllers.set(controller, value);
		this.#follow();
		if (HOLDING.some((each) => each === controller)) this.#hold(player, controller, value);
		if (controller === EXPRESSION)
			for (const place of this.#placesOf(player, ({ expression }) => expression === 'volume'))
				this.#tell(place, 0xb0, EXPRESSION, value);
	}

	/** Places that a player’s zones sound at now, each once. */
	#placesOf(player: string, which: (zone: Zone) => boolean): Set<string> {
		return new Set(
			this.#zonesOf(player)
				.filter(which)
				.flatMap(({ to }) => to.map(keyOf))
		);
	}

	/** A pedal that holds notes is where it is: told to the places that hear it, and to those that it holds still. */
	#hold(player: string, controller: number, value: number): void {
		const places = this.#placesOf(player, ({ through }) => through.pedals);
		const own = this.#setup.players.find(({ id }) => id === player);
		if (own?.own && own.local) places.add(keyOf({ instrument: own.own, channel: LOCAL }));
		for (const place of places) this.#holdAt(place, player, controller, value);
		if (value >= DOWN) return;
		for (const [name, values] of this.#holds) {
			const [of, place] = JSON.parse(name) as [number, string];
			if (of === controller && values.has(player) && !places.has(place))
				this.#holdAt(place, player, controller, 0);
		}
	}

	/** The furthest down of all pedals that hold a place is what it is told. */
	#holdAt(place: string, player: string, controller: number, value: number): void {
		const name = JSON.stringify([controller, place]);
		const values = this.#holds.get(name) ?? new Map<string, number>();
		this.#holds.set(name, values);
		const before = Math.max(0, ...values.values());
		if (value > 0) values.set(player, value);
		else values.delete(player);
		const now = Math.max(0, ...values.values());
		if (now !== before) this.#tell(place, 0xb0, controller, now);
	}

	/** Zones that came in or went out since: notes that end with theirs, pedals that they did not hear yet, wheels. */
	#follow(): void {
		const before = this.#active;
		this.#active = this.#activeZones();
		const there = new Map(this.#setup.zones.map((zone) => [zone.id, zone]));
		/** Taken out by a pedal that ends its notes; a zone that is gone lets them ring. */
		const ended = (zone: string) => {
			const one = there.get(zone);
			return before.has(zone) && !this.#active.has(zone) && one?.on === true && one.leaves?.notes === 'end';
		};
		for (const { keys } of this.#hands.values())
			for (const [key, kept] of keys) {
				const gone = kept.filter(({ zone }) => zone !== null && ended(zone));
				if (gone.length === 0) continue;
				keys.set(
					key,
					kept.filter((each) => !gone.includes(each))
				);
				this.#let(gone);
			}
		for (const [player, { controllers }] of this.#hands)
			for (const controller of HOLDING) {
				const value = controllers.get(controller) ?? 0;
				if (value >= DOWN) this.#hold(player, controller, value);
			}
		this.#tellWheels();
	}

	/** Wheels stand, at each place, where the player has them who turned one last; where no zone leads they are at rest. */
	#tellWheels(): void {
		const wanted = new Map<string, { bend: number; modulation: number }>();
		for (const [player, { bend, controllers }] of this.#hands)
			for (const place of this.#placesOf(player, ({ through }) => through.wheels))
				wanted.set(place, { bend, modulation: controllers.get(MODULATION) ?? 0 });
		for (const place of new Set([...this.#wheels.keys(), ...wanted.keys()])) {
			const is = this.#wheels.get(place) ?? { bend: CENTRE, modulation: 0 };
			const next = wanted.get(place) ?? { bend: CENTRE, modulation: 0 };
			if (is.bend !== next.bend) this.#tell(place, 0xe0, next.bend & 0x7f, next.bend >> 7);
			if (is.modulation !== next.modulation) this.#tell(place, 0xb0, MODULATION, next.modulation);
			this.#wheels.set(place, next);
		}
	}
}
