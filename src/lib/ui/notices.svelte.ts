import { untrack } from 'svelte';

export interface Notice {
	says: string;
	kind: 'good' | 'bad' | 'plain';
	/** What takes it back; gives false where that did not work, which it has said itself. */
	undo?: { title: string; run(): Promise<boolean> };
}

/** A notice in the history. */
export interface Told extends Notice {
	key: number;
	at: string;
	/** How its undo went; it can be tried again where it failed. */
	undone: 'no' | 'done' | 'failed';
}

const REMEMBERED = 40;

/** What happened, newest first, each with its undo where there is one. */
class Notices {
	all = $state.raw<Told[]>([]);
	#count = 0;

	get last(): Told | null {
		return this.all[0] ?? null;
	}

	say(says: string, kind: Notice['kind'] = 'plain', undo?: Notice['undo']): void {
		const told: Told = { says, kind, undo, key: ++this.#count, at: new Date().toISOString(), undone: 'no' };
		// Said from effects, too: what was said before must not make them run again.
		this.all = [told, ...untrack(() => this.all)].slice(0, REMEMBERED);
	}

	/** Takes one back; what failed stays, and can be tried again. */
	async undo(told: Told): Promise<void> {
		if (!told.undo || told.undone === 'done') return;
		const worked = await told.undo.run();
		this.all = this.all.map((each) =>
			each.key === told.key ? { ...each, undone: worked ? 'done' : 'failed' } : each
		);
	}
}

export const notices = new Notices();
