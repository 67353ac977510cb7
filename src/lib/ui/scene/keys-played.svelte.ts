import { untrack } from 'svelte';
import { SvelteMap } from 'svelte/reactivity';
import {
	channelOf,
	instrumentsOf,
	keyName,
	Performance,
	playerOn,
	setupOf,
	Voices,
	type Heard,
	type Setup,
	type Sound,
	type Told
} from '../../core/scene';
import { recallMessages } from '../../core/profile';
import type { AuditionNote } from '../../core/transfer';
import { BenchPlayer } from '../../hardware/bench-player';
import { desk } from '../../hardware/desk.svelte';
import { hearReceived } from '../../hardware/hear-received';
import { playOn } from '../../hardware/listen';
import { Doing } from '../doing.svelte';
import { problemOf } from '../words';
import type { OpenSet } from './open-set.svelte';

/** How long a key that is struck on the page sounds. */
const SOUND_MS = 700;

/** A key that was struck last: on the page, or on a port of this tab. */
export interface StruckKey {
	player: string;
	key: number;
	velocity: number;
	live: boolean;
}

/** Keys that are struck on the page or heard on ports, played through what is on the desk. */
export class KeysPlayed {
	/** How hard keys of the page are struck, 1–127. */
	velocity = $state(90);
	struck = $state.raw<StruckKey | null>(null);
	listening = $state(false);
	/** Notes that sound by what was heard on ports. */
	sounding = $state(0);
	/** Messages on channels that no player sends on. */
	nobodys = $state(0);
	/** What became of sounding a key, by instrument. */
	said = $state.raw<{ instrument: string; says: string }[]>([]);
	/** Who takes the next keys instead, and what it does with one. */
	picker = $state.raw<{ who: string; pick: (key: number) => void } | null>(null);
	readonly doing = new Doing();
	readonly #open: OpenSet;
	/** Simulated players that were played since the listening began. */
	readonly #bench = new SvelteMap<string, BenchPlayer>();
	#live: Heard = $state.raw({ told: [], dropped: [] });

	constructor(open: OpenSet) {
		this.#open = open;
	}

	/** The desk as it plays. */
	get setup(): Setup {
		return setupOf(this.#open.set, this.#open.desk);
	}
	/** What the struck key comes to. */
	readonly heard = $derived.by((): Heard => {
		if (!this.struck) return { told: [], dropped: [] };
		if (this.struck.live) return this.#live;
		const { player, key } = this.struck;
		return new Performance(this.setup).play(player, Uint8Array.of(0x90, key, this.velocity));
	});
	/** Notes that begin with it. */
	get notes(): Told[] {
		return this.heard.told.filter(({ message }) => message[0] >> 4 === 9);
	}

	/** A key of the page goes down. While the bench is listened to, it is one of a simulated keyboard. */
	strike(player: string, key: number): void {
		if (this.listening && desk.world === 'bench') return this.#benchPlayer(player)?.press(key, this.velocity);
		if (this.picker) return this.picker.pick(key);
		this.said = [];
		this.struck = { player, key, velocity: this.velocity, live: false };
	}

	/** The key of the page comes up. */
	release(player: string): void {
		this.#bench.get(player)?.release();
	}

	pedal(player: string, controller: number, down: boolean): void {
		this.#benchPlayer(player)?.pedal(controller, down);
	}

	#benchPlayer(player: string): BenchPlayer | null {
		const channel = channelOf(this.setup, player);
		const one = this.setup.players.find(({ id }) => id === player);
		if (channel === null || !one) return null;
		const known = this.#bench.get(player);
		if (known) return known;
		const made = new BenchPlayer(one.name, channel);
		this.#bench.set(player, made);
		return made;
	}

	/** Hears players on the ports of this tab, until it is ended. @returns what ends it */
	listen(): () => void {
		const performance = new Performance(untrack(() => this.setup));
		const voices = new Voices((id) => this.#open.instrument(id)?.voices ?? null);
		this.nobodys = 0;
		const hear = ({ told }: Heard) => {
			for (const each of told) voices.hear(each);
			this.sounding = voices.sounding.length;
		};
		const deaf = hearReceived((bytes) => {
			if (bytes[0] < 0x80 || bytes[0] >= 0xf0) return;
			// The desk may have changed since: held notes are followed to their end.
			hear(performance.change(this.setup));
			const begins = bytes[0] >> 4 === 9 && bytes[2] > 0;
			if (begins && this.picker) return this.picker.pick(bytes[1]);
			const player = playerOn(this.setup, (bytes[0] & 15) + 1);
			if (!player) return void this.nobodys++;
			const heard = performance.play(player.id, bytes);
			hear(heard);
			if (!begins) return;
			this.#live = heard;
			this.said = [];
			this.struck = { player: player.id, key: bytes[1], velocity: bytes[2], live: true };
		});
		return () => {
			deaf();
			this.#bench.clear();
			this.sounding = 0;
		};
	}

	/** Has a sound selected on its channel, and one note of it heard. */
	async hear(instrument: string, channel: number, sound: Sound): Promise<void> {
		this.said = [];
		await this.doing.run(async () => {
			const note = { channel, key: 60, velocity: this.velocity };
			this.said = [
				{ instrument, says: await this.#soundOn(instrument, [note], recallMessages(sound, channel)) }
			];
		});
	}

	/** Sounds what the struck key comes to on the instruments, for a moment. */
	async sound(): Promise<void> {
		// Keys of an instrument itself are struck there.
		const notes = this.notes.filter(({ channel }) => channel > 0);
		this.said = [];
		await this.doing.run(async () => {
			this.said = await Promise.all(
				instrumentsOf(notes).map(async (instrument) => ({
					instrument,
					says: await this.#soundOn(
						instrument,
						notes
							.filter((note) => note.instrument === instrument)
							.map(({ channel, message: [, key, velocity] }) => ({ channel, key, velocity }))
					)
				}))
			);
		});
	}

	async #soundOn(
		instrument: string,
		notes: readonly AuditionNote[],
		first: readonly Uint8Array[] = []
	): Promise<string> {
		const line = this.#open.lines.lines[instrument];
		if (!line) return 'is no device of Gear: nothing leads to it from here.';
		try {
			const played = await playOn(line, { first, notes, ms: SOUND_MS });
			if (played.world === 'hardware') return `was sent it by ${played.port}. What sounded, you heard.`;
			// A note that hung there before is not one of these.
			const sounding = played.shown.sounding.filter((key) => notes.some((note) => note.key === key));
			return sounding.length > 0
				? `sounded ${sounding.map(keyName).join(', ')}, by its simulated panel.`
				: 'was sent it, and its simulated panel showed no such note.';
		} catch (error) {
			const { message, remedy } = problemOf(error);
			return `did not get it: ${message} ${remedy}`;
		}
	}
}
