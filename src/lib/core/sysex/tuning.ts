import { Problem } from '../problem';

/** A tuning program: 128 keys, each with its pitch in semitones from key 0 of equal temperament, or null for “as it was”. */
export interface Tuning {
	program: number;
	name: string;
	pitches: (number | null)[];
}

const STEPS = 16384;
const DUMP_BYTES = 406 + 2;

/** `F0 7E dev 08 00 program F7` (MIDI Tuning Standard, bulk dump request). */
export const tuningDumpRequest = (deviceId: number, program: number): Uint8Array =>
	Uint8Array.of(0xf0, 0x7e, deviceId, 0x08, 0x00, program, 0xf7);

const checksum = (bytes: Uint8Array) => bytes.reduce((sum, byte) => sum ^ byte, 0) & 0x7f;

/** `F0 7E dev 08 01 program name[16] (xx yy zz)×128 checksum F7`; steps of 100/2^14 cent. */
export function tuningDump(deviceId: number, { program, name, pitches }: Tuning): Uint8Array {
	const out = new Uint8Array(DUMP_BYTES);
	out.set([0xf0, 0x7e, deviceId, 0x08, 0x01, program]);
	for (let i = 0; i < 16; i++) out[6 + i] = (name.charCodeAt(i) || 32) & 0x7f;
	for (let key = 0; key < 128; key++) {
		const pitch = pitches[key];
		const at = 22 + key * 3;
		if (pitch === null || pitch === undefined) {
			out.set([0x7f, 0x7f, 0x7f], at);
			continue;
		}
		const steps = Math.min(128 * STEPS - 2, Math.max(0, Math.round(pitch * STEPS)));
		out.set([Math.floor(steps / STEPS), (steps % STEPS) >> 7, steps & 0x7f], at);
	}
	out[406] = checksum(out.subarray(1, 406));
	out[407] = 0xf7;
	return out;
}

/** Reads a tuning dump; null where the message is something else. @throws Problem `tuning.damaged` */
export function readTuningDump(bytes: Uint8Array): Tuning | null {
	if (bytes[1] !== 0x7e || bytes[3] !== 0x08 || bytes[4] !== 0x01) return null;
	if (bytes.length !== DUMP_BYTES || bytes[406] !== checksum(bytes.subarray(1, 406)))
		throw new Problem('tuning.damaged', 'The tuning dump arrived damaged.', 'Ask for it again.');
	return {
		program: bytes[5],
		name: String.fromCharCode(...bytes.subarray(6, 22)).trimEnd(),
		pitches: Array.from({ length: 128 }, (_, key) => {
			const [semitone, high, low] = bytes.subarray(22 + key * 3, 25 + key * 3);
			if (semitone === 0x7f && high === 0x7f && low === 0x7f) return null;
			return semitone + ((high << 7) | low) / STEPS;
		})
	};
}
