import type { Power, PowerCable, PowerFinding } from '../../core/power';
import { Stepped, type SteppedState } from '../stepped.svelte';

export interface PowerState extends SteppedState<Power> {
	findings: PowerFinding[];
}

/** The power that is worked on. */
export class OpenPower extends Stepped<Power, PowerState> {
	constructor(opened: PowerState) {
		super(() => '/power', opened);
	}

	get power(): Power {
		return this.now.document;
	}
	/** What is wrong or not known, as the server told it with this revision. */
	get findings(): PowerFinding[] {
		return this.now.findings;
	}

	/** Hangs a load on an output, or on nothing; what it hung on before is pulled. */
	hang(load: string, to: { supply: string; output: string } | null, says: string): Promise<boolean> {
		return this.edit(says, (power) => [
			{
				path: ['cables'],
				value: [
					...power.cables.filter((cable) => cable.load !== load),
					...(to ? [{ load, ...to, through: 'plain' }] : [])
				]
			}
		]);
	}

	/** What kind of cable a load hangs on. Only a doubling one has a second plug: any other leaves the first. */
	lead(load: string, through: PowerCable['through'], says: string): Promise<boolean> {
		return this.#ends(load, says, ([first]) => [{ ...first, through }]);
	}

	/** Where the second plug of a doubling cable is; null for nowhere. */
	join(load: string, second: { supply: string; output: string } | null, says: string): Promise<boolean> {
		return this.#ends(load, says, ([first]) => [
			{ ...first, through: 'doubling' },
			...(second ? [{ load, ...second, through: 'doubling' as const }] : [])
		]);
	}

	#ends(load: string, says: string, then: (ends: PowerCable[]) => PowerCable[]): Promise<boolean> {
		return this.edit(says, ({ cables }) => {
			const ends = cables.filter((cable) => cable.load === load);
			if (ends.length === 0) return [];
			return [{ path: ['cables'], value: [...cables.filter((cable) => cable.load !== load), ...then(ends)] }];
		});
	}
}
