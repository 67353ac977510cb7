import { z } from 'zod';
import type { CheckReport, Damage } from '../core/drawer';
import { Problem } from '../core/problem';
import { decodeDump, isMatch, matchAny, type Profile } from '../core/profile';
import type { Studio } from './db/connection';
import { openVersion } from './drawer';
import { checkKeptFiles } from './kept-files';
import { profileRevision } from './profiles';
import {
	countStored,
	objectHashes,
	quarantined,
	release,
	setAside,
	versionsToCheck,
	type CheckedVersion
} from './store/checking';
import { getObjects, readObjects } from './store/objects';
import { damagedRecords, keepRecords, versionsOfRecord } from './store/records';

/** Whether damaged contents are set aside. */
export const checkOrderSchema = z.object({ quarantine: z.boolean().default(false) });

export interface CheckOptions {
	quarantine?: boolean;
	/** Told how much is through: messages, sounds and versions together. */
	progress?: (done: number, of: number) => void;
	/** Ends the check early; what was found so far is not reported. */
	signal?: AbortSignal;
}

/** Each message by the profile that reads it: decoded once, however many versions hold it. */
type Readable = Map<string, string | null>;

/**
 * Reads every stored message and sound again, compares it with its hash, decodes messages by the profile revision that
 * read them, and looks whether every version is whole. A damaged sound is taken anew from a version that holds it.
 * With `quarantine`, damaged messages are set aside, so that nothing is built on them any more.
 * @throws Problem `check.cancelled`
 */
export async function checkStudio(studio: Studio, options: CheckOptions = {}): Promise<CheckReport> {
	const { objects, records, versions, waiting } = await countStored(studio);
	let done = 0;
	const through = (count: number) => {
		if (options.signal?.aborted)
			throw new Problem('check.cancelled', 'The check was called off.', 'Nothing was changed.');
		options.progress?.((done += count), objects + records + versions);
	};

	const bad = new Map<string, string>();
	for await (const part of objectHashes(studio)) {
		await findBad(studio, part, bad);
		through(part.length);
	}
	if (options.quarantine && bad.size > 0) await setAside(studio, bad);
	await release(studio, bad);

	const damage: Damage[] = [];
	const used = new Set<string>();
	const readable: Readable = new Map();
	let decoded = 0;
	for await (const part of versionsToCheck(studio)) {
		for (const version of part) {
			const found = await checkVersion(studio, version, bad, readable);
			decoded += found.decoded;
			for (const { hash } of version.messages) if (bad.has(hash)) used.add(hash);
			damage.push(
				...found.says.map((says) => ({
					versionId: version.id,
					device: version.device,
					takenAt: version.takenAt,
					says
				}))
			);
		}
		through(part.length);
	}
	for (const [hash, says] of bad)
		if (!used.has(hash)) damage.push({ versionId: null, device: '', takenAt: null, says });

	let healed = 0;
	for await (const { checked, damaged } of damagedRecords(studio)) {
		for (const record of damaged) {
			if (await healRecord(studio, record)) healed++;
			else
				damage.push({
					versionId: null,
					device: '',
					takenAt: null,
					says: `The stored sound “${record.name ?? record.hash.slice(0, 12)}” is damaged, and no version holds it whole.`
				});
		}
		through(checked);
	}
	const { files, damage: badFiles } = await checkKeptFiles(studio);
	damage.push(...badFiles.map((says) => ({ versionId: null, device: '', takenAt: null, says })));
	return {
		objects,
		files,
		records,
		versions,
		waiting,
		decoded,
		damage,
		healed,
		quarantined: await quarantined(studio)
	};
}

/** Notes which of these messages are damaged, with why. */
async function findBad(studio: Studio, hashes: readonly string[], bad: Map<string, string>): Promise<void> {
	for (const [hash, found] of await readObjects(studio, hashes))
		if (found instanceof Problem) bad.set(hash, found.message);
}

/** What is wrong with one version, in words, and how many messages were decoded for the first time. */
async function checkVersion(
	studio: Studio,
	version: CheckedVersion,
	bad: ReadonlyMap<string, string>,
	readable: Readable
): Promise<{ says: string[]; decoded: number }> {
	const { messages, bytes, profileId, profileRevision: revision, slots } = version;
	const gap = messages.findIndex(({ position }, i) => position !== i);
	if (messages.length === 0) return { says: ['it has no messages'], decoded: 0 };
	if (gap >= 0) return { says: ['a message is missing'], decoded: 0 };
	const lost = messages.filter(({ size }) => size === null).length;
	if (lost > 0) return { says: [`${lost} of its messages are not there`], decoded: 0 };
	const stored = messages.reduce((sum, { size }) => sum + size!, 0);
	const hurt = [...new Set(messages.flatMap(({ hash }) => bad.get(hash) ?? []))];
	if (hurt.length > 0) return { says: hurt, decoded: 0 };
	if (stored !== bytes) return { says: [`it holds ${stored} bytes instead of ${bytes}`], decoded: 0 };
	if (profileId === null) return { says: [], decoded: 0 };
	let profile: Profile;
	try {
		profile = await profileRevision(studio, profileId, revision!);
	} catch (error) {
		if (!(error instanceof Problem)) throw error;
		return { says: [error.message], decoded: 0 };
	}
	const key = (hash: string) => `${profileId} ${revision} ${hash}`;
	const open = messages.filter(({ hash }) => !readable.has(key(hash)));
	if (open.length === 0) return { says: [], decoded: 0 };
	const content = await getObjects(
		studio,
		messages.map(({ hash }) => hash)
	);
	let decoded = 0;
	messages.forEach(({ hash }, i) => {
		if (readable.has(key(hash))) return;
		decoded++;
		const match = matchAny(profile, content[i]);
		readable.set(key(hash), isMatch(match) ? null : match.says);
	});
	const wrong = messages.map(({ hash }) => readable.get(key(hash))).find((says) => says);
	if (wrong) return { says: [`a message can no longer be decoded: ${wrong}`], decoded };
	if (decodeDump(profile, content).slots.length !== slots)
		return { says: [`it decodes to another number of slots than the ${slots} that were stored`], decoded };
	return { says: [], decoded };
}

/** Takes a damaged sound anew from a version that was seen to hold it; false where none does. */
async function healRecord(
	studio: Studio,
	{ profileId, area, hash }: { profileId: string; area: string; hash: string }
): Promise<boolean> {
	for (const id of await versionsOfRecord(studio, hash)) {
		const opened = await openVersion(studio, id).catch((error: unknown) => {
			if (error instanceof Problem) return null;
			throw error;
		});
		const whole = opened?.seen.filter(({ slot, record }) => record === hash && slot.area === area) ?? [];
		if (whole.length === 0) continue;
		await studio.write((transaction) => keepRecords(studio, profileId, whole.slice(0, 1), transaction));
		return true;
	}
	return false;
}
