import { browser } from '$app/environment';
import { untrack } from 'svelte';
import type { Back, Undo, WayBack } from './way-back';
import { problemOf } from './words';

export interface Notice {
	says: string;
	kind: 'good' | 'bad' | 'plain';
	undo?: Undo;
}

/** A notice in the history. */
export interface Told extends Notice {
	key: number;
	at: string;
	/** How its undo went; it can be tried again where it failed. */
	undone: 'no' | 'under way' | 'done' | 'failed';
}

const REMEMBERED = 40;
const KEY = 'silent-drawer.history';

/** What happened before a reload, with its undo; one that the reload interrupted can be tried again. */
function before(): Told[] {
	try {
		const kept = JSON.parse(sessionStorage.getItem(KEY) ?? '[]') as Told[];
		return kept.map((told, i) => ({
			...told,
			// Kept by an older version of the app: nothing says how.
			undo: told.undo?.way ? told.undo : undefined,
			key: -1 - i,
			undone: told.undone === 'under way' ? 'no' : told.undone
		}));
	} catch {
		return [];
	}
}

/** What happened, newest first, each with its undo where there is one. */
class Notices {
	all = $state.raw<Told[]>([]);
	/** The tray shows them. */
	reading = $state(false);
	/** How things are taken back; set by the interface, whose actions they are. */
	takeBack: (way: WayBack) => Promise<Back> = () => Promise.resolve(false);
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
		if (!browser) return;
		try {
			sessionStorage.setItem(KEY, JSON.stringify(all));
		} catch {
			// Undos of whole banks may be more than the browser keeps: then only what was said outlives the page.
			sessionStorage.setItem(KEY, JSON.stringify(all.map(({ undo: _, ...told }) => told)));
		}
	}

	#mark({ key }: Told, undone: Told['undone']): void {
		this.#keep(this.all.map((each) => (each.key === key ? { ...each, undone } : each)));
	}

	/** Takes one back; what failed stays, and can be tried again. */
	async undo(told: Told): Promise<void> {
		if (!told.undo || told.undone === 'done' || told.undone === 'under way') return;
		this.#mark(told, 'under way');
		let worked: Back = false;
		try {
			worked = await this.takeBack(told.undo.way);
		} catch (error) {
			// The code for it did not come: the server is away.
			const { message, remedy } = problemOf(error);
			this.say(`${message} ${remedy}`, 'bad');
		} finally {
			this.#mark(told, worked === 'begun' ? 'no' : worked ? 'done' : 'failed');
		}
	}
}

export const notices = new Notices();
