import type { KnownFault, ServiceBook } from '../../core/care';
import { Stepped, type SteppedState } from '../stepped.svelte';

export interface ServiceState extends SteppedState<ServiceBook> {
	ask: (KnownFault & { now: string })[];
}

type List = 'entries' | 'due' | 'faults' | 'worn';

/** The service book that is worked on. */
export class ServiceOnPage extends Stepped<ServiceBook, ServiceState> {
	constructor(opened: ServiceState) {
		super(() => '/service-book', opened);
	}

	/** Known faults that were last seen with another firmware than the device tells now. */
	get ask(): ServiceState['ask'] {
		return this.now.ask;
	}

	/** Adds something to one of its lists, with an id of its own. */
	add(list: List, says: string, value: object): Promise<boolean> {
		return this.edit(says.slice(0, 200), (book) => [
			{
				path: [list, book[list].length],
				value: { id: crypto.randomUUID(), ...value }
			}
		]);
	}

	remove(list: List, id: string, says: string): Promise<boolean> {
		return this.edit(`Taken out: ${says}`.slice(0, 200), (book) => {
			const at = book[list].findIndex((each) => each.id === id);
			return at < 0 ? [] : [{ path: [list, at] }];
		});
	}

	/** What became of a known fault: still there with this firmware, or gone since that day. */
	answer(id: string, says: string, change: Partial<KnownFault>): Promise<boolean> {
		return this.edit(says.slice(0, 200), (book) => {
			const at = book.faults.findIndex((each) => each.id === id);
			return Object.entries(change).map(([key, value]) => ({ path: ['faults', at, key], value }));
		});
	}

	done(due: string, on: string, by: string, firmware: string): Promise<boolean> {
		return this.order('done', (revision) => ({ revision, due, on, by, firmware }));
	}
}
