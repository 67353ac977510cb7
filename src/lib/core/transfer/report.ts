import { toHex } from '../midi';
import {
	firmwareOf,
	type CaptureOutcome,
	type MissingSlot,
	type Reason,
	type RestoreOutcome,
	type SlotResult
} from './outcome';

/** The end of a transfer as plain data, to be stored and shown. */
export interface TransferReport {
	status: CaptureOutcome['status'] | RestoreOutcome['status'];
	reason: Reason | null;
	/** Slots that are missing from a capture. */
	missing: number;
	firmware: string | null;
	/** Messages read back after a restore, in hexadecimal. */
	readBack: string[];
	/** Slots that a restore wrote, or may have written. */
	touched: { area: string; index: number }[];
	outcome: { missing?: MissingSlot[]; slots?: SlotResult[]; safety?: boolean; proof?: string };
}

/** Sums an outcome up. */
export function reportOf(outcome: CaptureOutcome | RestoreOutcome): TransferReport {
	const base = { reason: outcome.reason, firmware: firmwareOf(outcome.identity) };
	if (outcome.kind === 'capture')
		return {
			...base,
			status: outcome.status,
			missing: outcome.missing.length,
			readBack: [],
			touched: [],
			outcome: { missing: outcome.missing }
		};
	return {
		...base,
		status: outcome.status,
		missing: 0,
		readBack: outcome.readBack.map((bytes) => toHex(bytes)),
		touched: outcome.touched,
		outcome: { slots: outcome.slots, safety: outcome.safety }
	};
}
