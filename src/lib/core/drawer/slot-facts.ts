import type { Recall } from '../profile';
import type { KnownState, LiveWorld } from './knowledge';
import type { LifeEvent } from './life';
import type { SoundMark } from './sound-mark';
import type { SoundPlace } from './sound-place';

/** What is known of a slot of a device now. */
export interface SlotNow {
	state: KnownState;
	/** Whether it was last seen to hold this very content; null where it was never read. */
	same: boolean | null;
	name: string | null;
	/** When it was read, ISO 8601. */
	at: string | null;
}

/** A slot that another one plays, or that plays it, in the same version. */
export interface LinkedSlot {
	/** The reference by which it does: “Part 3 tone”. */
	name: string;
	area: string;
	index: number;
	label: string;
	/** What such a slot is called. */
	word: string;
	/** The name of its sound; null where it has none, or where the version does not hold it. */
	sound: string | null;
	/** Whether the version holds it. */
	held: boolean;
}

/** A device that sounds can be sent to: of their model, or of another variant of it. */
export interface Receiver {
	id: string;
	name: string;
	/** The area that takes them, and its slots as its panel shows them. */
	area: string;
	labels: string[];
}

/** Everything that there is to say of a slot of a version. */
export interface SlotFacts {
	area: string;
	index: number;
	/** As the panel calls it. */
	label: string;
	/** What such a slot is called: program, kit, setting. */
	word: string;
	/** How many there are in its area. */
	of: number;
	name: string | null;
	/** The content's hash. */
	record: string;
	parameters: { id: string; name: string; shown: string }[];
	/** What it plays: a performance its programs. */
	plays: LinkedSlot[];
	/** What plays it, in this version. */
	playedBy: LinkedSlot[];
	/** Where the very same content is, or was last. */
	places: SoundPlace[];
	/** How its life went: how often each thing happened to it. */
	life: Partial<Record<LifeEvent['kind'], number>>;
	/** Banks that hold it, with the slots that they give it. */
	banks: { id: string; title: string; labels: string[] }[];
	/** What somebody said of this content. */
	mark: SoundMark;
	/** The category that it holds itself, or an empty text. */
	category: string;
	profileId: string;
	/** The content itself, in hexadecimal. */
	bytes: string;
	/** How the slot is selected, values as on the wire; null where the profile does not say. */
	recall: Recall | null;
	/** Whether the model plays a sound that is sent to it without storing it. */
	editBuffer: boolean;
	/** What is known of what the device holds in this slot now, in each world. */
	now: Record<LiveWorld, SlotNow>;
	/** Devices that it can be sent to. */
	devices: Receiver[];
}
