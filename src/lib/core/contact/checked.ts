import type { MovedLink, RestoreSource, TransferCheck, Version } from '../drawer';
import type { Device } from '../gear';
import type { Conversion, Profile } from '../profile';
import type { AlsoHearing } from '../rig';
import type { AdapterVerdict, Scope } from '../transfer';
import type { StoredLine } from './line';

/** A slot of a restore before it begins, by what was last read. */
export interface CheckedSlot {
	area: string;
	index: number;
	label: string;
	/** What is wanted there, and what was there when it was last read. */
	name: string | null;
	now: string | null;
	state: 'differs' | 'already there' | 'not known';
}

/** A reference that a restore makes play something else, unless it is pointed to the new place; as the panel shows slots. */
export interface CheckedLink {
	/** What a slot of its area is called: a performance. */
	word: string;
	/** The slot that names another. */
	slot: string;
	/** Which of its references. */
	name: string;
	/** The slot that it names, and the one where that sound will be; null where it cannot be kept. */
	names: string;
	then: string | null;
	why: MovedLink['why'];
}

/** Who names what a restore moves, and what can be done about it. */
export interface CheckedLinks {
	/** What keeps playing the same only if it is pointed to a new place in this restore. */
	pointed: CheckedLink[];
	/** What will play something else all the same. */
	lost: CheckedLink[];
	/** Sounds that can come along, and where they are put. */
	brought: { word: string; name: string | null; to: string }[];
	/** Areas of which it is not known what they name: how many of their slots. */
	unseen: { word: string; slots: number; of: number }[];
}

/** Everything that a transfer is judged by before it begins, and the order that begins it. */
export interface Checked {
	direction: 'capture' | 'restore';
	device: Device;
	/** The model, where a profile knows it; null is kept raw. */
	model: string | null;
	profile: Pick<Profile, 'id' | 'maker' | 'model'> | null;
	/** What is brought back, in words; empty for a backup. */
	title: string;
	version: Pick<Version, 'id' | 'takenAt' | 'verified'> | null;
	/** The area that is chosen by itself, where one is. */
	area: string | null;
	/** Whether slots were chosen one by one. */
	chosen: number;
	source: RestoreSource | null;
	scope: Scope;
	check: TransferCheck | null;
	rawMessages: number;
	slots: CheckedSlot[];
	/** What is lost where it is of another variant of the model; null where it is of this one, and for a backup. */
	converted: Conversion | null;
	/** Who names what a restore moves; null where nothing of this model names slots, and for a backup. */
	links: CheckedLinks | null;
	/** Who else hears what it is told on its channel; null where it is told nothing there, and on the bench, where each has a line of its own. */
	alsoHearing: ({ channel: number } & AlsoHearing) | null;
	line: StoredLine;
	adapter: AdapterVerdict | null;
	expectedMs: number;
	wireMs: number | null;
	/** A restore to it broke off, so that a backup of now is a backup of half of it. */
	torn: boolean;
	/** Worn or dead controls that it needs, in words. */
	worn: string[];
}
