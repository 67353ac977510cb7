import { joinBytes, wireMs } from '../core/midi';
import type { Clock, Link, LinkListener } from '../core/transfer';

/** What the link needs of the browser's ports: found anew whenever something is plugged in or out. */
export interface PortPair {
	input: Pick<MIDIInput, 'state' | 'onmidimessage'> | null;
	output: Pick<MIDIOutput, 'state' | 'send'> | null;
}

/** How far ahead of its time a message is handed to the browser, in ms. */
const AHEAD_MS = 4;
const SYSEX_END = 0xf7;

/**
 * A line to a device over the browser's MIDI ports. Messages leave one after another at the wire's own pace, by
 * timestamps; `sent` is called when the last byte must have left. The browser takes whole messages only: pieces are
 * gathered until their message is whole, and their rests are added to the rest after it.
 */
export class MidiLink implements Link {
	readonly #listeners = new Set<LinkListener>();
	#pair: PortPair = { input: null, output: null };
	#freeAt = 0;
	#pieces: Uint8Array[] = [];
	/** Counts how often the port went away: what was under way then did not leave. */
	#losses = 0;
	/** Told of everything that passes. */
	watch: (way: 'sent' | 'received', bytes: Uint8Array) => void = () => undefined;

	constructor(
		readonly name: string,
		private readonly clock: Clock,
		private readonly find: () => PortPair,
		/** Rest after each message that the adapter needs, in ms. */
		private readonly gapMs = 0
	) {
		this.refresh();
	}

	get connected(): boolean {
		return this.#usable(this.#pair);
	}

	#usable({ input, output }: PortPair): boolean {
		return input?.state === 'connected' && output?.state === 'connected';
	}

	/** Looks for the ports again: they may be gone, or be back under another id. */
	refresh(): void {
		const before = this.connected;
		const was = this.#pair;
		const now = this.find();
		if (was.input && was.input !== now.input) was.input.onmidimessage = null;
		this.#pair = now;
		if (now.input) now.input.onmidimessage = (event) => this.#hear(event.data);
		const lost = was.output !== now.output || was.input !== now.input;
		if (before && (!this.connected || lost)) {
			this.#losses++;
			this.#pieces = [];
			this.#freeAt = 0;
			for (const listener of this.#listeners) listener.unplugged();
		}
		if (this.connected && (!before || lost)) for (const listener of this.#listeners) listener.plugged();
	}

	#hear(data: Uint8Array | null): void {
		if (!data || data.length === 0) return;
		const bytes = Uint8Array.from(data);
		this.watch('received', bytes);
		for (const listener of this.#listeners) listener.bytes(bytes);
	}

	send(bytes: Uint8Array, sent: (left: boolean) => void): void {
		const { output } = this.#pair;
		if (!output || !this.connected) return sent(false);
		const losses = this.#losses;
		this.#pieces.push(bytes);
		const whole = bytes[bytes.length - 1] === SYSEX_END || this.#pieces[0][0] !== 0xf0;
		const start = Math.max(this.clock.now(), this.#freeAt);
		this.#freeAt = start + wireMs(bytes.length);
		const end = this.#freeAt;
		if (whole) {
			const message = this.#pieces.length === 1 ? bytes : joinBytes(this.#pieces);
			const begins = end - wireMs(message.length);
			this.#pieces = [];
			this.#freeAt += this.gapMs;
			this.watch('sent', message);
			try {
				output.send(message, Math.max(performance.now(), begins - AHEAD_MS));
			} catch {
				// The port was closed between the look and the send.
				return sent(false);
			}
		}
		this.clock.after(end - this.clock.now(), () => sent(losses === this.#losses && this.connected));
	}

	listen(listener: LinkListener): () => void {
		this.#listeners.add(listener);
		return () => this.#listeners.delete(listener);
	}

	/** Whether this is the port that it hears through. */
	uses(input: unknown): boolean {
		return this.#pair.input === input;
	}

	/** Lets the ports go. */
	close(): void {
		if (this.#pair.input) this.#pair.input.onmidimessage = null;
		this.#listeners.clear();
	}
}
