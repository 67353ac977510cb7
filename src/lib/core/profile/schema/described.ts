import { z } from 'zod';
import { count, milliseconds } from './common';

/** An area that the device itself describes: it gives and takes each slot as a property of MIDI-CI, by its id there. */
export const described = z.strictObject({
	/** What it calls the state of each slot, in the order of the slots. */
	states: z.array(z.string().min(1).max(64)).min(1).max(1024),
	/** Bytes of a state at most. */
	room: count.max(60_000),
	/** The list whose titles are the names of the slots: of programs, by its id where there are several, or of the states themselves. */
	titles: z.union([
		z.literal('StateList'),
		z.strictObject({ programs: z.string().min(1).max(64).optional() })
	]),
	/** How a state is best sent. */
	encoding: z.enum(['Mcoded7', 'zlib+Mcoded7']).default('Mcoded7'),
	/** It gives its states, and takes none. */
	takes: z.literal(false).optional(),
	/** Silence after which it counts as unanswered. */
	timeoutMs: milliseconds.default(1500)
});

export type Described = z.infer<typeof described>;
