import { call } from '../../hardware/api';
import { refresh } from '../refresh';

/** How often a page that is looked at asks whether the wiring was changed elsewhere, ms. */
const EVERY_MS = 2000;

interface State {
	revision: number;
	plan: number | null;
}

/**
 * Keeps what a page shows of the wiring to what the server has: it may be changed in another window, or on the phone in
 * the other hand. A page that nobody looks at does not ask; it does when it is looked at again.
 */
export class WiringWatch {
	/** The server has not answered: what is shown may be older. */
	outOfTouch = $state(false);

	/** @param shown what the page shows now; made to be used in an effect. @returns what ends it */
	begin(shown: () => State): () => void {
		let timer: ReturnType<typeof setTimeout> | undefined;
		let over = false;
		const look = async () => {
			clearTimeout(timer);
			if (over || document.hidden) return;
			try {
				const now = await call<State>('GET', '/rig/state');
				this.outOfTouch = false;
				const { revision, plan } = shown();
				if (!over && (now.revision !== revision || now.plan !== plan)) await refresh();
			} catch {
				// Said on the page, and asked again.
				this.outOfTouch = true;
			}
			if (!over) timer = setTimeout(look, EVERY_MS);
		};
		timer = setTimeout(look, EVERY_MS);
		document.addEventListener('visibilitychange', look);
		return () => {
			over = true;
			clearTimeout(timer);
			document.removeEventListener('visibilitychange', look);
		};
	}
}
