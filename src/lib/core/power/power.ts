import { z } from 'zod';

const id = z.string().min(1).max(60);
const name = z.string().trim().min(1, 'Give it a name.').max(60);
const milliamps = z.number().int().min(0).max(100_000);
const volts = z.number().min(0.5).max(400);

export const POLARITIES = {
	negative: 'centre negative',
	positive: 'centre positive',
	none: 'no polarity'
} as const;
export type Polarity = keyof typeof POLARITIES;
const polarity = z.enum(Object.keys(POLARITIES) as [Polarity, ...Polarity[]]);

/** A device as it draws: what stands on its label. Null is “read the label”: it is never taken to be anything. */
export const loadSchema = z.object({
	id,
	name,
	/** The device of Gear that it is, if any. */
	device: z.string().max(120).nullable().default(null),
	/** A supply socket, the USB bus alone, or a mains supply of its own, which nothing here feeds. */
	on: z.enum(['socket', 'usb', 'own']).default('socket'),
	/** Lowest and highest voltage that it takes. */
	volts: z.tuple([volts, volts]).nullable().default(null),
	kind: z.enum(['DC', 'AC']).nullable().default(null),
	polarity: polarity.nullable().default(null),
	/** Running, and for a moment when it is switched on. */
	ma: milliamps.nullable().default(null),
	startMa: milliamps.nullable().default(null),
	/** What its audio makes of a shared ground. */
	audio: z.enum(['sensitive', 'digital', 'none']).default('none'),
	/** It should share its ground with nobody. */
	isolated: z.boolean().default(false),
	/** Fed by the USB bus, it has a socket of its own, too (volts, kind and polarity are of that). */
	selfFeeds: z.boolean().default(false),
	/** USB devices that are plugged in to its host socket: it carries their current, too, unless they feed themselves. */
	hosts: z
		.array(
			z.object({
				load: id,
				/** Whether its host mode is on; null where nobody looked. */
				mode: z.enum(['on', 'off']).nullable().default(null),
				/** An adapter whose host end is at the box, or at the device; null for none. */
				adapter: z.enum(['host end', 'wrong end']).nullable().default(null)
			})
		)
		.max(8)
		.default([])
});
export type Load = z.infer<typeof loadSchema>;

export const outputSchema = z.object({
	id,
	name,
	/** What it can be set to. */
	volts: z.array(volts).max(8).default([]),
	kind: z.enum(['DC', 'AC']).nullable().default(null),
	polarity: polarity.nullable().default(null),
	ma: milliamps.nullable().default(null),
	/** It shares its ground with no other output. */
	isolated: z.boolean().default(false),
	/** A group of outputs that share a limit. */
	group: id.nullable().default(null),
	/** Plugs that it has, by a chain of plugs perhaps. */
	plugs: z.number().int().min(1).max(12).default(1)
});
export type Output = z.infer<typeof outputSchema>;

export const supplySchema = z.object({
	id,
	name,
	device: z.string().max(120).nullable().default(null),
	/** `usb`: sockets of a computer or charger; `hub`: a USB hub. */
	is: z.enum(['supply', 'battery', 'usb', 'hub']).default('supply'),
	/** For a battery, mAh; null where nobody knows. */
	mah: z.number().int().min(1).max(1_000_000).nullable().default(null),
	/** For a hub: fed by its own supply, or by the bus alone, which leaves 100 mA a port; null where nobody looked. */
	powered: z.enum(['own', 'bus']).nullable().default(null),
	outputs: z.array(outputSchema).max(40).default([]),
	groups: z
		.array(z.object({ id, ma: milliamps.nullable().default(null) }))
		.max(20)
		.default([])
});
export type Supply = z.infer<typeof supplySchema>;

export const powerCableSchema = z.object({
	load: id,
	supply: id,
	output: id,
	/** A cable that exchanges the poles, or one that joins two outputs for more current or more volts. */
	through: z.enum(['plain', 'reversing', 'doubling']).default('plain')
});
export type PowerCable = z.infer<typeof powerCableSchema>;

/** What draws, what feeds, and which cable joins them today. */
export const powerSchema = z
	.object({
		format: z.literal('silent-drawer.power').default('silent-drawer.power'),
		version: z.literal(1).default(1),
		/** Per cent of a load that must be left over beside it. */
		margin: z.number().int().min(0).max(200).default(20),
		/** Hours that a battery must last. */
		hours: z.number().min(0.25).max(48).default(3),
		loads: z.array(loadSchema).max(200).default([]),
		supplies: z.array(supplySchema).max(80).default([]),
		cables: z.array(powerCableSchema).max(400).default([])
	})
	.superRefine((power, context) => {
		const twice = (what: string, ids: readonly string[]) => {
			const again = ids.find((each, i) => ids.indexOf(each) !== i);
			if (again !== undefined)
				context.addIssue({ code: 'custom', message: `Two ${what} are called “${again}”.` });
		};
		twice(
			'loads',
			power.loads.map(({ id: each }) => each)
		);
		twice(
			'supplies',
			power.supplies.map(({ id: each }) => each)
		);
		for (const { name: whose, outputs, groups } of power.supplies) {
			twice(
				`outputs of ${whose}`,
				outputs.map(({ id: each }) => each)
			);
			twice(
				`groups of ${whose}`,
				groups.map(({ id: each }) => each)
			);
		}
		// Hosted by two, or by itself, nobody could say who carries it.
		twice(
			'hosted devices',
			power.loads.flatMap(({ hosts }) => hosts.map(({ load }) => load))
		);
		for (const { id: host, name: whose, hosts } of power.loads)
			if (hosts.some(({ load }) => load === host))
				context.addIssue({ code: 'custom', message: `${whose} cannot host itself.` });
	});
export type Power = z.infer<typeof powerSchema>;

/** Current that a port of a hub without a supply of its own may give. */
export const BUS_HUB_MA = 100;
/** Of what stands on a battery, so much can be counted on: it is older and colder than its label. */
export const BATTERY_SHARE = 0.8;

/** A supply whose plugs are USB: volts and poles are the bus's. */
export const isBus = ({ is }: Supply): boolean => is === 'usb' || is === 'hub';

/** What stands on a label, as a specification. */
export const specification = (
	{ volts: range, kind, polarity: poles }: Pick<Load, 'volts' | 'kind' | 'polarity'>,
	ma: number | null,
	isolated: boolean
): string =>
	[
		[
			range ? (range[0] === range[1] ? `${range[0]} V` : `${range[0]}–${range[1]} V`) : '? V',
			kind ?? 'AC or DC?'
		].join(' '),
		poles === null ? 'polarity?' : poles === 'none' ? '' : POLARITIES[poles],
		ma === null ? '? mA' : `≥ ${ma} mA`,
		isolated ? 'isolated' : ''
	]
		.filter(Boolean)
		.join(', ');
