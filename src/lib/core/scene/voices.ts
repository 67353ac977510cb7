import type { Told } from './performance';

/** A note that sounds. */
export interface Voice {
	instrument: string;
	channel: number;
	note: number;
	velocity: number;
	/** Its key is up: a pedal holds it. */
	held: 'key' | 'pedal';
}

const DOWN = 64;

interface Channel {
	sustain: boolean;
	/** Notes whose keys were down when the sostenuto pedal went down; null while it is up. */
	caught: Set<number> | null;
}

/** What sounds on instruments that are told something: by the rules that modules keep, with no more voices than they have. */
export class Voices {
	/** The oldest first. */
	#sounding: Voice[] = [];
	readonly #channels = new Map<string, Channel>();

	/** @param voices how many notes an instrument plays at once; null for no limit that is known */
	constructor(readonly voices: (instrument: string) => number | null = () => null) {}

	get sounding(): readonly Voice[] {
		return this.#sounding;
	}

	/** @returns the voice that had to end for a new one, if any */
	hear({ instrument, channel, message }: Told): Voice | null {
		const [status, first, second] = message;
		const kind = status & 0xf0;
		const here = this.#channelOf(instrument, channel);
		const mine = (voice: Voice) => voice.instrument === instrument && voice.channel === channel;
		const one = this.#sounding.find((voice) => mine(voice) && voice.note === first);
		const isCaught = (note: number) => here.caught?.has(note) ?? false;
		if (kind === 0x90 && second > 0) {
			this.#sounding = this.#sounding.filter((voice) => voice !== one);
			const stolen = one ? null : this.#makeRoom(instrument);
			this.#sounding.push({ instrument, channel, note: first, velocity: second, held: 'key' });
			return stolen;
		}
		if (kind === 0x80 || kind === 0x90) {
			if (one && (here.sustain || isCaught(first))) one.held = 'pedal';
			else this.#sounding = this.#sounding.filter((voice) => voice !== one);
		} else if (kind === 0xb0 && first === 64) {
			here.sustain = second >= DOWN;
			if (!here.sustain) this.#end((voice) => mine(voice) && voice.held === 'pedal' && !isCaught(voice.note));
		} else if (kind === 0xb0 && first === 66) {
			if (second < DOWN) {
				here.caught = null;
				if (!here.sustain) this.#end((voice) => mine(voice) && voice.held === 'pedal');
			} else
				here.caught ??= new Set(
					this.#sounding.filter((voice) => mine(voice) && voice.held === 'key').map(({ note }) => note)
				);
		}
		return null;
	}

	#channelOf(instrument: string, channel: number): Channel {
		const name = JSON.stringify([instrument, channel]);
		let here = this.#channels.get(name);
		if (!here) this.#channels.set(name, (here = { sustain: false, caught: null }));
		return here;
	}

	#end(which: (voice: Voice) => boolean): void {
		this.#sounding = this.#sounding.filter((voice) => !which(voice));
	}

	/** The oldest voice ends where there is none to spare; one that a pedal holds before one that a key does. */
	#makeRoom(instrument: string): Voice | null {
		const most = this.voices(instrument);
		const all = this.#sounding.filter((voice) => voice.instrument === instrument);
		if (most === null || all.length < most) return null;
		const stolen = all.find(({ held }) => held === 'pedal') ?? all[0];
		this.#end((voice) => voice === stolen);
		return stolen;
	}
}
