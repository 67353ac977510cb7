import { wireMs } from '../midi';
import type { Clock } from '../transfer';
import type { Fault } from './faults';
import { between, type Random } from './random';

/** Bytes that are delivered together: 10 ms of wire, fine enough for every timing that the engine uses. */
const PIECE = 32;

export interface CableEnds {
	deliver(bytes: Uint8Array): void;
	/** The cable came out by itself. */
	pulled(forMs: number): void;
	/** The supply of what hangs on it failed for a moment. */
	starved(): void;
}

/**
 * One direction of a MIDI cable: a first-in-first-out line of 3,125 bytes/s. Each byte arrives 0.32 ms after the
 * one before it; faults change what arrives, never when.
 */
export class Cable {
	#faults: Fault[] = [];
	#freeAt = 0;
	#plugged = true;
	/** Counts how often the cable came out: what was under way then never arrives. */
	#pulls = 0;
	/** Bytes since the last F0, and whether the current message is being swallowed. */
	#inMessage = 0;
	#swallow = false;
	#carried = 0;
	#struck = new Map<Fault, number>();

	constructor(
		readonly way: 'from device' | 'to device',
		private readonly clock: Clock,
		private readonly random: Random,
		private readonly ends: CableEnds
	) {}

	/** Sets what goes wrong from now on; bytes and strikes are counted anew. */
	set faults(faults: Fault[]) {
		this.#faults = faults;
		this.#carried = 0;
		this.#struck = new Map();
	}

	get plugged(): boolean {
		return this.#plugged;
	}

	set plugged(plugged: boolean) {
		this.#plugged = plugged;
		if (plugged) return;
		this.#freeAt = 0;
		this.#pulls++;
	}

	/** Puts bytes on the line; `left` is called when the last one has left, false when the cable is out by then. */
	transmit(bytes: Uint8Array, left: (ok: boolean) => void = () => undefined): void {
		const start = Math.max(this.clock.now(), this.#freeAt);
		this.#freeAt = start + wireMs(bytes.length);
		const pulls = this.#pulls;
		const whole = bytes[0] === 0xf0 && bytes[bytes.length - 1] === 0xf7;
		for (let at = 0; at < bytes.length; at += PIECE) {
			const piece = bytes.subarray(at, Math.min(at + PIECE, bytes.length));
			const last = at + PIECE >= bytes.length;
			this.clock.after(start + wireMs(at + piece.length) - this.clock.now(), () => {
				if (!this.#plugged || pulls !== this.#pulls) {
					if (last) left(false);
					return;
				}
				const arrived = this.#pass(piece, whole ? bytes.length : 0);
				if (arrived.length > 0) this.ends.deliver(arrived);
				if (last) left(this.#plugged && pulls === this.#pulls);
			});
		}
	}

	/** Slips a real-time byte in between two others, wherever they are. */
	slip(byte: number): void {
		if (this.#plugged) this.ends.deliver(Uint8Array.of(byte));
	}

	#spend(fault: Fault & { times?: number }): void {
		this.#struck.set(fault, (this.#struck.get(fault) ?? 0) + 1);
	}

	#live(fault: Fault): boolean {
		const limit = 'times' in fault ? fault.times : undefined;
		return limit === undefined || (this.#struck.get(fault) ?? 0) < limit;
	}

	#pass(piece: Uint8Array, messageLength: number): Uint8Array {
		const faults = this.#faults.filter(
			(fault) => 'way' in fault && fault.way === this.way && this.#live(fault)
		);
		this.#carried += piece.length;
		if (faults.length === 0 && !this.#swallow) {
			for (const byte of piece) this.#inMessage = byte === 0xf0 ? 1 : this.#inMessage + 1;
			return piece;
		}
		const out: number[] = [];
		for (const byte of piece) {
			if (byte === 0xf0) {
				this.#inMessage = 0;
				this.#swallow = false;
				const adapter = faults.find(
					(fault) => fault.kind === 'drop long messages' && messageLength > fault.longerThan
				);
				if (adapter) {
					this.#spend(adapter);
					this.#swallow = true;
				}
			}
			this.#inMessage++;
			let value = byte;
			let lost = this.#swallow;
			for (const fault of faults) {
				if (lost || !this.#live(fault)) continue;
				if (fault.kind === 'truncate' && this.#inMessage > fault.afterBytes) {
					this.#spend(fault);
					this.#swallow = lost = true;
				} else if (fault.kind === 'drop long messages' && this.#inMessage > fault.longerThan) {
					this.#spend(fault);
					this.#swallow = lost = true;
				} else if (fault.kind === 'lose bytes' && this.random() < fault.share) {
					this.#spend(fault);
					lost = true;
				} else if (fault.kind === 'flip bits' && byte < 0x80 && this.random() < fault.share) {
					this.#spend(fault);
					value ^= 1 << between(this.random, 0, 6);
				} else if (fault.kind === 'unplug' && this.#carried > fault.afterBytes) {
					this.#spend(fault);
					this.ends.pulled(fault.forMs);
					return Uint8Array.from(out);
				} else if (fault.kind === 'power cut' && this.#carried > fault.afterBytes) {
					this.#spend(fault);
					this.ends.starved();
					// What was on its way meets a device that is just starting.
					this.#swallow = true;
					return new Uint8Array();
				}
			}
			if (!lost) out.push(value);
		}
		return Uint8Array.from(out);
	}
}
