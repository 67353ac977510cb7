/** A slot that is through; of messages that no profile reads, their number in no area. */
export interface SlotThrough {
	area: string;
	/** From 0. */
	index: number;
	name: string | null;
}

/** What happens on the way, for progress and for storing what arrives. */
export type TransferEvent =
	| {
			event: 'phase';
			phase: 'identity' | 'safety copy' | 'send' | 'read back' | 'capture';
			bytes: number;
			ms: number;
			messages: number;
	  }
	/** With the slots that are whole with it. */
	| { event: 'received'; bytes: Uint8Array; title: string; slots: SlotThrough[] }
	/** A message that is kept with the dump beside it, because it says which slot that is of. */
	| { event: 'named'; bytes: Uint8Array }
	| { event: 'written'; bytes: number; title: string; slots: SlotThrough[] }
	| { event: 'hands'; says: string }
	| { event: 'hands done' }
	| { event: 'retry'; says: string }
	/** Damage was seen on the line: from here on nothing counts before it came twice in the same way. */
	| { event: 'distrusted' };

export type Emit = (event: TransferEvent) => void;
