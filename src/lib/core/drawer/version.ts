import { z } from 'zod';

/** Why a version was taken. */
export const VERSION_KINDS = {
	routine: 'Routine backup',
	safety: 'Safety copy',
	'before update': 'Before an update',
	'after restore': 'After a restore',
	unfinished: 'Kept unfinished',
	imported: 'Imported'
} as const;

export type VersionKind = keyof typeof VERSION_KINDS;
export const versionKind = z.enum(Object.keys(VERSION_KINDS) as [VersionKind, ...VersionKind[]]);

/** What the musician may write on a version. */
export const versionLabelSchema = z.object({
	title: z.string().trim().max(80, 'Keep the title within 80 characters.').default(''),
	note: z.string().trim().max(2000, 'Keep the note within 2,000 characters.').default(''),
	tags: z.array(z.string().trim().min(1).max(24)).max(12, 'Twelve tags at most.').default([]),
	pinned: z.boolean().default(false)
});

export type VersionLabel = z.infer<typeof versionLabelSchema>;

/** A stored state of a device's memory. Times are ISO 8601, UTC. */
export interface Version extends VersionLabel {
	id: string;
	deviceId: string;
	profileId: string | null;
	profileRevision: number | null;
	kind: VersionKind;
	firmware: string | null;
	takenAt: string;
	/** Whole, every checksum right, from the right device; or proved by reading back. */
	verified: boolean;
	/** Slots that are missing from what was asked for; 0 when whole. */
	missing: number;
	/** SHA-256 of each message, in order. */
	messages: string[];
	bytes: number;
	slots: number;
	/** Slots that differ from the device's previous version. */
	changed: number;
}
