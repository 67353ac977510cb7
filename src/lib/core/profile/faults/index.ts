import type { Profile } from '../schema';
import { areaFaults, overlapFaults } from './area-faults';
import type { Fault } from './fault';
import { messageFaults } from './message-faults';
import { newerWords } from './newer-words';
import { recordFaults } from './record-faults';
import { referenceFaults } from './reference-faults';
import { surfaceFaults } from './surface-faults';
import { variantFaults } from './variant-faults';
import { wayFaults } from './way-faults';

export type { Fault } from './fault';

/** Faults that one part of a profile has because of another: missing names, sizes that cannot fit. */
export function faultsOf(profile: Profile): Fault[] {
	const faults = [
		...newerWords(profile),
		...areaFaults(profile),
		...recordFaults(profile),
		...messageFaults(profile),
		...wayFaults(profile),
		...variantFaults(profile),
		...surfaceFaults(profile),
		...referenceFaults(profile),
		...targetFaults(profile)
	];
	// Addresses can only be laid out once every record is there and whole.
	return faults.length > 0 ? faults : overlapFaults(profile);
}

const targetFaults = ({ targets = [] }: Profile): Fault[] =>
	targets.flatMap(({ id }, i) =>
		targets.findIndex((other) => other.id === id) === i
			? []
			: [{ path: ['targets', i, 'id'], says: `“${id}” is used twice` }]
	);
