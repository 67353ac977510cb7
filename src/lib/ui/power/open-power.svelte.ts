import type { Power, PowerFinding } from '../../core/power';
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
}
