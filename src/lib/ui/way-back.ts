import type { BankEntry } from '../core/drawer';

/**
 * What takes something back that was done. It is data: it outlives the page, and the server refuses what does not fit any
 * more.
 */
export type WayBack =
	/** Calls of the API, in their order; one that fails stops none of the others. */
	| {
			by: 'calls';
			calls: { method: 'POST' | 'PUT' | 'DELETE'; path: string; body?: unknown }[];
			/** What is said when all of them worked. */
			says: string;
			/** Where the work goes on. */
			then?: string;
	  }
	/** A move through the history of the wiring. */
	| { by: 'wiring'; move: 'undo' | 'redo' | 'leave-out'; step: number }
	/** What a search took into the catalogue. */
	| { by: 'contact'; devices: number; order: unknown }
	/** What a restore overwrote: its safety copy is put into the tray, where it is checked before anything is written. */
	| { by: 'restore'; transferId: string }
	/** A slot of a bank, as long as it holds what took its place. */
	| { by: 'bank slot'; bank: string; index: number; was: BankEntry; now: string };

/** A way back with what its button says. */
export interface Undo {
	title: string;
	way: WayBack;
}

/** Whether it worked; `begun` where the musician goes on with it elsewhere, and it is not undone yet. */
export type Back = boolean | 'begun';
