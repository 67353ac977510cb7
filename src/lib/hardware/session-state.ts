import type { FinishOrder, LiveWorld, RestoreSource } from '../core/drawer';
import type { ProblemData } from '../core/problem';
import type { Progress, Scope, TraceLine, TransferReport } from '../core/transfer';

export interface TransferOrder {
	direction: 'capture' | 'restore';
	deviceId: string;
	/** Where it takes place. */
	world: LiveWorld;
	scope: Scope;
	kind: string;
	title: string;
	/** The version to restore from. */
	versionId: string | null;
	/** Where the content of a restore comes from, where it is not that version. */
	source?: RestoreSource | null;
	/** The studio snapshot that it belongs to. */
	snapshotId?: string | null;
	/** How long it is expected to take, in ms. */
	predictedMs?: number | null;
	/** For a device without a profile: listens twice and compares. */
	twice?: boolean;
	/** An unfinished capture to go on with. */
	resume: string | null;
	paceFactor: number;
	/** Over real ports: the sockets that it goes by. */
	line?: FinishOrder['line'];
}

export interface LogLine {
	atMs: number;
	way: TraceLine['way'];
	says: string;
	hex: string;
}

/** What a page sees of a running transfer. Plain data: it crosses from a worker. */
export interface SessionState {
	transferId: string;
	deviceId: string;
	deviceName: string;
	direction: 'capture' | 'restore';
	progress: Progress;
	/** What the musician must do on the device now. */
	hands: string | null;
	/** Slots that have arrived or gone out, newest last. */
	through: { area: string; label: string; name: string | null }[];
	retries: string[];
	log: LogLine[];
	/** Messages that the server has confirmed, of those received. */
	stored: number;
	received: number;
	storing: ProblemData | null;
	ended: TransferReport | null;
}
