import { areaOf, columnsOf, sectionsOf, type Profile, type Section } from '../profile';

/**
 * What can be asked for or written by itself, on one line: first the sections that travel in messages of many slots, each of
 * them slot by slot; then the other sections of the first slot of an area, then those of the next. A record without sections
 * is one unit.
 */
export class Units {
	readonly sections: readonly Section[];
	/** Where the first slot's unit of each section is, and how far on that of the next slot. */
	readonly #places: { from: number; step: number }[];

	constructor(profile: Profile, area: string) {
		const { record, slots } = areaOf(profile, area);
		this.sections = sectionsOf(profile.records[record]);
		const byColumn = columnsOf(profile, area);
		const isColumn = this.sections.map(({ id }) => byColumn.has(id));
		const columns = isColumn.filter(Boolean).length;
		let [column, other] = [0, 0];
		this.#places = isColumn.map((own) =>
			own
				? { from: column++ * slots, step: 1 }
				: { from: columns * slots + other++, step: this.sections.length - columns }
		);
	}

	/** The number of a unit by its slot and the number of its section. */
	at(slot: number, section = 0): number {
		const { from, step } = this.#places[section];
		return from + slot * step;
	}

	/** From the first to past the last unit of these sections of a row of slots. */
	stretch(
		first: number,
		last: number,
		[from, to]: readonly [number, number]
	): { first: number; end: number } {
		const sections = Array.from({ length: to - from }, (_, i) => from + i);
		return {
			first: Math.min(...sections.map((section) => this.at(first, section))),
			end: Math.max(...sections.map((section) => this.at(last, section))) + 1
		};
	}

	/** The units of a row of slots that fulfil a condition, ascending. */
	of(slots: readonly number[], wanted: (slot: number, section: Section) => boolean): number[] {
		return slots
			.flatMap((slot) =>
				this.sections.flatMap((section, i) => (wanted(slot, section) ? [this.at(slot, i)] : []))
			)
			.sort((a, b) => a - b);
	}

	/** From the first to past the last section that holds one of these stretches of a record. */
	reach(spans: readonly { at: number; size: number }[]): [number, number] {
		const touched = this.sections.map((section) =>
			spans.some(({ at, size }) => at < section.at + section.size && at + size > section.at)
		);
		return [touched.indexOf(true), touched.lastIndexOf(true) + 1];
	}
}
