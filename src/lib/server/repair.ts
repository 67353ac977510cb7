import { isTorn } from './db/damage';
import type { Device } from '../core/gear';
import { Problem } from '../core/problem';
import { slotKey } from '../core/profile';
import { copyApart } from './db/apart';
import type { Studio } from './db/connection';
import { openVersion, readingOf } from './drawer';
import { listDevices } from './gear';
import { isLive, takeIn } from './knowing';
import { noteMoments } from './version-moves';
import { forgetKnowledge, knowledgeTexts, readKnown, writeKnowledgeTexts } from './store/knowledge';
import { keepRecords } from './store/records';
import { dropRuns } from './store/runs';
import { versionsInOrder } from './store/versions';

const WORLDS = ['bench', 'hardware'] as const;

/** A device of which the stays say something else than its versions do. */
export interface WrongStays {
	device: Device;
	/** How many slots. */
	slots: number;
}

/** How many slots are said to hold something else than the version holds by which they were seen. */
async function wrongSlots(studio: Studio, { id }: Device): Promise<number> {
	let wrong = 0;
	for (const world of WORLDS) {
		const { knowledge, stays } = await readKnown(studio, id, world);
		const by = new Map<string, string[]>();
		for (const [key, { seen }] of knowledge.slots)
			if (seen) by.set(seen.versionId, [...(by.get(seen.versionId) ?? []), key]);
		for (const [version, keys] of by) {
			const opened = await openVersion(studio, version).catch((error: unknown) => {
				// A version that is gone or damaged says nothing; the check names it by itself.
				if (error instanceof Problem) return null;
				throw error;
			});
			if (!opened?.profile) continue;
			const held = new Map(opened.seen.map(({ slot, record }) => [slotKey(slot.area, slot.index), record]));
			wrong += keys.filter((key) => held.has(key) && stays.get(key)?.record !== held.get(key)).length;
		}
	}
	return wrong;
}

/** Devices whose stays are damaged, one after another. */
export async function* wrongStays(studio: Studio): AsyncGenerator<WrongStays> {
	for (const device of await listDevices(studio, { archived: true })) {
		let slots: number;
		try {
			slots = await wrongSlots(studio, device);
		} catch (error) {
			if (!isTorn(error)) throw error;
			// What is not there to be read is not what the versions hold.
			slots = 1;
		}
		if (slots > 0) yield { device, slots };
	}
}

export interface Repaired {
	/** The copy of how it was before, beside the studio's file. */
	copy: string;
	devices: { device: string; versions: number; left: number }[];
}

/**
 * Rebuilds the stays of a device from its messages: which content was in which slot since when, with the sounds by
 * themselves. What is known (when each slot was read, written, changed by hand) stays as it is. Dates that only versions told
 * which were let go are those of the next version.
 */
async function rebuild(studio: Studio, { id }: Device): Promise<{ versions: number; left: number }> {
	const ids = await versionsInOrder(studio, id);
	return studio.write(async (transaction) => {
		const known = await knowledgeTexts(studio, id, transaction);
		await dropRuns(studio, id, transaction);
		await forgetKnowledge(studio, id, transaction);
		let left = 0;
		for (const versionId of ids) {
			let opened;
			try {
				opened = await openVersion(studio, versionId);
			} catch (error) {
				if (!(error instanceof Problem)) throw error;
				left++;
				continue;
			}
			const { version, profile, seen } = opened;
			if (!profile) continue;
			await keepRecords(studio, profile.id, seen, transaction);
			const { world } = version;
			if (isLive(world) && version.question === null)
				await takeIn(studio, readingOf({ ...version, world }, seen, version.messages), transaction);
			else await noteMoments(studio, id, { version, profile, seen }, transaction);
		}
		await writeKnowledgeTexts(studio, id, known, transaction);
		return { versions: ids.length - left, left };
	});
}

/** Rebuilds what can be rebuilt, with a copy of how it was first; null where there is nothing to repair. */
export async function repairStudio(studio: Studio): Promise<Repaired | null> {
	const wrong: Device[] = [];
	for await (const { device } of wrongStays(studio)) wrong.push(device);
	if (wrong.length === 0) return null;
	const copy = `${studio.file}.before-repair-${studio.now().toISOString().replace(/[:.]/g, '-')}`;
	await copyApart(studio.file, copy);
	const devices: Repaired['devices'] = [];
	for (const device of wrong) devices.push({ device: device.name, ...(await rebuild(studio, device)) });
	return { copy, devices };
}
