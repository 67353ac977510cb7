import { joinBytes } from '../midi';
import { CHECKSUMS } from '../sysex';
import { between, type Random } from './random';
import type { UnitState } from './unit';

/** Commands and answers of the loaders of this bench, after `F0 7D model`. */
const ASK = 0x60;
const STANDS = 0x61;
const HEADER = 0x62;
const BLOCK = 0x63;
const LAST = 0x64;
const TAKEN = 0x65;
const AGAIN = 0x66;
const REFUSED = 0x67;
const DONE = 0x68;

const sumOf = (bytes: Uint8Array): number => CHECKSUMS['sum-7'].of(bytes)[0];

/**
 * The part of a simulated device that takes a new system. It is in its state alone, so a supply that fails takes away what it
 * had counted and not what it had erased: `erased` stays until all of a file is there.
 */
export class Loader {
	/** What the display shows. */
	shows = '';
	#block = 0;
	#blocks = 0;
	#sum = 0;
	#next: [number, number] = [0, 0];

	constructor(
		private readonly model: number,
		private readonly state: UnitState,
		private readonly reply: (bytes: Uint8Array) => void,
		/** Busy with its flash memory. */
		private readonly work: () => void,
		/** The new system starts: what the old one kept is gone. */
		private readonly renewed: () => void
	) {
		this.shows = this.#erased ? 'NO SYSTEM: UPDATE' : 'UPDATE MODE';
	}

	get #erased(): boolean {
		return this.state.settings.erased === 1;
	}

	#say(...bytes: number[]): void {
		this.reply(Uint8Array.of(0xf0, 0x7d, this.model, ...bytes, 0xf7));
	}

	/** A message to the loader; anything else is none of its business. */
	handle(message: Uint8Array): void {
		if (message[1] !== 0x7d || message[2] !== this.model) return;
		const data = message.subarray(4, message.length - 1);
		switch (message[3]) {
			case ASK:
				return this.#say(STANDS, this.#blocks > 0 ? 2 : this.#erased ? 1 : 0);
			case HEADER: {
				if (data.length !== 5) return this.#say(AGAIN, 0, 0);
				const [variant, major, minor, high, low] = data;
				if (variant !== (this.state.settings.variant ?? 0)) {
					this.shows = 'WRONG FILE';
					return this.#say(REFUSED, 1);
				}
				this.state.settings.erased = 1;
				this.#blocks = high * 128 + low;
				this.#block = this.#sum = 0;
				this.#next = [major, minor];
				this.shows = 'ERASED, RECEIVING';
				this.work();
				return this.#say(TAKEN, 0, 0);
			}
			case BLOCK: {
				const number = data[0] * 128 + data[1];
				const body = data.subarray(2, data.length - 1);
				if (this.#blocks === 0) return this.#say(REFUSED, 3);
				// One that it has already: its answer was lost.
				if (number === this.#block - 1) return this.#say(TAKEN, data[0], data[1]);
				if (number !== this.#block || body.length !== 128 || sumOf(body) !== data[data.length - 1])
					return this.#say(AGAIN, this.#block >> 7, this.#block & 0x7f);
				this.#block++;
				this.#sum = (this.#sum + sumOf(body)) & 0x7f;
				this.shows = `BLOCK ${this.#block} OF ${this.#blocks}`;
				this.work();
				return this.#say(TAKEN, data[0], data[1]);
			}
			case LAST: {
				if (this.#blocks === 0 || this.#block !== this.#blocks || data[0] !== this.#sum)
					return this.#say(REFUSED, 2);
				this.state.firmware = this.#next;
				delete this.state.settings.erased;
				this.#blocks = 0;
				this.shows = 'DONE: SWITCH OFF';
				this.renewed();
				return this.#say(DONE, ...this.#next);
			}
		}
	}
}

/** A made-up system file for a simulated device, as a maker would give it. `variant`: which gear it is for. */
export function makeFirmware(
	model: number,
	{
		variant,
		version,
		blocks,
		random
	}: { variant: number; version: [number, number]; blocks: number; random: Random }
): Uint8Array {
	const message = (...bytes: number[]) => [0xf0, 0x7d, model, ...bytes, 0xf7];
	const bodies = Array.from({ length: blocks }, () =>
		Uint8Array.from({ length: 128 }, () => between(random, 0, 127))
	);
	return Uint8Array.from([
		...message(HEADER, variant, ...version, blocks >> 7, blocks & 0x7f),
		...bodies.flatMap((body, i) => message(BLOCK, i >> 7, i & 0x7f, ...body, sumOf(body))),
		...message(LAST, sumOf(joinBytes(bodies)))
	]);
}
