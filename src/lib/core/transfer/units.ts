import { areaOf, sectionsOf, type Profile, type Section } from '../profile';

/**
 * What can be asked for or written by itself, on one line: the sections of the first slot of an area, then those of the
 * next. A record without sections is one unit.
 */
export class Units {
	readonly sections: readonly Section[];

	constructor(profile: Profile, area: string) {
		this.sections = sectionsOf(profile.records[areaOf(profile, area).record]);
	}

	/** The number of a unit by its slot and the number of its section. */
	at(slot: number, section = 0): number {
		return slot * this.sections.length + section;
	}

	/** The units of a row of slots that fulfil a condition, ascending. */
	of(slots: readonly number[], wanted: (slot: number, section: Section) => boolean): number[] {
		return slots.flatMap((slot) =>
			this.sections.flatMap((section, i) => (wanted(slot, section) ? [this.at(slot, i)] : []))
		);
	}

	/** From the first to past the last section that holds one of these stretches of a record. */
	reach(spans: readonly { at: number; size: number }[]): [number, number] {
		const touched = this.sections.map((section) =>
			spans.some(({ at, size }) => at < section.at + section.size && at + size > section.at)
		);
		return [touched.indexOf(true), touched.lastIndexOf(true) + 1];
	}
}
