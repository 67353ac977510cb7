import type { Transfer } from './transfer-orders';

/** How a transfer stands or ended, as it is shown. */
export interface TransferResult {
	transfer: Transfer;
	device: { id: string; name: string; benchUnit: string | null };
	/** Messages that are stored of a capture. */
	received: number;
	/** What proves a complete capture; null for anything else. */
	proof: string | null;
	/** Slots that came in. */
	slots: { area: string; index: number; label: string; name: string | null }[];
	/** What the panel must be set back to after a restore. */
	after: { id: string; says: string }[];
}
