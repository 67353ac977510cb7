import type { ControlMap, Line } from '../../core/control';
import { checkMap, meantBy, writeLine } from '../../core/control';
import { Stepped, type SteppedState } from '../stepped.svelte';

export interface Opened extends SteppedState<ControlMap> {
	id: string;
}

/** A map that is worked on. */
export class OpenMap extends Stepped<ControlMap, Opened> {
	/** What the map is looked through for: worked out once, whoever shows it. */
	readonly troubles = $derived(checkMap(this.now.document));
	/** What was written and not understood, by its line; it stays in its field. */
	said = $state.raw<{ line: Line; text: string; says: string } | null>(null);

	constructor(opened: Opened) {
		super(({ id }) => `/maps/${id}`, opened);
	}

	get id(): string {
		return this.now.id;
	}
	get map(): ControlMap {
		return this.now.document;
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
