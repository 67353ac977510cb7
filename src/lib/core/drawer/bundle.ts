import { z } from 'zod';
import { proofSchema, worldSchema } from './knowledge';
import { versionKind } from './version';

const hash = z.string().regex(/^[0-9a-f]{64}$/);
const when = z.iso.datetime();

export const bundleVersionSchema = z.strictObject({
	id: z.string().min(1).max(60),
	takenAt: when,
	kind: versionKind,
	title: z.string().max(80),
	note: z.string().max(2000),
	tags: z.array(z.string().max(24)).max(12),
	pinned: z.boolean(),
	verified: z.boolean(),
	missing: z.number().int().min(0),
	firmware: z.string().max(60).nullable(),
	/** Whether it was read from the device itself. */
	fromDevice: z.boolean(),
	/** Where it was read, and how it was proved; bundles from before that was noted do not say. */
	world: worldSchema.optional(),
	proof: proofSchema.optional(),
	/** Why it does not count as what the device holds before somebody says that it does. */
	question: z.string().max(600).nullable().optional(),
	/** When each message was read, where that was not at one time. */
	readAt: z.array(when).optional(),
	/** Profile and revision that read it; null for raw messages. */
	profile: z.strictObject({ id: z.string(), revision: z.number().int().min(1) }).nullable(),
	/** Where its messages are in the archive: a plain .syx file. */
	file: z.string().regex(/^drawers\/[\w.-]+\/[\w.-]+\.syx$/),
	/** SHA-256 of each message, in the order of the file. */
	messages: z.array(hash).min(1),
	/** How long each is, in bytes, where not all are system exclusive: values that a panel told. */
	sizes: z.array(z.number().int().min(1)).optional()
});

const bundleDevice = z.strictObject({
	id: z.string().min(1).max(60),
	/** The catalogue's facts, as in docs/formats/device.schema.json. */
	facts: z.record(z.string(), z.unknown()),
	/** Where its versions are listed, oldest first; in bundles from before they are here. */
	list: z
		.string()
		.regex(/^drawers\/[\w.-]+\/versions\.json$/)
		.optional(),
	versions: z.array(bundleVersionSchema).default([])
});

/** `manifest.json` of a studio bundle (docs/formats/bundle.md). */
export const bundleManifestSchema = z.strictObject({
	format: z.literal('silent-drawer.bundle'),
	/** 1: drawers alone. */
	version: z.union([z.literal(1), z.literal(2)]),
	madeAt: when,
	title: z.string().max(120),
	devices: z.array(bundleDevice),
	/** Profiles that read the dumps, as files in the archive. */
	profiles: z.array(
		z.strictObject({
			id: z.string(),
			revision: z.number().int().min(1),
			/** Whether people wrote or changed it. */
			own: z.boolean().default(false),
			file: z.string().regex(/^profiles\/[\w.-]+\.json$/)
		})
	),
	/** What else the studio holds, a file of rows each; none in a bundle of chosen devices. */
	studio: z
		.array(
			z.strictObject({
				name: z.string().max(40),
				file: z.string().regex(/^studio\/[\w.-]+\.json$/),
				rows: z.number().int().min(0)
			})
		)
		.default([]),
	/** What is not whole, so that it is not in the bundle: a version of a device, or a row of what else there is. */
	left: z.array(z.strictObject({ id: z.string(), device: z.string(), says: z.string() })).default([])
});

export type BundleManifest = z.infer<typeof bundleManifestSchema>;
export type BundleVersion = z.infer<typeof bundleVersionSchema>;
export type BundleDevice = z.infer<typeof bundleDevice>;

/** Something on which a studio and a bundle differ: what is here stays until somebody chooses the other. */
export interface BundleDifference {
	/** Stands for what it is and for both contents: once either is another one, so is this. */
	key: string;
	/** “Umbra hall: place”. */
	what: string;
	here: string;
	there: string;
	/** When each was changed last, ISO 8601, where that is known. */
	hereAt: string | null;
	thereAt: string | null;
}

/** What came of a bundle that was taken over. */
export interface BundleImport {
	devices: number;
	versions: number;
	/** Versions that were here already, message for message. */
	known: number;
	/** What was not taken, and why: a version of a device or a row of what else there is, mostly damaged in the archive. */
	left: { device: string; takenAt: string; says: string }[];
	/** What else was taken: “Snapshots”, how many. */
	also: { what: string; rows: number }[];
	/** How many differences were chosen, and are as in the bundle now. */
	chosen: number;
	/** On these the studio stays as it was. */
	differ: BundleDifference[];
}

/** A name for a file: letters, digits and hyphens. */
export const fileStem = (name: string): string =>
	name
		.normalize('NFD')
		.replace(/\p{Diacritic}/gu, '')
		.replace(/[^A-Za-z0-9]+/g, '-')
		.replace(/^-|-$/g, '')
		.toLowerCase()
		.slice(0, 48) || 'device';
