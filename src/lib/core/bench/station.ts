import type { Profile } from '../profile';
import type { Clock } from '../transfer';
import { BenchLine } from './line';
import type { Random } from './random';
import type { SimulatedDevice, UnitState } from './unit';

/** One simulated device alone on its port. */
export class BenchStation extends BenchLine {
	readonly unit: SimulatedDevice;

	constructor(name: string, profile: Profile, state: UnitState, clock: Clock, random?: Random) {
		super(name, clock, random);
		this.unit = this.attach(profile, state);
	}
}
