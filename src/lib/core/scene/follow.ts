import type { KnownState } from '../drawer';
import type { Edit } from '../edit';
import { isSelected, type Selected } from './held';
import type { Part, ShowSet, Sound } from './set';

/** A slot of an instrument as it is known now. */
export interface SlotSeen {
	area: string;
	index: number;
	/** As the panel calls it. */
	label: string;
	/** Content that was seen last (SHA-256), and its name; null where it was never read, or written and not read since. */
	record: string | null;
	name: string | null;
	state: KnownState;
	/** What selects it; null where the profile does not say. */
	select: Selected | null;
	/** When it was seen. */
	at: string | null;
}

/** What became of a sound that a scene names. */
export type Followed =
	/** It is where the numbers lead, as it was last seen. */
	| { is: 'there'; slot: SlotSeen }
	/** It is in its slot, and other numbers lead there now. */
	| { is: 'renumbered'; slot: SlotSeen; select: Selected }
	/** The slot holds something else, and it is in these. */
	| { is: 'moved'; slot: SlotSeen; to: SlotSeen[] }
	/** The slot holds it with another name, or changed beyond that; nothing else holds it. */
	| { is: 'renamed' | 'edited'; slot: SlotSeen }
	/** The slot holds another sound, and it is nowhere in what was read. `whole`: all slots were. */
	| { is: 'lost'; slot: SlotSeen; whole: boolean }
	/** Nobody knows what the slot holds. */
	| { is: 'unknown'; slot: SlotSeen | null };

/**
 * Looks for a sound in what is known of its instrument's drawers.
 * @param likeness what a slot's content is to the sound: the same but for its name, nearly the same, or neither
 */
export function followSound(
	sound: Sound,
	slots: readonly SlotSeen[],
	likeness: (record: string) => 'renamed' | 'edited' | null
): Followed {
	const kept = sound.kept;
	const slot = slots.find(({ area, index }) => area === kept?.area && index === kept.index) ?? null;
	if (!kept || !slot) return { is: 'unknown', slot: null };
	if (slot.record === kept.record) {
		const select = slot.select;
		return select && !isSelected(sound, { msb: null, lsb: null, volume: null, selected: select })
			? { is: 'renumbered', slot, select }
			: { is: 'there', slot };
	}
	const to = slots.filter(({ record, select }) => record === kept.record && select !== null);
	if (to.length > 0) return { is: 'moved', slot, to };
	if (slot.record === null) return { is: 'unknown', slot };
	const like = likeness(slot.record);
	if (like) return { is: like, slot };
	return {
		is: 'lost',
		slot,
		whole: slots.every(({ area, record }) => area !== kept.area || record !== null)
	};
}

/** A sound as a slot holds it now; null where nobody knows what that is, or how it is selected. */
export function soundIn({ area, index, record, name, label, select }: SlotSeen): Sound | null {
	if (record === null || select === null) return null;
	return {
		name: (name?.trim() || label).slice(0, 60),
		...select,
		from: 'drawer',
		kept: { area, index, record }
	};
}

const sameSound = (a: Sound | null, b: Sound) => JSON.stringify(a) === JSON.stringify(b);

/** The edits that put a sound in the place of another on an instrument, on the desk and in every scene. */
export function replaceSound(set: ShowSet, instrument: string, was: Sound, is: Sound): Edit[] {
	const replaced = (parts: readonly Part[]) =>
		parts.map((part) =>
			part.instrument === instrument && sameSound(part.sound, was) ? { ...part, sound: is } : part
		);
	const has = (parts: readonly Part[]) =>
		parts.some((part) => part.instrument === instrument && sameSound(part.sound, was));
	return [
		...(has(set.parts) ? [{ path: ['parts'], value: replaced(set.parts) }] : []),
		...set.scenes.flatMap(({ parts }, i): Edit[] =>
			has(parts) ? [{ path: ['scenes', i, 'parts'], value: replaced(parts) }] : []
		)
	];
}

/** A sound that parts of a set name, and where. */
export interface NamedSound {
	instrument: string;
	sound: Sound;
	/** Numbers of the scenes that name it; `desk`: it is on the desk. */
	scenes: number[];
	desk: boolean;
}

/** Every sound of a set, each once. */
export function soundsOf(set: ShowSet): NamedSound[] {
	const found = new Map<string, NamedSound>();
	const note = (parts: readonly Part[], scene: number | null) => {
		for (const { instrument, sound } of parts) {
			if (!sound) continue;
			const key = JSON.stringify([instrument, sound]);
			const one = found.get(key) ?? { instrument, sound, scenes: [], desk: false };
			found.set(key, one);
			if (scene === null) one.desk = true;
			else if (!one.scenes.includes(scene)) one.scenes.push(scene);
		}
	};
	note(set.parts, null);
	for (const { number, parts } of set.scenes) note(parts, number);
	return [...found.values()];
}
