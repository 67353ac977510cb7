import type { LiveWorld } from '../../drawer';
import type { FirmwareWays } from '../../profile';
import type { ProcedureRun } from './run';

/** A run as its page shows it. */
export interface OpenRun {
	id: string;
	title: string;
	world: LiveWorld;
	revision: number;
	begunAt: string;
	endedAt: string | null;
	device: { id: string; name: string; benchUnit: string | null } | null;
	run: ProcedureRun;
	/** Id of the step whose turn it is; null where it is over. */
	step: string | null;
	begun: string | null;
	over: 'done' | 'abandoned' | null;
	ended: string[];
	chosen: Record<string, string>;
	/** Why the gate whose turn it is does not hold; null where it does, or where it is no gate's turn. */
	gate: string | null;
	/** Why the app's step whose turn it is, and which was begun, is not shown to be done yet; null where it is. */
	shown: string | null;
	followers: readonly string[];
	/** The file that was chosen, with where it is kept. */
	file: { id: string; name: string; sha256: string; version: string; variant: string } | null;
	/** Worn or dead controls that an update needs, in words. */
	worn: string[];
	/** Files that are kept with the device and could be the one, newest first. */
	files: { id: string; name: string }[];
	/** How its loader is spoken to, where the profile says. */
	firmware: FirmwareWays | null;
	model: string;
	/** The version that the run's backup made. */
	versionId: string | null;
}

/** A run in the list of all. */
export interface ListedRun {
	id: string;
	title: string;
	device: string | null;
	begunAt: string;
	endedAt: string | null;
	over: 'done' | 'abandoned' | null;
	/** The step whose turn it is. */
	step: string | null;
	/** Gates that were passed with a reason. */
	overruled: number;
}
