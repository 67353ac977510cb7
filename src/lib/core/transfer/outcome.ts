import { versionText } from '../profile';
import type { Identity } from '../sysex';

/** Why a transfer did not do all that was asked. */
export type ReasonCode =
	| 'wrong model'
	| 'wrong device ID'
	| 'other variant'
	| 'no answer'
	| 'checksum'
	| 'damaged'
	| 'protected'
	| 'cancelled'
	| 'unplugged'
	| 'receive only'
	| 'no safety copy'
	| 'rejected'
	| 'not called up'
	| 'panel moved'
	| 'changed since'
	| 'nothing to do';

export interface Reason {
	code: ReasonCode;
	/** What happened, in the musician's words. */
	says: string;
	/** What to try. */
	remedy: string;
}

export interface MissingSlot {
	area: string;
	index: number;
	label: string;
	why: string;
}

export interface CaptureOutcome {
	kind: 'capture';
	status: 'complete' | 'incomplete' | 'refused';
	reason: Reason | null;
	missing: MissingSlot[];
	/** The messages that were accepted, in the order of arrival, those of an earlier attempt first. */
	messages: Uint8Array[];
	identity: Identity | null;
}

export interface SlotResult {
	area: string;
	index: number;
	label: string;
	name: string | null;
	result: 'verified' | 'already there' | 'differs' | 'sent' | 'not sent' | 'unknown';
	/** What the device holds instead, where it differs. */
	found?: string | null;
}

export interface RestoreOutcome {
	kind: 'restore';
	/** `verified` means all of it; `sent` where any of it cannot be read back: for that the eye must check. */
	status: 'verified' | 'differs' | 'sent' | 'incomplete' | 'refused';
	reason: Reason | null;
	slots: SlotResult[];
	/** Slots that were written, or may have been, neighbours that travel along among them. */
	touched: { area: string; index: number }[];
	/** Messages read back afterwards; empty where nothing was read. */
	readBack: Uint8Array[];
	/** Whether a safety copy was stored. */
	safety: boolean;
	identity: Identity | null;
}

/** `1.04` from the four version bytes of an identity reply, the way the bench devices and most others count. */
export const firmwareOf = (identity: Identity | null): string | null =>
	identity ? versionText(identity.version[0], identity.version[1]) : null;
