import { z } from 'zod';
import { ALL_CHANNELS, CLOCK_MODES, RIG_CONNECTORS, type RigConnector } from './words';

const id = z.string().min(1).max(120);
const words = (limit: number) => z.string().max(limit).default('');
/** 1–16, as people count. */
export const channelSchema = z.number().int().min(1).max(16);

export const rigPortSchema = z.object({
	id,
	name: words(60),
	direction: z.enum(['in', 'out', 'thru', 'both']),
	connector: z.enum(Object.keys(RIG_CONNECTORS) as [RigConnector, ...RigConnector[]]),
	/** For audio: which half of a stereo pair it carries. */
	side: z.enum(['mono', 'left', 'right']).optional()
});

export const receiveSchema = z.object({
	/** Channels that it can be set to receive on. */
	channels: z
		.array(channelSchema)
		.min(1)
		.max(16)
		.default([...ALL_CHANNELS]),
	/** Parts, each of which takes a channel of its own. */
	parts: z.number().int().min(1).max(16).default(1),
	/** Whether the channels of its parts follow one another. */
	adjacent: z.boolean().default(true),
	/** It answers to every channel, and cannot be told not to. */
	omni: z.boolean().default(false)
});

/** What a device does with messages, besides where its cables go. */
export const wiringSchema = z.object({
	receive: receiveSchema.prefault({}),
	wants: z
		.object({
			/** Its out must come back to an interface, to be recorded or backed up. */
			return: z.boolean().default(false),
			/** Expected traffic towards it. */
			bytesPerSecond: z.number().min(0).max(100_000).default(0),
			/** Its timing must not wait for another instrument. */
			tight: z.boolean().default(false),
			/** The host that plays it, where there are several. Left out: the one that does today. */
			host: id.optional()
		})
		.prefault({}),
	lock: z.object({ out: id.optional(), in: id.optional(), channel: channelSchema.optional() }).prefault({}),
	/** Channels that its keys, knobs or sequences send on; empty for what only listens. */
	sends: z.array(channelSchema).max(16).default([]),
	/** Its keys sound its own voices. */
	local: z.boolean().default(true),
	/** It repeats what comes in at its out. */
	softThru: z.boolean().default(false),
	clock: z
		.object({
			mode: z.enum(CLOCK_MODES).default('none'),
			/** It sends its clock at its outs. */
			sends: z.boolean().default(false)
		})
		.prefault({}),
	/** Somebody wants its memory backed up by request. */
	backup: z.boolean().default(false)
});

export const rigDeviceSchema = z.object({
	id,
	name: z.string().min(1).max(80),
	place: words(60),
	kind: words(60),
	/** Maker and model: two devices of one model answer the same requests. */
	model: words(130),
	/** What its panel adds to the device ID of the wire: 1 where it counts from 1. */
	panelAdd: z.number().int().min(0).max(1).default(0),
	ports: z.array(rigPortSchema).max(80).default([]),
	...wiringSchema.shape
});

export const cableSchema = z.object({
	from: id,
	to: id,
	/** Metres. */
	length: z.number().min(0).max(100).optional(),
	/** An adapter that sits on it. Without one, DIN to TRS is taken to have the right one, and TRS to TRS none. */
	adapter: z.enum(['type-a', 'type-b', 'crossing']).optional()
});

export const settingSchema = z.object({
	device: id,
	/** Receive channel; the first of its block for a device with several parts. */
	channel: channelSchema.nullable().optional(),
	/** Channels of its parts one by one, where they do not follow one another. */
	channels: z.array(channelSchema).max(16).optional(),
	/** Wire value, 0–126. */
	deviceId: z.number().int().min(0).max(126).nullable().optional()
});

/** A port as the computer shows it: a name and a number, for one physical port. */
export const hostPortSchema = z.object({
	id,
	name: z.string().min(1).max(80),
	/** Its number in the computer's list. */
	number: z.number().int().min(1).max(999),
	direction: z.enum(['in', 'out']),
	/** Port of the rig whose traffic it is. */
	port: id,
	playing: z.boolean().default(true),
	control: z.boolean().default(false),
	clockOut: z.boolean().default(false),
	sync: z.boolean().default(false),
	/** The system does not show it. */
	hidden: z.boolean().default(false),
	/** A map of the host uses this channel for itself. */
	reserved: channelSchema.nullable().default(null)
});

export const hostInstrumentSchema = z.object({
	id,
	name: z.string().min(1).max(80),
	/** Number of the input port that it listens to; `null` for all. */
	input: z.number().int().min(1).max(999).nullable().default(null),
	/** `null` for all. */
	channel: channelSchema.nullable().default(null),
	on: z.boolean().default(true)
});

export const hostTrackSchema = z.object({
	id,
	name: z.string().min(1).max(80),
	/** Host port that it takes messages from; `null` for all. */
	input: id.nullable().default(null),
	inputChannel: channelSchema.nullable().default(null),
	/** Host port that it plays to. */
	output: id.nullable().default(null),
	/** `null`: as they come. */
	outputChannel: channelSchema.nullable().default(null),
	/** What comes in goes on to the output at once. */
	echo: z.boolean().default(false)
});

/** A computer or tablet with its music software. */
export const hostSchema = z.object({
	id: id.default('host'),
	name: z.string().trim().min(1).max(60).default('Computer'),
	/** The device of the rig that it runs on; left out: whichever one its USB cables lead to. */
	computer: id.nullable().default(null),
	ports: z.array(hostPortSchema).max(200).default([]),
	instruments: z.array(hostInstrumentSchema).max(200).default([]),
	tracks: z.array(hostTrackSchema).max(400).default([]),
	/** Time that the host takes to pass a message on. */
	latencyMs: z.number().min(0).max(500).default(3),
	/** What its sound takes to be heard: the buffer of its audio, and the driver’s own time. */
	audio: z
		.object({
			buffer: z.number().int().min(0).max(8192).default(0),
			/** Samples a second. */
			rate: z.number().int().min(8000).max(384_000).default(48_000),
			driverMs: z.number().min(0).max(500).default(0)
		})
		.prefault({}),
	/** Where what is played goes: to the selected track alone, or to all who listen. */
	keys: z.enum(['all', 'selected']).default('all'),
	/** The host leads the tempo and sends clock where a port says so. */
	clock: z.boolean().default(false)
});

/** A rig as a file has it, in any version. */
export const rigFileSchema = z.object({
	format: z.literal('silent-drawer.rig'),
	version: z.union([z.literal(1), z.literal(2)]),
	devices: z.array(rigDeviceSchema).max(500),
	cables: z.array(cableSchema).max(2000).default([]),
	settings: z.array(settingSchema).max(500).default([]),
	/** Pairs of devices that sound together on purpose. */
	layers: z
		.array(z.tuple([id, id]))
		.max(500)
		.default([]),
	/** Where devices answered when they were last asked: ports of the rig, null where that was not known. */
	answers: z
		.array(z.object({ device: id, out: id.nullable(), in: id.nullable() }))
		.max(500)
		.default([]),
	/** Computers and tablets. Without any, every interface is taken to be reached by one, which echoes nothing. */
	hosts: z.array(hostSchema).max(20).default([]),
	/** Version 1: the only host. */
	host: hostSchema.optional(),
	limits: z
		.object({
			/** Devices that one out may reach through thru sockets, one behind the other. */
			chain: z.number().int().min(1).max(10).default(3),
			/** Share of the wire that a port may be planned for. */
			load: z.number().min(0.01).max(1).default(0.7)
		})
		.prefault({})
});

/** A rig as it is worked with; version 1 knew one host. */
export const rigSchema = rigFileSchema.transform(({ host, hosts, ...rig }) => ({
	...rig,
	version: 2 as const,
	hosts: host ? [host, ...hosts] : hosts
}));

export type Rig = z.infer<typeof rigSchema>;
export type RigFile = z.input<typeof rigSchema>;
export type RigDevice = z.infer<typeof rigDeviceSchema>;
export type RigPort = z.infer<typeof rigPortSchema>;
export type Cable = z.infer<typeof cableSchema>;
export type Setting = z.infer<typeof settingSchema>;
export type Wiring = z.infer<typeof wiringSchema>;
export type Host = z.infer<typeof hostSchema>;
export type HostPort = z.infer<typeof hostPortSchema>;
export type HostTrack = z.infer<typeof hostTrackSchema>;
export type HostInstrument = z.infer<typeof hostInstrumentSchema>;
