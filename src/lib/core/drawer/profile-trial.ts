import type { ProfileReport } from '../profile';
import type { World } from './knowledge';

/** What a profile makes of the newest dumps of one drawer, beside what they are read as now. */
export interface DrawerTrial {
	device: { id: string; name: string };
	world: World;
	/** Firmware of the newest dump that says one. */
	firmware: string | null;
	/** Dumps that are damaged and could not be tried. */
	damaged: number;
	/** Dumps that were tried, and messages in them. */
	dumps: number;
	messages: number;
	/** Messages that it reads, and that are read now; null where these dumps are kept raw. */
	read: number;
	readNow: number | null;
	/** Messages that it reads and builds again to the same bytes. */
	rebuilt: number;
	/** Slots that it finds, and that are found now. */
	slots: number;
	slotsNow: number;
	/** Slots of both that would have another name, or another content. */
	renamed: number;
	otherwise: number;
}

/** What saving a profile would change. */
export interface ProfileTrial {
	/** The revision that the studio has of it; null where it has none. */
	revision: number | null;
	/** Drawers of its devices, and those without a profile whose dumps it reads. */
	drawers: DrawerTrial[];
	/** The same in one line, as a report that a profile can hold; null where no dump was tried. */
	report: ProfileReport | null;
}
