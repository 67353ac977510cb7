import { z } from 'zod';
import { spansOf, type CheckReport, type Damage } from '../core/drawer';
import { Problem } from '../core/problem';
import { decodeDump, isMatch, matchAny, profileDigest, type Profile } from '../core/profile';
import { askApart } from './db/apart';
import type { Studio } from './db/connection';
import { isTorn } from './db/damage';
import { openVersion } from './drawer';
import { checkKeptFiles } from './kept-files';
import { getDevice } from './gear';
import { profileRevision, shippedProfiles } from './profiles';
import { wrongStays } from './repair';
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
import { damagedKnowledge } from './store/knowledge';
import { checkedRevisions, mendRevision } from './store/profiles';
import { isAsSealed } from './store/seals';
import { messagesOfVersion, versionRow } from './store/versions';
import { damagedRecords, keepRecords, versionsOfRecord } from './store/records';

/** Whether damaged contents are set aside. */
export const checkOrderSchema = z.object({ quarantine: z.boolean().default(false) });

export interface CheckOptions {
	quarantine?: boolean;
	/** Whether what can be rebuilt is, and what is whole again comes out of the quarantine. Default true. */
	mend?: boolean;
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
	const damage: Damage[] = [];
	const found = (says: string) => damage.push({ versionId: null, device: '', takenAt: null, says });
	/** Where the file itself is torn, that is said, and the check goes on with the rest. */
	const goOn = async (what: string, work: () => Promise<unknown>) => {
		try {
			await work();
		} catch (error) {
			if (!isTorn(error)) throw error;
			found(`${what}: a part of the studio’s file is damaged and cannot be read.`);
		}
	};
	let counted = { objects: 0, records: 0, versions: 0, waiting: 0 };
	await goOn('How much there is', async () => (counted = await countStored(studio)));
	const { objects, records, versions, waiting } = counted;
	await goOn('The structure of the file', async () => {
		for (const says of await structureFaults(studio)) found(says);
	});
	let done = 0;
	const through = (count: number) => {
		if (options.signal?.aborted)
			throw new Problem('check.cancelled', 'The check was called off.', 'Nothing was changed.');
		options.progress?.((done += count), objects + records + versions);
	};

	const bad = new Map<string, string>();
	await goOn('Messages', async () => {
		for await (const part of objectHashes(studio)) {
			await findBad(studio, part, bad);
			through(part.length);
		}
	});
	if (options.quarantine && bad.size > 0)
		await goOn('Setting damaged messages aside', () => setAside(studio, bad));
	const { mend = true } = options;
	if (mend) await goOn('What was set aside', () => release(studio, bad));

	let healed = 0;
	await goOn('Profiles', async () => {
		const { mended, says } = await checkProfiles(studio, mend);
		healed += mended;
		says.forEach(found);
	});
	const used = new Set<string>();
	const readable: Readable = new Map();
	let decoded = 0;
	await goOn('Versions', async () => {
		for await (const part of versionsToCheck(studio)) {
			for (const version of part) {
				if ('torn' in version) {
					damage.push({
						versionId: version.torn.id,
						device: '',
						takenAt: null,
						says: 'its entry cannot be read: the studio’s file is damaged there'
					});
					continue;
				}
				const { says, decoded: now } = await checkVersion(studio, version, bad, readable);
				decoded += now;
				for (const { hash } of version.messages) if (bad.has(hash)) used.add(hash);
				damage.push(
					...says.map((each) => ({
						versionId: version.id,
						device: version.device,
						takenAt: version.takenAt,
						says: each
					}))
				);
			}
			through(part.length);
		}
	});
	for (const [hash, says] of bad) if (!used.has(hash)) found(says);

	await goOn('Sounds', async () => {
		for await (const { checked, damaged } of damagedRecords(studio)) {
			for (const record of damaged) {
				if (mend && (await healRecord(studio, record))) healed++;
				else
					found(
						`The stored sound “${record.name ?? record.hash.slice(0, 12)}” is damaged${mend ? ', and no version holds it whole' : ''}.`
					);
			}
			through(checked);
		}
	});
	await goOn('What is known of devices', async () => {
		for (const { deviceId, world } of await damagedKnowledge(studio))
			damage.push({
				versionId: null,
				device: (await getDevice(studio, deviceId).catch(() => null))?.name ?? deviceId,
				takenAt: null,
				says: `what is known of its slots (${world}) is damaged: until it is backed up again it counts as never read`
			});
	});
	const stays: CheckReport['stays'] = [];
	await goOn('Stays', async () => {
		for await (const { device, slots } of wrongStays(studio)) {
			stays.push({ id: device.id, name: device.name });
			damage.push({
				versionId: null,
				device: device.name,
				takenAt: null,
				says: `${slots === 1 ? 'one slot is' : `${slots} slots are`} said to hold something else than the version by which ${slots === 1 ? 'it was' : 'they were'} seen: that can be rebuilt from its messages`
			});
		}
	});
	let files = 0;
	await goOn('Files', async () => {
		const kept = await checkKeptFiles(studio);
		files = kept.files;
		kept.damage.forEach(found);
	});
	let setAsideNow: CheckReport['quarantined'] = [];
	await goOn('What is set aside', async () => (setAsideNow = await quarantined(studio)));
	return {
		objects,
		files,
		records,
		versions,
		waiting,
		decoded,
		damage,
		healed,
		stays,
		quarantined: setAsideNow
	};
}

/** Notes which of these messages are damaged, with why. */
async function findBad(studio: Studio, hashes: readonly string[], bad: Map<string, string>): Promise<void> {
	try {
		for (const [hash, found] of await readObjects(studio, hashes))
			if (found instanceof Problem) bad.set(hash, found.message);
	} catch (error) {
		if (!isTorn(error)) throw error;
		// One of them lies where the file is torn: each is read by itself.
		if (hashes.length > 1) for (const hash of hashes) await findBad(studio, [hash], bad);
		else bad.set(hashes[0], 'a part of the studio’s file that holds one of its messages is damaged');
	}
}

/** What SQLite finds wrong with the structure of the file, and rows that point nowhere. */
async function structureFaults(studio: Studio): Promise<string[]> {
	const faults = (await askApart(studio.file, 'PRAGMA integrity_check(20)'))
		.map((row) => String(Object.values(row)[0]))
		.filter((says) => says !== 'ok');
	const nowhere = await askApart(studio.file, 'PRAGMA foreign_key_check');
	return [
		...faults.map((says) => `The structure of the studio’s file is damaged: ${says}.`),
		...(nowhere.length > 0
			? [`${nowhere.length} rows of “${String(nowhere[0].table)}” and others point to what is not there.`]
			: [])
	];
}

/** Compares every kept profile with what was kept; one that ships with the app is taken anew. */
async function checkProfiles(studio: Studio, mend: boolean): Promise<{ mended: number; says: string[] }> {
	let mended = 0;
	const says: string[] = [];
	for (const { id, revision, digest, whole } of await checkedRevisions(studio)) {
		if (whole) continue;
		const shipped = shippedProfiles().find((one) => one.id === id && profileDigest(one) === digest);
		if (shipped && mend) {
			await studio.write((transaction) => mendRevision(studio, shipped, revision, transaction));
			mended++;
		} else says.push(`Revision ${revision} of the profile “${id}” is damaged.`);
	}
	return { mended, says };
}

/** What is wrong with one version, in words, and how many messages were decoded for the first time. */
async function checkVersion(
	studio: Studio,
	version: CheckedVersion,
	bad: ReadonlyMap<string, string>,
	readable: Readable
): Promise<{ says: string[]; decoded: number }> {
	try {
		return await judgeVersion(studio, version, bad, readable);
	} catch (error) {
		if (error instanceof Problem && error.code === 'object.damaged')
			return { says: [error.message], decoded: 0 };
		if (!isTorn(error)) throw error;
		return { says: ['a part of the studio’s file that holds it is damaged'], decoded: 0 };
	}
}

async function judgeVersion(
	studio: Studio,
	version: CheckedVersion,
	bad: ReadonlyMap<string, string>,
	readable: Readable
): Promise<{ says: string[]; decoded: number }> {
	const { messages, bytes, profileId, profileRevision: revision, slots } = version;
	const row = await versionRow(studio, version.id);
	if (!row) return { says: ['its entry is damaged: it is not found by its number'], decoded: 0 };
	const gap = messages.findIndex(({ position }, i) => position !== i);
	if (messages.length === 0) return { says: ['it has no messages'], decoded: 0 };
	if (gap >= 0) return { says: ['a message is missing'], decoded: 0 };
	const lost = messages.filter(({ size }) => size === null).length;
	if (lost > 0) return { says: [`${lost} of its messages are not there`], decoded: 0 };
	if (!(await isAsSealed(studio, row, await messagesOfVersion(studio, version.id))))
		return { says: ['its entry is not what was stored'], decoded: 0 };
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
	const held = decodeDump(profile, content).slots;
	if (held.length !== slots)
		return { says: [`it decodes to another number of slots than the ${slots} that were stored`], decoded };
	if (JSON.stringify(spansOf(held)) !== JSON.stringify(row.coverage))
		return { says: ['the list of the slots that it holds is damaged'], decoded };
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
