import { readMidiFile, SYSEX_END, SYSEX_START, joinBytes, type FileEvent } from '../../midi';

/** A message as it was heard: whole, with its status byte; `atMs` counts from any moment. */
export interface HeardMessage {
	atMs: number;
	bytes: Uint8Array;
}

/** Milliseconds of a tick where the file counts in time code (RP-001: frames a second, negative, then ticks a frame). */
const timecodeMs = (division: number): number => 1000 / ((256 - (division >> 8)) * (division & 0xff) || 1);

/**
 * What a Standard MIDI File holds as if it had been heard: all tracks together, in order of time, by the file's own
 * tempo or time code. SysEx that goes over several packets is one message, at the time of its end.
 * @returns the messages, when the file ends, and what of the file could not be read, in words
 * @throws Problem `smf.not-a-midi-file`
 */
export function recordingOf(bytes: Uint8Array): {
	heard: HeardMessage[];
	/** When its last track ends: what was silent by then was silent. */
	untilMs: number;
	damage: string[];
} {
	const file = readMidiFile(bytes);
	const heard: HeardMessage[] = [];
	const damage = file.damage.map(({ offset, reason }) => `at byte ${offset}: ${reason}`);
	const open = new Map<number, Uint8Array[]>();
	const sysex = (track: number, { kind, data, offset }: FileEvent, atMs: number) => {
		let parts = open.get(track);
		if (kind === 'sysex') {
			if (parts) damage.push(`at byte ${offset}: the SysEx message before it has no end`);
			parts = [Uint8Array.of(SYSEX_START)];
			open.set(track, parts);
		}
		// A packet outside of a message is an escape: no control sends it.
		if (!parts) return;
		parts.push(data);
		if (data.at(-1) !== SYSEX_END) return;
		open.delete(track);
		heard.push({ atMs, bytes: joinBytes(parts) });
	};
	const events = file.tracks
		.flatMap((track, number) => track.map((event) => ({ event, number })))
		.sort((a, b) => a.event.tick - b.event.tick);
	const fixed = file.division & 0x8000 ? timecodeMs(file.division) : null;
	let [tick, atMs, quarterMs] = [0, 0, 500];
	for (const { event, number } of events) {
		atMs += (event.tick - tick) * (fixed ?? quarterMs / Math.max(1, file.division));
		tick = event.tick;
		const { kind, data } = event;
		if (kind === 'channel') heard.push({ atMs, bytes: data });
		else if (kind !== 'meta') sysex(number, event, atMs);
		// Set tempo: microseconds per quarter note in three bytes.
		else if (data[0] === 0x51 && data.length === 4)
			quarterMs = ((data[1] << 16) | (data[2] << 8) | data[3]) / 1000;
	}
	for (const track of open.keys())
		damage.push(`a SysEx message of track ${track + 1} has no end and was left out`);
	return { heard, untilMs: atMs, damage };
}
