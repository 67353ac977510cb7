import type { RigChange } from '../change';
import type { Rig } from '../schema';

export type Severity = 'error' | 'warning' | 'note';

/** What to do about a finding, as changes that are made at one click. */
export interface Cure {
	title: string;
	changes: RigChange[];
}

export interface Finding {
	/** What is wrong, in the musician's words. */
	says: string;
	/** Ids of the devices, ports or host entries concerned. */
	about: string[];
	cures: Cure[];
}

export interface Rule {
	id: string;
	title: string;
	severity: Severity;
	check(rig: Rig): Finding[];
}

export interface Trouble extends Finding {
	rule: string;
	title: string;
	severity: Severity;
	/** The same for the same finding, as long as it lasts. */
	id: string;
}
