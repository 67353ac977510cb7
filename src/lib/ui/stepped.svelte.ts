import type { z } from 'zod';
import type { Edit } from '../core/edit';
import { readDocument } from '../core/reading';
import { call } from '../hardware/api';
import { Doing } from './doing.svelte';
import { refresh } from './refresh';

interface StepName {
	id: number;
	says: string;
}
/** A document that is edited in steps, as the server tells it. */
export interface SteppedState<T> {
	revision: number;
	document: T;
	steps: { undo: StepName | null; redo: StepName | null };
}

/** A document that is worked on. Every change is a step on the server, one after another, before it is shown. */
export class Stepped<T, S extends SteppedState<T> = SteppedState<T>> {
	protected now: S = $state.raw()!;
	readonly doing = new Doing();
	/** Where it is in the API. */
	readonly #path: (document: S) => string;
	#last: Promise<unknown> = Promise.resolve();

	constructor(path: (document: S) => string, opened: S) {
		this.#path = path;
		this.now = opened;
	}

	get document(): T {
		return this.now.document;
	}
	get steps() {
		return this.now.steps;
	}

	/** The server's answer to a load, of another document perhaps; an older one of this changes nothing. */
	take(opened: S): void {
		if (this.#path(opened) !== this.#path(this.now) || opened.revision >= this.now.revision)
			this.now = opened;
	}

	/** One after another: each is made on what the one before has left. */
	#queue(path: string, body: () => unknown): Promise<boolean> {
		const done = this.#last.then(() =>
			this.doing.run(async () => {
				const order = body();
				if (!order) return;
				try {
					this.take(await call<S>('POST', `${this.#path(this.now)}/${path}`, order));
				} catch (error) {
					// Somebody else was quicker: what is so now is shown, with what was said.
					await refresh();
					throw error;
				}
			})
		);
		this.#last = done;
		return done;
	}

	/** Makes edits of the document as it will be by then. @returns whether they were made */
	edit(says: string, edits: (document: T) => Edit[]): Promise<boolean> {
		return this.#queue('edits', () => {
			const made = edits(this.document);
			return made.length > 0 && { revision: this.now.revision, says, edits: made };
		});
	}

	/** Ends when everything that was asked for so far is made, or was refused. */
	async settled(): Promise<void> {
		await this.#last;
	}

	/** Has the server change the document in a way of its own, on the revision that it then has. */
	order(path: string, body: (revision: number) => unknown): Promise<boolean> {
		return this.#queue(path, () => body(this.now.revision));
	}

	/** Puts a document from a file in the place of this one, as one step; what is wrong with it stands in `doing`. */
	takeOver(file: File, schema: z.ZodType<T>, kind: string): Promise<boolean> {
		return this.doing.run(async () => {
			const { value } = readDocument(schema, await file.text(), kind);
			await this.order('document', (revision) => ({ revision, document: value }));
		});
	}

	move(move: 'undo' | 'redo'): Promise<boolean> {
		return this.#queue('steps', () => {
			const step = this.steps[move];
			return step && { move, step: step.id };
		});
	}
}
