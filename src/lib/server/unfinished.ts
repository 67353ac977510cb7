import { proofUnfinished, standingOf, type LiveWorld, type Transfer } from '../core/drawer';
import { Problem } from '../core/problem';
import { decoding } from '../core/profile';
import type { Studio } from './db/connection';
import { keepVersionIn } from './drawer';
import { getDevice } from './gear';
import { inSteps } from './in-steps';
import { isLive, liveWorld, readableSlots } from './knowing';
import { knownProfiles } from './profiles';
import { devicesInOrder } from './store/devices';
import { readStandings } from './store/knowledge';
import { getObjects } from './store/objects';
import { nextPart } from './store/traces';
import {
	abandonRunning,
	openCaptures,
	receivedRows,
	updateTransfer,
	type CountedTransfer
} from './store/transfers';
import { missingSlots } from './captured';
import { getTransfer, hear, mustBeFree, profileOf, receivedMessages, settle, unhear } from './transfers';

/**
 * Captures that broke off and were neither resumed, kept nor let go. One that a later, proved reading of the whole
 * device has made pointless is not offered any more.
 */
export async function unfinishedCaptures(studio: Studio): Promise<CountedTransfer[]> {
	const open = (await openCaptures(studio))
		.map((row) => settle(studio, row))
		.filter(({ status, received }) => status !== 'running' && received > 0);
	if (open.length === 0) return [];
	const profiles = new Map(knownProfiles(studio).map((profile) => [profile.id, profile]));
	const standings = new Map<string, Awaited<ReturnType<typeof readStandings>>>();
	for (const world of new Set(open.map(({ world }) => world)))
		if (isLive(world)) standings.set(world, await readStandings(studio, world));
	const devices = await devicesInOrder(studio, true);
	const profileIds = new Map(devices.map(({ id, profileId }) => [id, profileId]));
	return open.filter(({ deviceId, world, startedAt }) => {
		const knowledge = standings.get(world)?.get(deviceId);
		if (!knowledge) return true;
		const profile = profiles.get(profileIds.get(deviceId) ?? '') ?? null;
		const { weakestAt } = standingOf(knowledge, readableSlots(profile));
		return weakestAt === null || weakestAt < startedAt;
	});
}

/**
 * A capture that broke off or lacks something, and was neither kept nor let go.
 * @param problem what is said where it is none: what it was wanted for, and what to do instead
 * @throws Problem `transfer.ended`, `transfer.not-found`
 */
async function openCapture(
	studio: Studio,
	id: string,
	problem: { says: string; remedy: string }
): Promise<Transfer> {
	const transfer = await getTransfer(studio, id);
	const { direction, versionId, status } = transfer;
	if (direction !== 'capture' || versionId || !['unfinished', 'incomplete'].includes(status))
		throw new Problem('transfer.ended', problem.says, problem.remedy);
	return transfer;
}

/** Opens an unfinished capture again. @throws Problem `transfer.ended`, `transfer.other-world`, `transfer.taken` */
export async function resumeTransfer(
	studio: Studio,
	id: string,
	world?: LiveWorld
): Promise<{ transfer: Transfer; messages: Uint8Array[]; part: number; distrusted: boolean }> {
	const transfer = await openCapture(studio, id, {
		says: 'This transfer cannot be resumed.',
		remedy: 'Begin a new one.'
	});
	if (world && liveWorld(transfer.world) !== world)
		throw new Problem(
			'transfer.other-world',
			transfer.world === 'bench'
				? 'This capture began on the bench; the line now goes to real ports.'
				: 'This capture began over real ports; the line now goes to the bench.',
			'Switch the line back, or begin a new capture: what both held would be mixed.'
		);
	const device = await getDevice(studio, transfer.deviceId);
	await studio.write(async (transaction) => {
		await mustBeFree(studio, device, liveWorld(transfer.world), transaction);
		await updateTransfer(
			studio,
			id,
			{ status: 'running', reason: null, endedAt: null, resumed: true },
			transaction
		);
		hear(studio, id);
	});
	return {
		transfer: { ...transfer, status: 'running', resumed: true },
		messages: await receivedMessages(studio, id),
		part: await nextPart(studio, id),
		distrusted: transfer.distrusted
	};
}

/** Keeps what an unfinished capture has received, as it is, each message at the time at which it came. */
export async function keepUnfinished(studio: Studio, id: string): Promise<string> {
	const transfer = await openCapture(studio, id, {
		says: 'There is nothing unfinished to keep here.',
		remedy: 'Look at the list of transfers.'
	});
	const device = await getDevice(studio, transfer.deviceId);
	const profile = profileOf(studio, device);
	return studio.write(async (transaction) => {
		const rows = await receivedRows(studio, id, transaction);
		const messages = await getObjects(
			studio,
			rows.map(({ hash }) => hash),
			transaction
		);
		const version = await keepVersionIn(
			studio,
			{
				device,
				profile,
				messages,
				stored: rows,
				kind: 'unfinished',
				world: transfer.world,
				// Where damage was seen, a right checksum is not enough; without a profile nothing was compared.
				proof: profile && !transfer.distrusted ? proofUnfinished(profile) : 'none',
				missing: profile ? missingSlots(profile, transfer, await inSteps(decoding(profile, messages))) : 1,
				readAt: rows.map(({ receivedAt }) => receivedAt),
				label: { title: transfer.title }
			},
			transaction
		);
		await updateTransfer(
			studio,
			id,
			{ status: 'incomplete', versionId: version.id, endedAt: studio.now().toISOString() },
			transaction
		);
		return version.id;
	});
}

/** Lets an unfinished capture go: its messages stay in the log's store, it is no longer offered. @throws Problem `transfer.ended` */
export async function dropUnfinished(studio: Studio, id: string): Promise<void> {
	await openCapture(studio, id, {
		says: 'There is nothing unfinished to let go here.',
		remedy: 'Look at the list of transfers.'
	});
	await studio.write((transaction) =>
		updateTransfer(
			studio,
			id,
			{
				status: 'refused',
				endedAt: studio.now().toISOString(),
				reason: {
					code: 'cancelled',
					says: 'You let this unfinished capture go.',
					remedy: 'Begin a new capture.'
				}
			},
			transaction
		)
	);
}

/** After a start of the server nothing runs: what says so was left alone. */
export const settleLeftovers = (studio: Studio): Promise<void> => abandonRunning(studio);

/** The page of a running transfer went away: what was received waits to be resumed. */
export async function abandonTransfer(studio: Studio, id: string): Promise<void> {
	await abandonRunning(studio, id);
	unhear(studio, id);
}
