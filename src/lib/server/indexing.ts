import { learn, nothingKnown, spansOf, type Knowledge, type LiveWorld } from '../core/drawer';
import { Problem } from '../core/problem';
import type { Studio } from './db/connection';
import { listVersions, openVersion, readingOf } from './drawer';
import { asReading } from './knowing';
import { devicesInOrder } from './store/devices';
import { readKnowledge, writeKnowledge } from './store/knowledge';
import { keepRecords, versionsWithoutRecords } from './store/records';
import { fillSeals } from './store/seals';
import { noteWorld, updateVersion, versionsWithoutCoverage } from './store/versions';
import { writeFact } from './store/facts';

/** Does `work` for every version that can be read; one that cannot is left to `check`, which names it. */
async function eachReadable(
	studio: Studio,
	ids: readonly string[],
	work: (opened: Awaited<ReturnType<typeof openVersion>>) => Promise<void>
): Promise<number> {
	let done = 0;
	for (const id of ids) {
		try {
			await work(await openVersion(studio, id));
			done++;
		} catch (error) {
			if (!(error instanceof Problem)) throw error;
			console.error(`A version could not be read: ${error.message}`);
		}
	}
	return done;
}

/** Keeps the sounds of versions that were stored before sounds were kept by themselves. */
export const indexRecords = async (studio: Studio): Promise<number> =>
	eachReadable(studio, await versionsWithoutRecords(studio), async ({ profile, seen }) => {
		if (profile) await studio.write((transaction) => keepRecords(studio, profile.id, seen, transaction));
	});

/** Works out which slots versions hold that were stored before that was noted. */
export const fillCoverage = async (studio: Studio): Promise<number> =>
	eachReadable(studio, await versionsWithoutCoverage(studio), async ({ version, slots }) => {
		await studio.write((transaction) =>
			updateVersion(studio, version.id, { coverage: spansOf(slots) }, transaction)
		);
	});

/**
 * Makes a whole studio one of a world: its versions, stays and transfers that were stored before worlds were noted
 * count there from now on. Only for a studio of which that is certain, such as the demo's.
 */
export async function settleWorld(studio: Studio, world: LiveWorld): Promise<void> {
	await writeFact(studio, 'world', world);
	studio.world = world;
	await fillCoverage(studio);
	await studio.write((transaction) => noteWorld(studio, world, transaction));
	await fillSeals(studio);
	for (const { id } of await devicesInOrder(studio, true)) {
		const known = await readKnowledge(studio, id, world);
		if (known.slots.size > 0) continue;
		const versions = (await listVersions(studio, id))
			.filter((version) => version.world === world)
			.toReversed();
		if (versions.length === 0) continue;
		let knowledge: Knowledge = { ...nothingKnown, touchedAt: known.touchedAt };
		await eachReadable(
			studio,
			versions.map((version) => version.id),
			async ({ version, seen }) => {
				knowledge = learn(knowledge, asReading(readingOf({ ...version, world }, seen, version.messages)));
			}
		);
		await studio.write((transaction) => writeKnowledge(studio, id, world, knowledge, transaction));
	}
}
