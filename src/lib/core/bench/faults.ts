import { z } from 'zod';

const way = z.enum(['from device', 'to device']).default('from device');
/** How often it strikes; without it, always. */
const times = z.number().int().min(1).max(1000).optional();

/** What can be made to go wrong on the bench. */
export const faultSchema = z.discriminatedUnion('kind', [
	z.strictObject({
		kind: z.literal('lose bytes'),
		way,
		times,
		share: z.number().min(0).max(1).default(0.001)
	}),
	z.strictObject({
		kind: z.literal('flip bits'),
		way,
		times,
		share: z.number().min(0).max(1).default(0.001)
	}),
	/** The rest of a message is cut off after so many bytes. */
	z.strictObject({
		kind: z.literal('truncate'),
		way,
		times,
		afterBytes: z.number().int().min(1).default(100)
	}),
	/** An adapter that swallows messages longer than this. */
	z.strictObject({
		kind: z.literal('drop long messages'),
		way,
		times,
		longerThan: z.number().int().min(1).default(256)
	}),
	/** The cable comes out after so many bytes and is put back later. */
	z.strictObject({
		kind: z.literal('unplug'),
		way,
		times: times.default(1),
		afterBytes: z.number().int().min(0).default(200),
		forMs: z.number().min(0).default(3000)
	}),
	/** The device's supply fails for a moment after so many bytes: it starts again. */
	z.strictObject({
		kind: z.literal('power cut'),
		way: z.enum(['from device', 'to device']).default('to device'),
		times: times.default(1),
		afterBytes: z.number().int().min(0).default(1000)
	}),
	/** The device writes its memory so slowly that its input buffer runs over. */
	z.strictObject({ kind: z.literal('slow memory'), factor: z.number().min(1).max(1000).default(20) }),
	z.strictObject({ kind: z.literal('wrong device ID'), add: z.number().int().min(1).max(100).default(1) }),
	/** Says several times a second that it is there (MIDI 1.0, “Active sensing”). */
	z.strictObject({ kind: z.literal('active sensing') }),
	/** Its sequencer runs: 24 clocks a quarter note. */
	z.strictObject({ kind: z.literal('clock'), bpm: z.number().min(20).max(300).default(120) }),
	z.strictObject({ kind: z.literal('slow answers'), addMs: z.number().min(0).max(60_000).default(800) })
]);

export type Fault = z.infer<typeof faultSchema>;
export type FaultKind = Fault['kind'];

/** In words, for the panel of the bench. */
export const FAULT_TITLES: Record<FaultKind, string> = {
	'lose bytes': 'Loses bytes now and then',
	'flip bits': 'Flips bits now and then',
	truncate: 'Cuts a message short',
	'drop long messages': 'Adapter swallows long messages',
	unplug: 'Cable comes out mid-way, then goes back in',
	'power cut': 'Supply fails mid-way for a moment',
	'slow memory': 'Memory so slow that the input overruns',
	'wrong device ID': 'Answers with another device ID',
	'active sensing': 'Sends active sensing',
	clock: 'Sends clock',
	'slow answers': 'Answers slowly'
};
