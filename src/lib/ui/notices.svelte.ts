import { browser } from '$app/environment';
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
const KEY = 'silent-drawer.history';

/** What happened before a reload: it is still told, and can no longer be undone from here. */
function before(): Told[] {
	try {
		const kept = JSON.parse(sessionStorage.getItem(KEY) ?? '[]') as Told[];
		return kept.map((told, i) => ({ ...told, key: -1 - i, undone: told.undone === 'done' ? 'done' : 'no' }));
	} catch {
		return [];
	}
}

/** What happened, newest first, each with its undo where there is one. */
class Notices {
	all = $state.raw<Told[]>([]);
	/** The tray shows them. */
	reading = $state(false);
	#count = 0;

	get last(): Told | null {
		return this.all[0] ?? null;
	}

	/** Called once the page is there: what it was rendered with knows nothing of this tab. */
	recall(): void {
		this.all = [...this.all, ...before()].slice(0, REMEMBERED);
	}

	say(says: string, kind: Notice['kind'] = 'plain', undo?: Notice['undo']): void {
		const told: Told = { says, kind, undo, key: ++this.#count, at: new Date().toISOString(), undone: 'no' };
		// Said from effects, too: what was said before must not make them run again.
		this.#keep([told, ...untrack(() => this.all)].slice(0, REMEMBERED));
	}

	#keep(all: Told[]): void {
		this.all = all;
		// How to undo is a function, which no storage holds.
		if (browser) sessionStorage.setItem(KEY, JSON.stringify(all));
	}

	/** Takes one back; what failed stays, and can be tried again. */
	async undo(told: Told): Promise<void> {
		if (!told.undo || told.undone === 'done') return;
		const worked = await told.undo.run();
		this.#keep(
			this.all.map((each) => (each.key === told.key ? { ...each, undone: worked ? 'done' : 'failed' } : each))
		);
	}
}

export const notices = new Notices();
