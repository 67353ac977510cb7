import { addressValue } from './addresses';
import type { ProfileRecord } from './schema';

/** A stretch of a record that travels, or lies, by itself. */
export interface Section {
	id: string;
	/** Which of several alike, from 0. */
	part: number;
	name: string;
	/** First byte in the record. */
	at: number;
	size: number;
	/** Where it begins in addressed memory, counted from where the slot does; null where it has no address. */
	address: number | null;
}

const known = new WeakMap<ProfileRecord, Section[]>();

/** The sections of a record, end to end; the whole of it where it has none. */
export function sectionsOf(record: ProfileRecord): Section[] {
	let sections = known.get(record);
	if (sections) return sections;
	let at = 0;
	sections = (record.sections ?? [{ id: 'record', name: 'Record', size: record.size }]).flatMap((each) =>
		Array.from({ length: each.times ?? 1 }, (_, part): Section => {
			const start = at;
			at += each.size;
			return {
				id: each.id,
				part,
				name: each.times === undefined ? each.name : `${each.name} ${part + 1}`,
				at: start,
				size: each.size,
				address:
					each.address === undefined
						? null
						: addressValue(each.address) +
							part * (each.every === undefined ? each.size : addressValue(each.every))
			};
		})
	);
	known.set(record, sections);
	return sections;
}

/** The section of that id, and of that number where there are several; undefined where there is none. */
export const sectionNamed = (record: ProfileRecord, id: string, part = 0): Section | undefined =>
	sectionsOf(record).find((section) => section.id === id && section.part === part);
