/** What a link tells its listener. Bytes come in chunks of any size, in order. */
export interface LinkListener {
	bytes(chunk: Uint8Array): void;
	unplugged(): void;
	plugged(): void;
}

/** A two-way line to one MIDI port: real, or of the bench. */
export interface Link {
	readonly name: string;
	readonly connected: boolean;
	/** Sends bytes after those sent before; `sent` is called when the last one has left, or with false when the port is gone. */
	send(bytes: Uint8Array, sent: (left: boolean) => void): void;
	/** Listens until the answer is called. */
	listen(listener: LinkListener): () => void;
}
