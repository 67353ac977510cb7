import { Problem } from '../problem';
import { joinBytes } from '../midi';
import type { Profile } from '../profile';
import { cutRecords, type UnitState } from './unit';

/** A unit's memory as one row of bytes: the areas in the profile's order, slot after slot. */
export const freezeMemory = (profile: Profile, state: UnitState): Uint8Array =>
	joinBytes(profile.areas.flatMap(({ id }) => state.memory[id]));

/** The inverse of `freezeMemory`. @throws Problem `bench.memory-size` */
export function thawMemory(profile: Profile, bytes: Uint8Array): UnitState['memory'] {
	const memory: UnitState['memory'] = {};
	let at = 0;
	for (const area of profile.areas) {
		const { size } = profile.records[area.record];
		const end = at + size * area.slots;
		memory[area.id] = cutRecords(bytes.subarray(at, end), size);
		at = end;
	}
	if (at !== bytes.length)
		throw new Problem(
			'bench.memory-size',
			`The bench memory of the ${profile.model} has ${bytes.length} bytes instead of ${at}.`,
			'Take the unit off the bench and put a new one on it.'
		);
	return memory;
}
