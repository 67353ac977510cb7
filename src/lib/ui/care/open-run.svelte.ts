import type { OpenRun, RunAct } from '../../core/care';
import { call } from '../../hardware/api';
import { Doing } from '../doing.svelte';

/** A run that is worked on: every act is the server's, which looks at gates when their turn comes. */
export class RunOnPage {
	now = $state.raw<OpenRun>()!;
	readonly doing = new Doing();
	/** Goes up with every act that was made here: the next button takes the focus then. */
	acts = $state(0);

	constructor(opened: OpenRun) {
		this.now = opened;
	}

	/** The server's answer to a load; an older one of the same run changes nothing. */
	take(opened: OpenRun): void {
		if (opened.id !== this.now.id || opened.revision >= this.now.revision) this.now = opened;
	}

	async look(): Promise<void> {
		this.take(await call<OpenRun>('GET', `/runs/${this.now.id}`));
	}

	/** Does something, and shows what is so where it was refused. @returns whether it was made */
	#order = (work: () => Promise<OpenRun>): Promise<boolean> =>
		this.doing.run(async () => {
			try {
				this.take(await work());
				this.acts++;
			} catch (error) {
				await this.look();
				throw error;
			}
		});

	act(act: RunAct, people: readonly string[] = []): Promise<boolean> {
		return this.#order(() => this.#post(act, people));
	}

	#post = (act: RunAct, people: readonly string[] = []): Promise<OpenRun> =>
		call<OpenRun>('POST', `/runs/${this.now.id}/acts`, { revision: this.now.revision, act, people });

	chooseFile(file: File, version: string): Promise<boolean> {
		return this.#order(() => {
			const form = new FormData();
			form.set('file', file);
			form.set('revision', String(this.now.revision));
			form.set('version', version);
			return call<OpenRun>('POST', `/runs/${this.now.id}/file`, form);
		});
	}

	useKept(file: string, version: string): Promise<boolean> {
		return this.#order(() =>
			call<OpenRun>('POST', `/runs/${this.now.id}/kept-file`, {
				revision: this.now.revision,
				file,
				version
			})
		);
	}

	/** Work of the app's for a step: begun on the record, done, and noted with how it ended. */
	carryOut(step: string, work: () => Promise<{ good: boolean; note: string } | null>): Promise<boolean> {
		return this.doing.run(async () => {
			const order = async (act: RunAct) => this.take(await this.#post(act));
			if (this.now.begun === null) await order({ do: 'begin', step });
			let ended: { good: boolean; note: string } | null;
			try {
				ended = await work();
			} catch (error) {
				// What failed is on record as that; the step is begun anew.
				await order({ do: 'fail', step, note: noteOf(error) });
				throw error;
			}
			if (ended)
				await order(
					ended.good
						? { do: 'done', step, note: ended.note.slice(0, 600) }
						: { do: 'fail', step, note: ended.note.slice(0, 600) }
				);
			this.acts++;
		});
	}
}

const noteOf = (error: unknown): string =>
	(error instanceof Error ? error.message : String(error)).slice(0, 600);
