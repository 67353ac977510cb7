/** Status bytes (MIDI 1.0 detailed specification, tables I–IV). */
export const SYSEX_START = 0xf0;
export const SYSEX_END = 0xf7;
/** A pulse of the clock, 24 to a quarter note. */
export const TIMING_CLOCK = 0xf8;

/** Real-time bytes F8–FF may stand between any two bytes and belong to no other message. */
export const isRealTime = (byte: number): boolean => byte >= 0xf8;

/** Any byte with the top bit set. */
export const isStatus = (byte: number): boolean => byte >= 0x80;

/** One message and nothing else: a status byte with its data, or SysEx from F0 to F7. */
export function isWholeMessage(bytes: Uint8Array): boolean {
	const [status, ...data] = bytes;
	if (status === undefined || !isStatus(status) || status === SYSEX_END) return false;
	if (status === SYSEX_START) return data.at(-1) === SYSEX_END && !data.slice(0, -1).some(isStatus);
	return data.length === Math.max(0, dataBytesAfter(status)) && !data.some(isStatus);
}

/** Data bytes that follow a channel or system-common status; -1 where the status is F0, F7 or a real-time byte. */
export function dataBytesAfter(status: number): number {
	if (status < 0x80 || status === SYSEX_START || status === SYSEX_END || isRealTime(status)) return -1;
	if (status < 0xf0) {
		const kind = status & 0xf0;
		return kind === 0xc0 || kind === 0xd0 ? 1 : 2;
	}
	if (status === 0xf1 || status === 0xf3) return 1;
	return status === 0xf2 ? 2 : 0;
}
