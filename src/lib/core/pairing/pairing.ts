import { z } from 'zod';

const words = (limit: number) => z.string().trim().max(limit).default('');
const name = z.string().trim().min(1).max(80);

/** How two devices are joined. */
export const PAIRING_WAYS = {
	din: 'DIN',
	usb: 'USB, through a computer',
	'usb-host': 'USB host',
	wireless: 'wireless'
} as const;
export type PairingWay = keyof typeof PAIRING_WAYS;

export const PAIRING_RESULTS = {
	works: 'works',
	limits: 'works within limits',
	not: 'does not work'
} as const;
export type PairingResult = keyof typeof PAIRING_RESULTS;

/** What people ask of a pair, to begin with; any other words do, too. */
export const PAIRING_FUNCTIONS = [
	'choosing programs',
	'tempo',
	'tap tempo',
	'start and stop',
	'switches',
	'parameters',
	'notes',
	'reading back'
] as const;

/** What must be so for it to work. Firmware is compared; everything else a hand sees to. */
export const CONDITIONS = {
	'from-firmware': 'firmware of the one that sends',
	'to-firmware': 'firmware of the one that is told',
	mode: 'mode',
	socket: 'socket',
	cable: 'cable',
	adapter: 'adapter',
	supply: 'supply',
	host: 'the host’s own firmware variant',
	other: 'besides'
} as const;
export type ConditionKind = keyof typeof CONDITIONS;

/** A model as its maker calls it: a sister model is another one. */
const modelSchema = z.object({ maker: words(60), model: name });
export type PairedModel = z.infer<typeof modelSchema>;

export const pairingRecordSchema = z.object({
	id: z.string().min(1).max(60),
	from: modelSchema,
	to: modelSchema,
	way: z.enum(Object.keys(PAIRING_WAYS) as [PairingWay, ...PairingWay[]]),
	/** What is asked of the pair. */
	does: name,
	result: z.enum(Object.keys(PAIRING_RESULTS) as [PairingResult, ...PairingResult[]]),
	/** Where it works within limits: which. */
	limit: words(160),
	/** How it is known: tried, with the day and what firmware both had; or read. */
	known: z
		.object({
			by: z.enum(['tried', 'label', 'manual']),
			on: z
				.string()
				.trim()
				.regex(/^(\d{4}-\d{2}-\d{2})?$/, 'Write the date as 2026-03-31.')
				.default(''),
			fromFirmware: words(30),
			toFirmware: words(30)
		})
		.default({ by: 'manual', on: '', fromFirmware: '', toFirmware: '' }),
	conditions: z
		.array(
			z.object({
				what: z.enum(Object.keys(CONDITIONS) as [ConditionKind, ...ConditionKind[]]),
				/** Such as “program mode”; for firmware “2.1” or “≥ 2.1”. */
				is: name
			})
		)
		.max(12)
		.default([])
});
export type PairingRecord = z.infer<typeof pairingRecordSchema>;

/** What works with what, as far as somebody has tried or read it. */
export const pairingsSchema = z.object({
	format: z.literal('silent-drawer.pairings').default('silent-drawer.pairings'),
	version: z.literal(1).default(1),
	records: z.array(pairingRecordSchema).max(4000).default([])
});
export type Pairings = z.infer<typeof pairingsSchema>;

export const modelWords = ({ maker, model }: PairedModel): string => `${maker} ${model}`.trim();

/** How a record is known, in words. */
export const knownWords = ({ known }: PairingRecord): string =>
	known.by === 'tried'
		? `tried${known.on ? ` on ${known.on}` : ''}${
				known.fromFirmware || known.toFirmware
					? ` with firmware ${known.fromFirmware || '?'} and ${known.toFirmware || '?'}`
					: ''
			}`
		: known.by === 'label'
			? 'by the label'
			: 'by the manual';

/** Words as they are compared: large and small letters, and blanks, tell nothing apart. */
export const folded = (text: string): string => text.trim().toLowerCase().replace(/\s+/g, ' ');
