import { wireMs } from '../midi';

/** Bytes of a note or controller message without running status. */
export const MESSAGE_BYTES = 3;

/** Milliseconds that one short message spends at each kind of hop. */
export const DELAY_MS = {
	/** Sent anew on a 31,250 bit/s line: three bytes of 320 µs. */
	wire: wireMs(MESSAGE_BYTES),
	/** A thru socket repeats bit by bit; its opto-coupler takes some microseconds. */
	thru: 0.002,
	/** The next USB frame (1 ms, USB 2.0 full speed) takes it along at the latest. */
	usb: 1,
	/** A merge box holds a message until the line is free. */
	merge: 0.2,
	/** A software thru takes 1–3 ms. */
	softThru: 2
} as const;
