/** What happens on the way, for progress and for storing what arrives. */
export type TransferEvent =
	| {
			event: 'phase';
			phase: 'identity' | 'safety copy' | 'send' | 'read back' | 'capture';
			bytes: number;
			ms: number;
			messages: number;
	  }
	/** `names` of what came, one a record. */
	| {
			event: 'received';
			bytes: Uint8Array;
			title: string;
			area: string;
			firstSlot: number;
			records: number;
			names: (string | null)[];
	  }
	/** A message that is kept with the dump after it, because it says which slot that is of. */
	| { event: 'named'; bytes: Uint8Array }
	| { event: 'written'; bytes: number; title: string; area: string; firstSlot: number; records: number }
	| { event: 'hands'; says: string }
	| { event: 'hands done' }
	| { event: 'retry'; says: string }
	/** Damage was seen on the line: from here on nothing counts before it came twice in the same way. */
	| { event: 'distrusted' };

export type Emit = (event: TransferEvent) => void;
