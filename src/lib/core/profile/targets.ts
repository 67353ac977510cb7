import { z } from 'zod';

/** How a target is told, as people count: channels 1–16 are the map's, numbers are the wire's. */
export const addressSchema = z.discriminatedUnion('kind', [
	z.object({ kind: z.literal('cc'), number: z.number().int().min(0).max(127) }),
	/** A coarse controller 0–31 and the fine one 32 above. */
	z.object({ kind: z.literal('cc-14'), number: z.number().int().min(0).max(31) }),
	z.object({ kind: z.literal('rpn'), number: z.number().int().min(0).max(16382) }),
	z.object({ kind: z.literal('nrpn'), number: z.number().int().min(0).max(16382) }),
	z.object({ kind: z.literal('note'), number: z.number().int().min(0).max(127) }),
	z.object({ kind: z.literal('program-change') }),
	z.object({ kind: z.literal('pitch-bend') }),
	z.object({ kind: z.literal('channel-pressure') }),
	/** Bytes between F0 and F7 in hexadecimal, `vv` where the value stands. */
	z.object({
		kind: z.literal('sysex'),
		bytes: z.string().regex(/^([0-7][0-9A-Fa-f]|vv)( ([0-7][0-9A-Fa-f]|vv))*$/)
	})
]);
export type Address = z.infer<typeof addressSchema>;

/** Kinds of messages as people write them. */
export const ADDRESS_WORDS: Record<Address['kind'], string> = {
	cc: 'CC',
	'cc-14': 'CC (14 bits)',
	rpn: 'RPN',
	nrpn: 'NRPN',
	note: 'Note',
	'program-change': 'Program change',
	'pitch-bend': 'Pitch bend',
	'channel-pressure': 'Pressure',
	sysex: 'System exclusive'
};

/** How what is sent becomes what is shown. */
export const scaleSchema = z.discriminatedUnion('kind', [
	z.object({ kind: z.literal('even'), from: z.number(), to: z.number() }),
	/** Equal steps are equal ratios; both ends above nought. */
	z.object({ kind: z.literal('logarithmic'), from: z.number().positive(), to: z.number().positive() }),
	/** Even from `from` to 0 at the middle and on to `to`. */
	z.object({ kind: z.literal('bipolar'), from: z.number().negative(), to: z.number().positive() }),
	/** What is shown for each value, in order. */
	z.object({ kind: z.literal('table'), shown: z.array(z.number()).min(2).max(16384) })
]);
export type Scale = z.infer<typeof scaleSchema>;

export const targetSchema = z
	.object({
		id: z.string().min(1).max(80),
		name: z.string().min(1).max(80),
		address: addressSchema,
		/** Smallest and largest value that is sent. */
		low: z.number().int().min(0).max(16383).default(0),
		high: z.number().int().min(0).max(16383).default(127),
		unit: z.string().max(16).default(''),
		scale: scaleSchema.optional(),
		/** On or off, nothing between. */
		switch: z.boolean().default(false),
		/** The value that is sent for what it is by itself. */
		default: z.number().int().min(0).max(16383).optional(),
		/** It reads steps, not positions. */
		relative: z.boolean().default(false),
		/** How loud something is, in dB. */
		level: z.boolean().default(false),
		/** It acts while it is held, as a pedal does. */
		held: z.boolean().default(false),
		/** Programs of its device that have it, as on the wire; empty for all. */
		programs: z
			.array(z.object({ from: z.number().int().min(0).max(127), to: z.number().int().min(0).max(127) }))
			.max(128)
			.default([]),
		/** What it does, in a word that targets of other devices share. */
		function: z.string().max(40).default('')
	})
	.refine(({ low, high }) => low < high, { message: 'The smallest value must be below the largest.' })
	.refine(({ scale, low, high }) => scale?.kind !== 'table' || scale.shown.length === high - low + 1, {
		message: 'A table shows a value for each that is sent.'
	});
export type Target = z.infer<typeof targetSchema>;

/** `silent-drawer.targets`: what a device, a software instrument or the host can be told. */
export const targetListSchema = z.object({
	format: z.literal('silent-drawer.targets'),
	version: z.literal(1),
	id: z.string().min(1).max(60),
	/** Whose they are. */
	name: z.string().min(1).max(80),
	whose: z.enum(['device', 'software', 'host']).default('device'),
	/** No message reaches it but by DIN. */
	dinOnly: z.boolean().default(false),
	/** It hears on these channels only; empty for any. */
	channels: z.array(z.number().int().min(1).max(16)).max(16).default([]),
	targets: z.array(targetSchema).max(4000)
});
export type TargetList = z.infer<typeof targetListSchema>;

/** What is shown for a value that is sent. Without a scale, the value itself. */
export function shownOf({ scale, low, high }: Pick<Target, 'scale' | 'low' | 'high'>, value: number): number {
	const share = (value - low) / (high - low);
	switch (scale?.kind) {
		case undefined:
			return value;
		case 'even':
			return scale.from + share * (scale.to - scale.from);
		case 'logarithmic':
			return scale.from * (scale.to / scale.from) ** share;
		case 'bipolar':
			return share < 0.5 ? scale.from * (1 - 2 * share) : scale.to * (2 * share - 1);
		case 'table':
			return scale.shown[Math.min(scale.shown.length - 1, Math.max(0, Math.round(value - low)))];
	}
}

/** The value to send that shows what is nearest to `shown`; of two as near, the smaller. */
export function valueFor(target: Pick<Target, 'scale' | 'low' | 'high'>, shown: number): number {
	// Tables need not rise: every value is looked at. A control has 16,384 at most.
	let best = target.low;
	let least = Infinity;
	for (let value = target.low; value <= target.high; value++) {
		const off = Math.abs(shownOf(target, value) - shown);
		if (off < least) [best, least] = [value, off];
	}
	return best;
}
