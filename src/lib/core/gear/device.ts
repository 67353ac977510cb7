import { z } from 'zod';
import { uniqueId } from '../unique-id';
import { PORT_CONNECTORS, type PortConnector } from './kinds';

export const portSchema = z.object({
	/** Names the port in cables, whatever it is called later; given by the app where it is empty. */
	id: z.string().trim().max(60).default(''),
	name: z.string().trim().min(1, 'Give the port the name that is printed beside it.').max(40),
	direction: z.enum(['in', 'out', 'thru', 'both']),
	connector: z.enum(Object.keys(PORT_CONNECTORS) as [PortConnector, ...PortConnector[]]),
	/** For audio: which half of a stereo pair. */
	side: z.enum(['mono', 'left', 'right']).optional()
});

export type Port = z.infer<typeof portSchema>;

const words = (limit: number) =>
	z.string().trim().max(limit, `Keep it within ${limit} characters.`).default('');

/** Ports with an id each: what is there stays, the others get one from their name that is theirs alone. */
export function namePorts(ports: readonly Port[]): Port[] {
	const taken = new Set(ports.map(({ id }) => id).filter(Boolean));
	return ports.map((port) => (port.id ? port : { ...port, id: uniqueId(port.name, taken, 'port') }));
}
/** What the catalogue holds of a device. `deviceId` is the wire value (0–126), `channel` counts from 1. */
export const deviceSchema = z.object({
	name: z.string().trim().min(1, 'Give the device a name.').max(60, 'Keep the name within 60 characters.'),
	maker: words(60),
	model: words(60),
	kind: words(40),
	place: words(40),
	serial: words(60),
	firmware: words(30),
	profileId: z.string().max(60).nullable().default(null),
	deviceId: z
		.number()
		.int()
		.min(0, 'Device IDs begin at 0 on the wire.')
		.max(126, 'Device IDs end at 126 on the wire.')
		.nullable()
		.default(null),
	channel: z
		.number()
		.int()
		.min(1, 'Channels are 1 to 16.')
		.max(16, 'Channels are 1 to 16.')
		.nullable()
		.default(null),
	ports: z.array(portSchema).max(64).default([]),
	batteryType: words(60),
	/** ISO date, or empty. */
	batteryFitted: z
		.string()
		.trim()
		.regex(/^(\d{4}-\d{2}-\d{2})?$/, 'Write the date as 2026-03-31.')
		.default(''),
	/** Years that such a battery usually lasts. */
	batteryYears: z
		.number()
		.min(0.5, 'At least half a year.')
		.max(30, 'Thirty years at most.')
		.nullable()
		.default(null),
	/** What it needs at each power-on. */
	forgets: words(300),
	power: words(120),
	notes: words(8000)
});

export type DeviceFacts = z.infer<typeof deviceSchema>;

/** Facts that somebody changed, with those that they saw before: what others changed meanwhile is not overwritten. */
export const deviceEditSchema = deviceSchema.extend({ was: deviceSchema.optional() });

export interface Device extends DeviceFacts {
	id: string;
	/** The bench unit that it is plugged in to, if any. */
	benchUnit: string | null;
	archivedAt: string | null;
	/** Days after which a backup is due; null leaves it to the risk. */
	remindDays?: number | null;
}
