import type { KnownState, Proof } from '../drawer';
import type { Lost, Unlike } from './templates';

/** A slot of a controller: what it was last seen to hold. */
export interface HeldTemplate {
	slot: number;
	label: string;
	/** Null where it was never read, or was written since. */
	name: string | null;
	state: KnownState;
	/** When it was read, and how that was proved. */
	at: string | null;
	proof: Proof | null;
}

/** A controller of the catalogue whose memory holds maps of a surface, and how a page stands to one of its slots. */
export interface ControllerMemory {
	controllers: { id: string; name: string; benchUnit: string | null }[];
	/** Null where nothing that is known speaks for this surface. */
	model: string | null;
	/** What it calls a slot. */
	slotWord: string;
	/** A slot holds all pages of a map, not one. */
	whole: boolean;
	/** The controller and the slot that are told of; null where the catalogue has none. */
	device: string | null;
	slot: number | null;
	slots: HeldTemplate[];
	/** Slots that were last seen to hold exactly this page. */
	exact: number[];
	/** Lines that the slot says otherwise. */
	unlike: Unlike[];
	/** What of the page does not go along. */
	lost: Lost[];
}
