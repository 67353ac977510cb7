import { z } from 'zod';
import { address, count, id, milliseconds } from './common';
import { described } from './described';
import { told } from './told';

/** How slots are numbered on the device's own panel. */
const slotLabels = z.discriminatedUnion('style', [
	z.strictObject({
		style: z.literal('number'),
		/** The number of the first slot, usually 0 or 1. */
		first: z.number().int().min(0).default(1),
		/** Digits, filled with zeros. */
		digits: z.number().int().min(1).max(4).default(1),
		prefix: z.string().max(4).default('')
	}),
	z.strictObject({
		style: z.literal('grid'),
		/** One list of signs for each place; the last place counts fastest. */
		places: z
			.array(z.array(z.string().min(1).max(3)).min(1))
			.min(1)
			.max(4)
	}),
	z.strictObject({ style: z.literal('list'), labels: z.array(z.string().min(1).max(12)).min(1) })
]);

export const area = z.strictObject({
	id,
	name: z.string().min(1).max(40),
	/** What the panel calls one slot: program, kit, preset … */
	slotWord: z.string().min(1).max(20).default('program'),
	slots: count.max(1024),
	labels: slotLabels.default({ style: 'number', first: 1, digits: 1, prefix: '' }),
	record: id,
	/** Where its slots lie in addressed memory: from each of these slots on, at a base and a stride. */
	addresses: z
		.array(z.strictObject({ from: z.number().int().min(0), base: address, stride: address.optional() }))
		.min(1)
		.max(64)
		.optional(),
	/** How slots are selected from outside: from each of these slots on, a bank select (where given) and program changes that count up. */
	recall: z
		.array(
			z.strictObject({
				/** Its first slot, from 0. */
				from: z.number().int().min(0),
				/** The program change of that slot, as on the wire. */
				program: z.number().int().min(0).max(127).default(0),
				/** Bank select, controller 0 and controller 32, as far as the device wants them. */
				msb: z.number().int().min(0).max(127).optional(),
				lsb: z.number().int().min(0).max(127).optional()
			})
		)
		.min(1)
		.optional(),
	/** The message that puts a record where it can be played and is not stored. */
	editBuffer: z.strictObject({ send: id }).optional(),
	/** How it says which slot it plays. */
	playing: z
		.strictObject({
			/** The question; left out where it cannot be asked. */
			ask: id.optional(),
			/** The answer, which names the slot. */
			says: id.optional(),
			timeoutMs: milliseconds.default(700),
			/** What comes by itself when a hand chooses another at the panel: the answer, or a program change on its channel. */
			tells: z.enum(['says', 'program-change']).optional()
		})
		.optional(),
	/**
	 * Nothing but the edit buffer is given and taken: a slot is called up by its `recall` before its dump is asked for, and what
	 * was sent is put into a slot by a command that names it.
	 */
	called: z
		.strictObject({
			/** Puts the edit buffer into the slot that it names. It is kept with each dump, behind it. */
			store: id,
			/** Rest after a program change. */
			settleMs: milliseconds.default(50),
			/** Rest after the store command. */
			storeMs: milliseconds.default(100)
		})
		.optional(),
	/** It is told value by value, in channel messages. */
	told: told.optional(),
	/** It describes itself: its slots are properties that it gives and takes. */
	described: described.optional(),
	/** Its dumps name no slot: each is of the slot that the panel stands at. */
	panel: z
		.strictObject({
			/** What asks where the panel stands. */
			ask: id,
			/** What it answers: the message names the slot. It is kept with each dump, before it. */
			says: id,
			/** What calls a slot up from outside; left out where only a hand can. */
			select: id.optional(),
			/** Rest after a slot was called up. */
			settleMs: milliseconds.default(0),
			/** Silence after which the question counts as unanswered. */
			timeoutMs: milliseconds.default(1000),
			/** How long a hand may take to call a slot up. */
			waitMs: milliseconds.default(120_000)
		})
		.optional()
});

export type ProfileArea = z.infer<typeof area>;
export type SlotLabels = z.infer<typeof slotLabels>;
