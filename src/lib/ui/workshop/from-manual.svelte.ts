import {
	firstAnswers,
	SHAPE_IDS,
	writeProfile,
	type Answers,
	type ShapeId,
	type WrittenProfile
} from '../../core/profile';
import { remembered } from '../remembered.svelte';

interface Kept {
	shape: ShapeId | null;
	/** What was typed, by shape: what was not is an example. */
	typed: Partial<Record<ShapeId, Answers>>;
	/** The text that was written last: what differs from it was changed by hand. */
	text: string;
}

const NOTHING: Kept = { shape: null, typed: {}, text: '' };

/** A profile that is written from what a manual says, answer by answer. */
export class FromManual {
	readonly #kept = remembered<Kept>('workshop manual', NOTHING);
	readonly #taken: () => readonly string[];

	/** @param taken ids of profiles that there are */
	constructor(taken: () => readonly string[]) {
		this.#taken = taken;
	}

	get shape(): ShapeId | null {
		return this.#kept.value.shape;
	}
	get answers(): Answers {
		const { shape, typed } = this.#kept.value;
		return shape ? { ...firstAnswers(shape), ...typed[shape] } : {};
	}
	readonly written: WrittenProfile = $derived.by(() =>
		this.shape ? writeProfile(this.shape, this.answers, this.#taken()) : { profile: null, faults: {} }
	);
	/** The text that the answers come to; null where one has a fault. */
	readonly text: string | null = $derived.by(() =>
		this.written.profile ? JSON.stringify(this.written.profile, null, '\t') : null
	);
	/** Whether a text is what these answers wrote: another one was changed by hand, and is not written over unasked. */
	isOwn(text: string): boolean {
		return text === this.#kept.value.text;
	}
	/** Notes which text was written. */
	wrote(text: string): void {
		this.#kept.value = { ...this.#kept.value, text };
	}

	choose(shape: ShapeId): void {
		if (!SHAPE_IDS.includes(shape)) return;
		const { typed } = this.#kept.value;
		// What was typed of the device is true whichever shape it has.
		const before = this.shape ? typed[this.shape] : undefined;
		const asked = Object.keys(firstAnswers(shape));
		const shared = Object.fromEntries(Object.entries(before ?? {}).filter(([id]) => asked.includes(id)));
		this.#kept.value = {
			...this.#kept.value,
			shape,
			typed: { ...typed, [shape]: { ...shared, ...typed[shape] } }
		};
	}

	answer(id: string, text: string): void {
		const { shape, typed } = this.#kept.value;
		if (shape)
			this.#kept.value = {
				...this.#kept.value,
				typed: { ...typed, [shape]: { ...typed[shape], [id]: text } }
			};
	}

	forget(): void {
		this.#kept.forget(NOTHING);
	}
}
