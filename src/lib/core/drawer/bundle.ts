import { z } from 'zod';
import { proofSchema, worldSchema } from './knowledge';
import { versionKind } from './version';

const hash = z.string().regex(/^[0-9a-f]{64}$/);
const when = z.iso.datetime();

const bundleVersion = z.strictObject({
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
	versions: z.array(bundleVersion)
});

/** `manifest.json` of a studio bundle (docs/formats/bundle.md). */
export const bundleManifestSchema = z.strictObject({
	format: z.literal('silent-drawer.bundle'),
	version: z.literal(1),
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
	/** Versions that are not whole, so that they are not in the bundle. */
	left: z.array(z.strictObject({ id: z.string(), device: z.string(), says: z.string() })).default([])
});

export type BundleManifest = z.infer<typeof bundleManifestSchema>;
export type BundleVersion = z.infer<typeof bundleVersion>;
export type BundleDevice = z.infer<typeof bundleDevice>;

/** A name for a file: letters, digits and hyphens. */
export const fileStem = (name: string): string =>
	name
		.normalize('NFD')
		.replace(/\p{Diacritic}/gu, '')
		.replace(/[^A-Za-z0-9]+/g, '-')
		.replace(/^-|-$/g, '')
		.toLowerCase()
		.slice(0, 48) || 'device';
