import { z } from 'zod';
import { liveWorldSchema, type LiveWorld } from '../core/drawer';
import {
	forgotten,
	heldOf,
	heldSent,
	instrumentsOf,
	nothingHeld,
	wholeMessage,
	type Held,
	type KnownHeld,
	type ShowSet
} from '../core/scene';
import type { Studio } from './db/connection';
import { stored } from './store/sql';
import { listDevices } from './gear';
import { paperRow, putPaper } from './store/papers';
import { lastWrites } from './store/transfers';

const value = z.number().int().min(0).max(127).nullable();
const selected = z.object({ msb: value, lsb: value, program: z.number().int().min(0).max(127) });
const heldSchema = z.object({
	parts: z.record(
		z.string(),
		z.object({ msb: value, lsb: value, selected: selected.nullable(), volume: value })
	),
	local: z.record(z.string(), z.boolean()),
	pages: z.record(z.string(), z.string()),
	tempo: z.number().nullable()
});
const keptSchema = z.object({
	held: heldSchema,
	/** When each instrument was sent to last. */
	at: z.record(z.string(), z.string())
});
type Kept = z.infer<typeof keptSchema>;

const kindOf = (world: LiveWorld) => `held-${world}`;
const NOTHING: Kept = { held: { parts: {}, local: {}, pages: {}, tempo: null }, at: {} };

/**
 * What instruments hold by what they were sent in a world. An instrument whose device was written to since by a transfer is
 * not known any more; what a hand does at a panel is known where the instrument told it (`says`).
 */
export async function readHeld(studio: Studio, set: ShowSet, world: LiveWorld): Promise<KnownHeld> {
	const row = await paperRow(studio, kindOf(world));
	if (!row) return { held: nothingHeld, at: null };
	const kept = stored(keptSchema, row.document);
	const writes = await lastWrites(studio, world);
	const stale = set.setup.instruments.filter(
		({ id, device }) =>
			device !== null && kept.at[id] !== undefined && (writes.get(device) ?? '') > kept.at[id]
	);
	const held = stale.reduce<Held>((now, { id }) => forgotten(now, id), kept.held);
	return { held, at: Object.values(kept.at).sort().at(-1) ?? null };
}

/** What is known of instruments in each world. */
export const heldInWorlds = async (studio: Studio, set: ShowSet): Promise<Record<LiveWorld, KnownHeld>> => ({
	bench: await readHeld(studio, set, 'bench'),
	hardware: await readHeld(studio, set, 'hardware')
});

const message = z.object({
	instrument: z.string().min(1).max(60),
	channel: z.number().int().min(1).max(16).nullable(),
	bytes: wholeMessage(
		z
			.string()
			.max(1024)
			.regex(/^[0-9a-f]{2}([0-9a-f]{2})*$/i)
	)
});

/** What left for instruments, in its order, and what hands were asked to do. */
export const sentSchema = z.object({
	world: liveWorldSchema,
	messages: z.array(message).max(4000),
	local: z.record(z.string().max(60), z.boolean()).default({}),
	pages: z.record(z.string().max(60), z.string().max(60)).default({}),
	tempo: z.number().nullable().default(null),
	/** Instruments of which nothing is known any more: not everything left, or somebody said so. */
	forget: z.array(z.string().max(60)).max(64).default([]),
	/** What instruments said that they play, when they were asked. */
	says: z
		.array(z.object({ instrument: z.string().max(60), channel: z.number().int().min(1).max(16), selected }))
		.max(256)
		.default([])
});
export type SentOrder = z.infer<typeof sentSchema>;

/** Notes what was sent to the instruments of the set; of others, nothing is kept. */
export function noteSent(studio: Studio, set: ShowSet, order: SentOrder): Promise<void> {
	const { world } = order;
	return studio.write(async (transaction) => {
		const row = await paperRow(studio, kindOf(world), transaction);
		const kept = row ? stored(keptSchema, row.document) : NOTHING;
		const now = studio.now().toISOString();
		const held = heldOf(set, heldSent(kept.held, order));
		const sentNow = instrumentsOf(order.messages);
		const at = Object.fromEntries(
			set.setup.instruments.flatMap(({ id }) => {
				const last = sentNow.includes(id) ? now : kept.at[id];
				return last === undefined ? [] : [[id, last]];
			})
		);
		// What could not be read again is not stored.
		const document = keptSchema.parse({ held, at });
		await putPaper(studio, { kind: kindOf(world), document, updatedAt: now }, transaction);
	});
}

/** Devices that were sent something else than a scene, or bench units that were: what they play is not known any more. */
export const forgetPlayedSchema = z.object({
	world: liveWorldSchema,
	devices: z.array(z.string().max(120)).max(500).default([]),
	units: z.array(z.string().max(120)).max(500).default([]),
	/** All of them. */
	all: z.boolean().default(false)
});

/** Notes that something else than a scene reached devices of the set. */
export async function forgetPlayed(
	studio: Studio,
	set: ShowSet,
	{ world, devices, units, all }: z.output<typeof forgetPlayedSchema>
): Promise<void> {
	const plugged = new Map((await listDevices(studio)).map(({ id, benchUnit }) => [id, benchUnit]));
	const forget = set.setup.instruments
		.filter(({ device }) => {
			const unit = device === null ? null : plugged.get(device);
			return all || (device !== null && devices.includes(device)) || (unit != null && units.includes(unit));
		})
		.map(({ id }) => id);
	if (forget.length > 0) await noteSent(studio, set, sentSchema.parse({ world, messages: [], forget }));
}
