import { toHex } from '../midi';

/**
 * The manufacturer ID of a SysEx message: the byte after F0, or that and two more when it is 00
 * (MIDI 1.0, “Manufacturer's ID number”). Empty when the message is too short to hold one.
 */
export function manufacturerOf(message: Uint8Array): Uint8Array {
	if (message.length < 2 || message[1] >= 0x80) return new Uint8Array();
	if (message[1] !== 0) return message.slice(1, 2);
	const long = message.slice(1, 4);
	return long.length === 3 && long.every((byte) => byte < 0x80) ? long : new Uint8Array();
}

const RESERVED: Record<string, string> = {
	'7d': 'non-commercial',
	'7e': 'universal, non-real-time',
	'7f': 'universal, real-time'
};

/** `7d`, `00 20 33`, or an empty text; with its meaning where the specification reserves it. */
export function manufacturerLabel(message: Uint8Array): { id: string; meaning: string | null } {
	const id = toHex(manufacturerOf(message), ' ');
	return { id, meaning: RESERVED[id] ?? null };
}
