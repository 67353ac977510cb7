import type { ControlMap, Edit, Line } from '../../core/control';
import { checkMap, meantBy, writeLine } from '../../core/control';
import { call } from '../../hardware/api';
import { Doing } from '../doing.svelte';
import { refresh } from '../refresh';

interface StepName {
	id: number;
	says: string;
}
export interface Opened {
	id: string;
	revision: number;
	document: ControlMap;
	steps: { undo: StepName | null; redo: StepName | null };
}

/** A map that is worked on. Every change is a step on the server, one after another, before it is shown. */
export class OpenMap {
	#now: Opened = $state.raw()!;
	readonly doing = new Doing();
	/** What the map is looked through for: worked out once, whoever shows it. */
	readonly troubles = $derived(checkMap(this.#now.document));
	/** What was written and not understood, by its line; it stays in its field. */
	said = $state.raw<{ line: Line; text: string; says: string } | null>(null);
	#last: Promise<unknown> = Promise.resolve();

	constructor(opened: Opened) {
		this.#now = opened;
	}

	get id(): string {
		return this.#now.id;
	}
	get map(): ControlMap {
		return this.#now.document;
	}
	get steps() {
		return this.#now.steps;
	}

	/** The server's answer to a load; an older one changes nothing. */
	take(opened: Opened): void {
		if (opened.id !== this.#now.id || opened.revision >= this.#now.revision) this.#now = opened;
	}

	/** One after another: each is made on what the one before has left. */
	#queue(path: string, body: () => unknown): Promise<boolean> {
		const done = this.#last.then(() =>
			this.doing.run(async () => {
				const order = body();
				if (!order) return;
				try {
					this.take(await call<Opened>('POST', `/maps/${this.#now.id}/${path}`, order));
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

	/** Makes edits of the map as it will be by then. @returns whether they were made */
	edit(says: string, edits: (map: ControlMap) => Edit[]): Promise<boolean> {
		return this.#queue('edits', () => {
			const made = edits(this.map);
			return made.length > 0 && { revision: this.#now.revision, says, edits: made };
		});
	}

	/** Ends when everything that was asked for so far is made, or was refused. */
	async settled(): Promise<void> {
		await this.#last;
	}

	/** Has the server change the map in a way of its own, on the revision that it then has. */
	order(path: string, body: (revision: number) => unknown): Promise<boolean> {
		return this.#queue(path, () => body(this.#now.revision));
	}

	move(move: 'undo' | 'redo'): Promise<boolean> {
		return this.#queue('steps', () => {
			const step = this.steps[move];
			return step && { move, step: step.id };
		});
	}

	/** Writes on a line of a strip. @returns whether it was understood and is kept */
	async write(line: Line, name: string, text: string): Promise<boolean> {
		const meant = meantBy(this.map, text);
		if (meant.is === 'unknown') {
			this.said = { line, text, says: meant.says };
			return false;
		}
		this.said = null;
		const says = text.trim() ? `${name}: ${text.trim()}` : `${name}: nothing`;
		return this.edit(says, (map) => writeLine(map, line, meantBy(map, text)));
	}
}
