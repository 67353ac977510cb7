import { getContext, setContext } from 'svelte';
import type { Floor, ToldLine } from '../../core/pedal';
import { Stepped, type SteppedState } from '../stepped.svelte';

export interface FloorState extends SteppedState<Floor> {
	lines: ToldLine[];
}

/** The floor that is worked on. */
export class OpenFloor extends Stepped<Floor, FloorState> {
	constructor(opened: FloorState) {
		super(() => '/floor', opened);
	}

	get floor(): Floor {
		return this.now.document;
	}
	/** What each line comes to, as the server told it with this revision. */
	get lines(): ToldLine[] {
		return this.now.lines;
	}
}

const KEY = Symbol('floor');
/** One floor for all its pages: what one has changed, the next one shows. */
export const provideFloor = (opened: FloorState): OpenFloor => setContext(KEY, new OpenFloor(opened));
export const openFloor = (): OpenFloor => getContext<OpenFloor>(KEY);
