import { z } from 'zod';
import type { Proof, World } from './knowledge';
import type { Span } from './spans';
import { VERSION_KINDS, type VersionKind } from './version-words';

export const versionKind = z.enum(Object.keys(VERSION_KINDS) as [VersionKind, ...VersionKind[]]);

/** What the musician may write on a version. */
export const versionLabelSchema = z.object({
	title: z.string().trim().max(80, 'Keep the title within 80 characters.').default(''),
	note: z.string().trim().max(2000, 'Keep the note within 2,000 characters.').default(''),
	tags: z.array(z.string().trim().min(1).max(24)).max(12, 'Twelve tags at most.').default([]),
	pinned: z.boolean().default(false)
});

export type VersionLabel = z.infer<typeof versionLabelSchema>;

/** A stored state of a device's memory, or of a part of it. Times are ISO 8601, UTC. */
export interface Version extends VersionLabel {
	id: string;
	deviceId: string;
	profileId: string | null;
	profileRevision: number | null;
	kind: VersionKind;
	firmware: string | null;
	/** When its last message was read. */
	takenAt: string;
	/** When its first message was read, where that was earlier: a capture that broke off and went on. */
	since: string | null;
	/** Whether it came from the bench, a real device or a file. */
	world: World;
	proof: Proof;
	/** Holds all that was asked for, with a proof. */
	verified: boolean;
	/** Slots that are missing from what was asked for; 0 when all of it is there. */
	missing: number;
	/** The slots that it holds; empty for raw messages. */
	coverage: Span[];
	/** What to look at before it counts as the device's state; null once that was answered. */
	question: string | null;
	/** SHA-256 of each message, in order. */
	messages: string[];
	bytes: number;
	slots: number;
	/** Slots that differ from what the device was known to hold. */
	changed: number;
}

/** As much of a version as the tide line draws. */
export type VersionMark = Pick<
	Version,
	'id' | 'takenAt' | 'title' | 'kind' | 'verified' | 'changed' | 'pinned' | 'missing' | 'world'
>;
