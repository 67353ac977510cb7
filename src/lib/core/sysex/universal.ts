import { toHex } from '../midi';

/** Sub-IDs of universal messages (MIDI 1.0, “Universal system exclusive messages”). */
export const MACHINE_COMMANDS = {
	stop: 0x01,
	play: 0x02,
	'deferred play': 0x03,
	'fast forward': 0x04,
	rewind: 0x05,
	'record strobe': 0x06,
	'record exit': 0x07,
	pause: 0x09,
	eject: 0x0a,
	reset: 0x0d
} as const;
export type MachineCommand = keyof typeof MACHINE_COMMANDS;

/** `F0 7F dev 04 01 low high F7`: 0–16383. */
export const masterVolume = (deviceId: number, value: number): Uint8Array =>
	Uint8Array.of(0xf0, 0x7f, deviceId, 0x04, 0x01, value & 0x7f, (value >> 7) & 0x7f, 0xf7);

/** `F0 7E dev 09 01|02|03 F7`: General MIDI on, off, or level 2 on. */
export const generalMidi = (deviceId: number, mode: 'on' | 'off' | 'level 2 on'): Uint8Array =>
	Uint8Array.of(0xf0, 0x7e, deviceId, 0x09, mode === 'on' ? 1 : mode === 'off' ? 2 : 3, 0xf7);

/** `F0 7F dev 06 command F7`. */
export const machineControl = (deviceId: number, command: MachineCommand): Uint8Array =>
	Uint8Array.of(0xf0, 0x7f, deviceId, 0x06, MACHINE_COMMANDS[command], 0xf7);

const HANDSHAKES: Record<number, string> = {
	0x7b: 'End of file',
	0x7c: 'Wait',
	0x7d: 'Cancel',
	0x7e: 'Not acknowledged',
	0x7f: 'Acknowledged'
};

const CI_NAMES: Record<number, string> = {
	0x30: 'does it speak of properties?',
	0x31: 'it speaks of properties',
	0x34: 'asks for a property',
	0x35: 'answers with a property',
	0x36: 'gives a property',
	0x37: 'answers to a property given',
	0x38: 'subscription',
	0x39: 'answer to a subscription',
	0x3f: 'word of a property exchange',
	0x70: 'who is there?',
	0x71: 'says that it is there',
	0x7d: 'acknowledged',
	0x7e: 'a number is nobody’s any more',
	0x7f: 'not understood, or not done'
};

const MACHINE_NAMES = new Map<number, string>(
	Object.entries(MACHINE_COMMANDS).map(([name, code]) => [code, name])
);

const device = (id: number) => (id === 0x7f ? 'all devices' : `device ID ${id}`);

/** What a universal message means, in a few words; null where it is none that is known here. */
export function describeUniversal(bytes: Uint8Array): string | null {
	if (bytes.length < 5 || bytes[0] !== 0xf0) return null;
	const [, kind, id, sub, sub2] = bytes;
	if (kind === 0x7e) {
		if (sub in HANDSHAKES) return `${HANDSHAKES[sub]}, packet ${sub2}, ${device(id)}`;
		switch (sub) {
			case 0x01:
				return `Sample dump header, sample ${sub2 | (bytes[5] << 7)}, ${device(id)}`;
			case 0x02:
				return `Sample dump packet ${sub2}, ${device(id)}`;
			case 0x03:
				return `Sample dump request, sample ${sub2 | (bytes[5] << 7)}, ${device(id)}`;
			case 0x06:
				return sub2 === 1 ? `Identity request, ${device(id)}` : `Identity reply, ${device(id)}`;
			case 0x08:
				return sub2 === 0
					? `Tuning dump request, program ${bytes[5]}, ${device(id)}`
					: sub2 === 1
						? `Tuning dump, program ${bytes[5]}, ${device(id)}`
						: `Tuning message ${toHex(bytes.subarray(4, 5))}, ${device(id)}`;
			case 0x0d:
				return `MIDI-CI: ${CI_NAMES[sub2] ?? `message ${toHex(bytes.subarray(4, 5))}`}`;
			case 0x09:
				return `General MIDI ${sub2 === 1 ? 'on' : sub2 === 2 ? 'off' : 'level 2 on'}, ${device(id)}`;
		}
		return `Universal message ${toHex(bytes.subarray(3, 5), ' ')}, ${device(id)}`;
	}
	if (kind === 0x7f) {
		if (sub === 0x04 && sub2 === 0x01 && bytes.length === 8)
			return `Master volume ${Math.round((((bytes[6] << 7) | bytes[5]) / 16383) * 100)} %, ${device(id)}`;
		if (sub === 0x06)
			return `Machine control: ${MACHINE_NAMES.get(sub2) ?? toHex(bytes.subarray(4, 5))}, ${device(id)}`;
		if (sub === 0x01 && sub2 === 0x01) return `Time code, full message, ${device(id)}`;
		if (sub === 0x08 && sub2 === 0x02) return `Single note tuning change, ${device(id)}`;
		return `Universal real-time message ${toHex(bytes.subarray(3, 5), ' ')}, ${device(id)}`;
	}
	return null;
}
