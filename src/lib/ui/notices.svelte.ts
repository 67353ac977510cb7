export interface Notice {
	says: string;
	kind: 'good' | 'bad' | 'plain';
	undo?: { title: string; run(): Promise<unknown> };
}

/** The footer line's memory: the last thing that happened, and its undo where there is one. */
class Notices {
	last = $state.raw<Notice | null>(null);

	say(says: string, kind: Notice['kind'] = 'plain', undo?: Notice['undo']): void {
		this.last = { says, kind, undo };
	}
}

export const notices = new Notices();
