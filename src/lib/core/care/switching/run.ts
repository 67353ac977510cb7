import { z } from 'zod';
import type { LiveWorld } from '../../drawer';
import { Problem } from '../../problem';
import { switchItemSchema, type SwitchItem } from './list';

/** How something is known to be done: by the hand that ticked it, heard from the device, sent, sent and answered as it should be, or left out this time. */
export const TICKS = ['hand', 'heard', 'sent', 'proved', 'left'] as const;
export type TickHow = (typeof TICKS)[number];

/** A studio being switched on or off: the list as it stood, and what was done. */
export const switchingSchema = z.object({
	format: z.literal('silent-drawer.switching').default('silent-drawer.switching'),
	version: z.literal(1).default(1),
	way: z.enum(['on', 'off']),
	items: z.array(switchItemSchema).max(5000),
	/** Only grows: what is taken back stays on record. */
	ticks: z
		.array(
			z.object({
				item: z.string().min(1).max(200),
				at: z.string().min(10).max(40),
				how: z.enum([...TICKS, 'taken back']),
				/** What should have been done before it and was not. */
				early: z.array(z.string()).default([]),
				note: z.string().max(300).default('')
			})
		)
		.max(20_000)
		.default([])
});
export type Switching = z.infer<typeof switchingSchema>;
export type Tick = Switching['ticks'][number];

/** What counts of the ticks: the last word on each item. */
export function ticked({ ticks }: Pick<Switching, 'ticks'>): Map<string, Tick> {
	const last = new Map<string, Tick>();
	for (const tick of ticks)
		if (tick.how === 'taken back') last.delete(tick.item);
		else last.set(tick.item, tick);
	return last;
}

/** What should be done before an item and is not. */
export function waitsFor(
	{ items }: Pick<Switching, 'items'>,
	done: ReadonlyMap<string, unknown>,
	item: SwitchItem
): SwitchItem[] {
	return items.filter(({ id }) => item.after.includes(id) && !done.has(id));
}

/** The item whose turn it is: the first that is not done and waits for nothing; null where all is done. */
export function nextItem(run: Switching, done = ticked(run)): SwitchItem | null {
	const open = run.items.filter(({ id }) => !done.has(id));
	return open.find((item) => waitsFor(run, done, item).length === 0) ?? open[0] ?? null;
}

/**
 * A run with an item ticked, or a tick taken back. Ticking out of turn is what a hand did: it is noted with what was left before
 * it, and not refused.
 * @throws Problem `switching.item`, `switching.how` where an item cannot be known to be done in that way
 */
export function tick(run: Switching, item: string, how: Tick['how'], now: string, note = ''): Switching {
	const found = run.items.find(({ id }) => id === item);
	if (!found) throw new Problem('switching.item', 'That is not on this list.', 'See the list as it is now.');
	const done = ticked(run);
	if (how === 'taken back' && !done.has(item))
		throw new Problem('switching.item', 'That is not ticked.', 'See the list as it is now.');
	if (
		(how === 'heard' && !found.askable) ||
		(how === 'sent' && found.messages.length === 0) ||
		(how === 'proved' && found.answer === '')
	)
		throw new Problem(
			'switching.how',
			`“${found.says}” cannot be known in that way.`,
			'Look at the device, and tick it by hand.'
		);
	const early =
		how === 'taken back' || how === 'left' ? [] : waitsFor(run, done, found).map(({ name }) => name);
	return { ...run, ticks: [...run.ticks, { item, at: now, how, early: [...new Set(early)], note }] };
}

/** A switching as its page shows it. */
export interface OpenSwitching {
	id: string;
	world: LiveWorld;
	begunAt: string;
	endedAt: string | null;
	over: 'done' | 'abandoned' | null;
	run: Switching;
	/** What counts of the ticks, by item. */
	done: Record<string, Tick>;
	next: string | null;
}
