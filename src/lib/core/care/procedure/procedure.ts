import { z } from 'zod';
import { serviceKindSchema } from '../service';

const id = z.string().min(1).max(60);
const says = z.string().trim().min(1).max(600);
const words = (limit: number) => z.string().trim().max(limit).default('');

/** What must be so before one goes on; looked at when the gate is passed, and never before. */
export const conditionSchema = z.discriminatedUnion('is', [
	/** A full backup of the device that was verified no longer ago than so many hours. */
	z.object({ is: z.literal('backup'), withinHours: z.number().min(0.1).max(8760) }),
	/** The device answered within so many minutes. */
	z.object({ is: z.literal('answers'), withinMinutes: z.number().min(0.1).max(1440) }),
	/** The version that it told is this one, the one of a variant that was chosen, or that of the file that was sent. */
	z.object({
		is: z.literal('version'),
		version: z.string().trim().min(1).max(30).optional(),
		choice: id.optional(),
		file: z.literal(true).optional()
	}),
	/** The file is for the variant that was chosen. */
	z.object({ is: z.literal('variant'), choice: id }),
	/** So many people have looked, each by name. */
	z.object({ is: z.literal('people'), count: z.number().int().min(2).max(5) })
]);
export type Condition = z.infer<typeof conditionSchema>;

/** What the app can do by itself, or sees for itself when it was done. */
export const APP_ACTS = [
	'backup',
	'identity',
	'mode',
	'send',
	'restore',
	'adapter-test',
	'clock-check'
] as const;
export type AppAct = (typeof APP_ACTS)[number];

/** Only for a variant that was chosen before. */
const when = z.object({ choice: id, is: id }).nullable().default(null);
const common = {
	id,
	title: z.string().trim().min(1).max(120),
	when,
	cautions: z.array(says).max(8).default([])
};

export const procedureStepSchema = z.discriminatedUnion('by', [
	/** By hand: what to do, what should be seen, and what to do where it is not. */
	z.object({ by: z.literal('hand'), ...common, says, see: words(300), otherwise: words(600) }),
	/** By the app, which notes how it ended. */
	z.object({
		by: z.literal('app'),
		...common,
		says,
		act: z.enum(APP_ACTS)
	}),
	/** The file that is to be sent is chosen; it is kept, and goes by its hash from then on. */
	z.object({ by: z.literal('file'), ...common, says }),
	/** Waiting without touching anything. */
	z.object({ by: z.literal('wait'), ...common, says, seconds: z.number().min(1).max(86_400) }),
	z.object({
		by: z.literal('choice'),
		...common,
		says,
		of: z
			.array(z.object({ id, title: z.string().trim().min(1).max(120), version: words(30) }))
			.min(2)
			.max(12)
	}),
	z.object({ by: z.literal('gate'), ...common, says, holds: conditionSchema })
]);
export type ProcedureStep = z.infer<typeof procedureStepSchema>;

/** How something is done that must not be skipped. */
export const procedureSchema = z
	.object({
		format: z.literal('silent-drawer.procedure').default('silent-drawer.procedure'),
		version: z.literal(1).default(1),
		id,
		title: z.string().trim().min(1).max(120),
		/** Of one device, or of the studio as a whole. */
		about: z.enum(['device', 'studio']),
		/** What a run of it is in the device's service book once it is done. */
		service: serviceKindSchema.default('procedure'),
		/** The system, driver, tool or file that it needs, with its version; a file is kept by its hash. */
		needs: z
			.array(
				z.object({
					what: z.enum(['system', 'driver', 'tool', 'file']),
					name: z.string().trim().min(1).max(120),
					version: words(40),
					sha256: z
						.string()
						.regex(/^([0-9a-f]{64})?$/, 'A SHA-256 has 64 hexadecimal digits.')
						.default('')
				})
			)
			.max(12)
			.default([]),
		cautions: z.array(says).max(12).default([]),
		/** The way back, where something goes wrong. */
		back: says,
		steps: z.array(procedureStepSchema).min(1).max(80)
	})
	.superRefine(({ steps }, context) => {
		const before = new Map<string, ProcedureStep>();
		steps.forEach((step, s) => {
			const fault = (message: string) => context.addIssue({ code: 'custom', path: ['steps', s], message });
			if (before.has(step.id)) fault(`There are two steps “${step.id}”.`);
			const chosen = (choice: string, variant?: string) => {
				const asked = before.get(choice);
				if (asked?.by !== 'choice') return fault(`“${choice}” is no choice that comes before it.`);
				if (variant !== undefined && !asked.of.some((each) => each.id === variant))
					fault(`“${choice}” has no variant “${variant}”.`);
			};
			const filed = () => [...before.values()].some(({ by }) => by === 'file');
			if (step.when) chosen(step.when.choice, step.when.is);
			if (step.by === 'gate' && step.holds.is === 'version') {
				const { version, choice, file } = step.holds;
				if ([version, choice, file].filter((each) => each !== undefined).length !== 1)
					fault('A version is said outright, by a choice, or by the file.');
				else if (choice !== undefined) chosen(choice);
				if (file && !filed()) fault('No file is chosen before it.');
			}
			if (step.by === 'gate' && step.holds.is === 'variant') {
				chosen(step.holds.choice);
				if (!filed()) fault('No file is chosen before it.');
			}
			if (step.by === 'app' && step.act === 'send' && !filed()) fault('No file is chosen before it.');
			before.set(step.id, step);
		});
	});
export type Procedure = z.infer<typeof procedureSchema>;

/** A variant of one of its choices; undefined where there is none of that id. */
export const variantOf = (
	{ steps }: Pick<Procedure, 'steps'>,
	choice: string,
	variant: string | undefined
) => {
	const step = steps.find(({ id: each }) => each === choice);
	return step?.by === 'choice' ? step.of.find(({ id: each }) => each === variant) : undefined;
};
