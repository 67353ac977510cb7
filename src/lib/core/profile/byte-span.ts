/** What claims bytes of a message. `start` and `length` in bytes of the message. */
export interface ByteSpan {
	start: number;
	length: number;
	kind: 'fixed' | 'variable' | 'checksum' | 'name' | 'parameter' | 'record' | 'unclaimed';
	label: string;
	/** What it holds, as people read it. */
	shows: string;
	/** For a checksum: whether it is right; for fixed bytes and counts, whether they are as they must be. */
	right?: boolean;
}

/** A slot of which a message holds something, as its panel shows it, and its name. */
export interface NamedSlot {
	label: string;
	name: string | null;
}
