import { buildMessage } from './build';
import type { Variables } from './carrier';
import type { Profile, ProfileArea } from './schema';

/** What selects a slot from outside, values as on the wire. */
export interface Recall {
	msb: number | null;
	lsb: number | null;
	program: number;
}

/** How a slot is selected, or null where the profile does not say. */
export function recallOf({ recall, slots }: ProfileArea, index: number): Recall | null {
	const bank = recall?.findLast(({ from }) => from <= index);
	if (!bank || index >= slots) return null;
	return { msb: bank.msb ?? null, lsb: bank.lsb ?? null, program: bank.program + index - bank.from };
}

/** The messages of a recall, in the order that devices want: bank select, then program change (MIDI 1.0). */
export function recallMessages({ msb, lsb, program }: Recall, channel: number): Uint8Array[] {
	const at = channel - 1;
	return [
		...(msb === null ? [] : [Uint8Array.of(0xb0 | at, 0, msb)]),
		...(lsb === null ? [] : [Uint8Array.of(0xb0 | at, 32, lsb)]),
		Uint8Array.of(0xc0 | at, program)
	];
}

/** The message that puts a record into the edit buffer, or null where the model has none that is known. */
export const editBufferMessage = (
	profile: Profile,
	area: ProfileArea,
	record: Uint8Array,
	variables: Variables
): Uint8Array | null =>
	area.editBuffer ? buildMessage(profile, area.editBuffer.send, variables, record) : null;
