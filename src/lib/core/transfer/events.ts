/** What happens on the way, for progress and for storing what arrives. */
export type TransferEvent =
	| {
			event: 'phase';
			phase: 'identity' | 'safety copy' | 'send' | 'read back' | 'capture';
			bytes: number;
			ms: number;
			messages: number;
	  }
	| { event: 'received'; bytes: Uint8Array; title: string; area: string; firstSlot: number; records: number }
	| { event: 'written'; bytes: number; title: string; area: string; firstSlot: number; records: number }
	| { event: 'hands'; says: string }
	| { event: 'hands done' }
	| { event: 'retry'; says: string }
	/** Damage was seen on the line: from here on nothing counts before it came twice in the same way. */
	| { event: 'distrusted' };

export type Emit = (event: TransferEvent) => void;
