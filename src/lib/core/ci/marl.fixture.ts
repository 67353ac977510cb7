import { seededRandom, type Fault } from '../bench';
import { workbench } from '../bench/bench.fixture';
import { makeSlot, recordOfState, type DescribedArea, type Profile, type Slot } from '../profile';
import { capture, restore, type Scope } from '../transfer';
import { describe, profileOf, throughProperties } from '.';

const NAME = 16;

/** What the simulated Marl says of itself, as a profile. */
export function selfDescribed(): Profile {
	const bench = workbench('selden-marl');
	const described = bench.run(() => describe(seededRandom(9)));
	if (!('description' in described)) throw new Error(described.says);
	return profileOf(described.description, [], true);
}

/** What a slot has to read as, worked out of the memory of the instrument: a patch is as long as its name is. */
export function recordOf(profile: Profile, area: string, memory: Uint8Array, index: number): Uint8Array {
	const described = profile.areas.find(({ id }) => id === area) as DescribedArea;
	if (area === 'states')
		return recordOfState(profile, described, { title: index === 0 ? 'Setup' : '', body: memory })!;
	const name = memory.subarray(0, memory.subarray(0, NAME).findLastIndex((byte) => byte !== 0x20) + 1);
	const body = Uint8Array.of(0xa5, name.length, ...name, ...memory.subarray(NAME));
	return recordOfState(profile, described, { title: String.fromCharCode(...name), body })!;
}

/** The simulated Marl on a line, spoken with as it describes itself. */
export function marl(profile: Profile, seed = 4, faults: Fault[] = []) {
	const bench = workbench('selden-marl', seed);
	bench.station.faults = faults;
	const random = seededRandom(seed + 5);
	const target = { deviceId: 0, channel: 1 };
	const held = (area: string): Uint8Array[] =>
		bench.unit.state.memory[area === 'programs' ? 'patches' : 'setup'];
	return {
		...bench,
		/** What it holds, as records. */
		holds: (area: string): Uint8Array[] =>
			held(area).map((memory, index) => recordOf(profile, area, memory, index)),
		slot: (area: string, index: number): Slot =>
			makeSlot(profile, area, index, recordOf(profile, area, held(area)[index], index)),
		capture: (
			scope: Scope = { kind: 'all' },
			have: Uint8Array[] = [],
			during?: (running: { cancel(): void }) => void
		) =>
			bench.run(
				(emit) => throughProperties(profile, capture({ profile, target, scope, have }, emit), random),
				during
			),
		restore: (wanted: readonly Slot[], during?: (running: { cancel(): void }) => void) =>
			bench.run(
				(emit) => throughProperties(profile, restore({ profile, target, wanted }, emit), random),
				during
			)
	};
}
