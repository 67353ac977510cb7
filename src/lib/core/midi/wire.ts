/** MIDI 1.0 wire: 31,250 bit/s, ten bits a byte (MIDI 1.0 electrical specification). */
export const WIRE_BYTES_PER_SECOND = 3125;

/** Milliseconds that one byte takes on the wire: 0.32. */
export const BYTE_MS = 1000 / WIRE_BYTES_PER_SECOND;

/** Milliseconds that `bytes` take on the wire, back to back. */
export const wireMs = (bytes: number): number => bytes * BYTE_MS;
