import type { Transaction } from 'sequelize';
import { packKnowledge, unpackKnowledge, type Knowledge, type LiveWorld } from '../../core/drawer';
import { slotKey } from '../../core/profile';
import type { Studio } from '../db/connection';
import { currentRuns, type Run } from './runs';
import { all, one, run } from './sql';

/** What is known of a device in one world, with the contents that were last seen. */
export async function readKnowledge(
	studio: Studio,
	deviceId: string,
	world: LiveWorld,
	transaction?: Transaction
): Promise<Knowledge> {
	return (await readKnown(studio, deviceId, world, transaction)).knowledge;
}

/** As `readKnowledge`, with the stays that last, by slot. */
export async function readKnown(
	studio: Studio,
	deviceId: string,
	world: LiveWorld,
	transaction?: Transaction
): Promise<{ knowledge: Knowledge; stays: Map<string, Run> }> {
	const [row, stays] = await Promise.all([
		one<{ known: string }>(
			studio,
			'SELECT known FROM knowledge WHERE deviceId = ? AND world = ?',
			[deviceId, world],
			transaction
		),
		currentRuns(studio, deviceId, world, transaction)
	]);
	return {
		stays,
		knowledge: unpackKnowledge(
			row?.known ?? null,
			(area, index) => stays.get(slotKey(area, index))?.record ?? ''
		)
	};
}

/** What is known of every device in one world, without contents: enough to tell how each stands. */
export async function readStandings(studio: Studio, world: LiveWorld): Promise<Map<string, Knowledge>> {
	const rows = await all<{ deviceId: string; known: string }>(
		studio,
		'SELECT deviceId, known FROM knowledge WHERE world = ?',
		[world]
	);
	let read = texts.get(studio);
	if (!read) texts.set(studio, (read = new Map()));
	const standings = new Map<string, Knowledge>();
	for (const { deviceId, known } of rows) {
		const key = `${world} ${deviceId}`;
		let own = read.get(key);
		// Most devices are as they were when this was asked last.
		if (own?.known !== known) read.set(key, (own = { known, knowledge: unpackKnowledge(known, () => '') }));
		standings.set(deviceId, own.knowledge);
	}
	return standings;
}

/** Knowledge as it was read last, by world and device, with the text that it was read from. */
const texts = new WeakMap<Studio, Map<string, { known: string; knowledge: Knowledge }>>();

export async function writeKnowledge(
	studio: Studio,
	deviceId: string,
	world: LiveWorld,
	knowledge: Knowledge,
	transaction: Transaction
): Promise<void> {
	await run(
		studio,
		'INSERT INTO knowledge (deviceId, world, known) VALUES (?, ?, ?) ON CONFLICT (deviceId, world) DO UPDATE SET known = excluded.known',
		[deviceId, world, packKnowledge(knowledge)],
		transaction
	);
}

/** Changes what is known of a device, inside a transaction. */
export async function updateKnowledge(
	studio: Studio,
	deviceId: string,
	world: LiveWorld,
	step: (knowledge: Knowledge) => Knowledge,
	transaction: Transaction
): Promise<void> {
	const before = await readKnowledge(studio, deviceId, world, transaction);
	await writeKnowledge(studio, deviceId, world, step(before), transaction);
}
