import type { LifeEvent } from './life';

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
	/** Where the very same content is, or was last. */
	places: { deviceId: string; device: string; label: string; current: boolean }[];
	/** How its life went: how often each thing happened to it. */
	life: Partial<Record<LifeEvent['kind'], number>>;
	/** Banks that hold it, with the slots that they give it. */
	banks: { id: string; title: string; labels: string[] }[];
	/** Slots that it can be sent to, as the panel calls them. */
	slots: { index: number; label: string }[];
	/** Devices of its model. */
	devices: { id: string; name: string }[];
}
