import { desk } from '../../hardware/desk.svelte';
import { call } from '../../hardware/api';
import { problemOf, type ProblemData } from '../../core/problem';
import type { ControllerMemory } from '../../core/control';

/** How the page that is shown stands to a slot of its controller's memory, as the server tells it. */
export class MemoryView {
	told = $state.raw<ControllerMemory | null>(null);
	problem = $state.raw<ProblemData | null>(null);
	/** What the musician chose; null for what suggests itself. */
	device = $state<string | null>(null);
	slot = $state<number | null>(null);
	#asked = 0;

	/** Asks again; only the last answer counts. */
	async look(mapId: string, page: number): Promise<void> {
		// No profile speaks for this surface: a change of the map makes no difference to that.
		if (this.told?.model === null) return;
		const query = [
			`page=${page}`,
			`world=${desk.world}`,
			...(this.device ? [`device=${this.device}`] : []),
			...(this.slot === null ? [] : [`slot=${this.slot}`])
		].join('&');
		const asked = ++this.#asked;
		try {
			const told = await call<ControllerMemory>('GET', `/maps/${mapId}/memory?${query}`);
			if (asked === this.#asked) [this.told, this.problem] = [told, null];
		} catch (error) {
			if (asked === this.#asked) this.problem = problemOf(error, 'Reload the page and try again.').toJSON();
		}
	}

	/** The controller that is told of. */
	get controller() {
		return this.told?.controllers.find(({ id }) => id === this.told?.device) ?? null;
	}

	get held() {
		return this.told?.slots.find(({ slot }) => slot === this.told?.slot) ?? null;
	}
}
