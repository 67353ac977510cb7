import type { Transaction } from 'sequelize';
import { ZodError } from 'zod';
import {
	nothingKnown,
	packKnowledge,
	unpackKnowledge,
	type Knowledge,
	type LiveWorld
} from '../../core/drawer';
import { slotKey } from '../../core/profile';
import type { Studio } from '../db/connection';
import { hashOf } from '../hash';
import { currentRuns, type Run } from './runs';
import { all, one, run } from './sql';

const SEAL = /,"sum":"([0-9a-f]{8})"\}$/;
const sumOf = (deviceId: string, world: string, text: string): string =>
	hashOf(Buffer.from(`${deviceId} ${world} ${text}`)).slice(0, 8);

/**
 * What is known, with a sum over it and over whose it is: a stray bit would claim what was never shown. Where it is damaged
 * nothing is known: less is claimed than could be, and the check says so.
 */
const sealed = (deviceId: string, world: string, text: string): string =>
	`${text.slice(0, -1)},"sum":"${sumOf(deviceId, world, text)}"}`;

/** The text that was sealed; null where it is another one now. From before sums were kept it is taken as it is. */
function textOf(deviceId: string, world: string, known: string): string | null {
	const sum = SEAL.exec(known)?.[1];
	if (sum === undefined) return known;
	const text = known.replace(SEAL, '}');
	return sumOf(deviceId, world, text) === sum ? text : null;
}

/** What is known as it was stored; null where that is damaged. */
function unsealed(
	deviceId: string,
	world: string,
	known: string,
	contentOf: (area: string, index: number) => string
): Knowledge | null {
	const text = textOf(deviceId, world, known);
	if (text === null) return null;
	try {
		return unpackKnowledge(text, contentOf);
	} catch (error) {
		if (error instanceof SyntaxError || error instanceof ZodError) return null;
		throw error;
	}
}

/** Devices of which it is damaged what is known of them, with the world. */
export async function damagedKnowledge(studio: Studio): Promise<{ deviceId: string; world: string }[]> {
	const rows = await all<{ deviceId: string; world: string; known: string }>(
		studio,
		'SELECT deviceId, world, known FROM knowledge'
	);
	return rows.filter(({ deviceId, world, known }) => !unsealed(deviceId, world, known, () => ''));
}

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
		knowledge:
			(row &&
				unsealed(
					deviceId,
					world,
					row.known,
					(area, index) => stays.get(slotKey(area, index))?.record ?? ''
				)) ??
			nothingKnown
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
		if (own?.known !== known)
			read.set(key, (own = { known, knowledge: unsealed(deviceId, world, known, () => '') ?? nothingKnown }));
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
		[deviceId, world, sealed(deviceId, world, packKnowledge(knowledge))],
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

/** What is stored of what is known of a device, as it stands, damaged or not. */
export const knowledgeTexts = (
	studio: Studio,
	deviceId: string,
	transaction: Transaction
): Promise<{ world: string; known: string }[]> =>
	all(studio, 'SELECT world, known FROM knowledge WHERE deviceId = ?', [deviceId], transaction);

/** Takes away what is known of a device. */
export async function forgetKnowledge(
	studio: Studio,
	deviceId: string,
	transaction: Transaction
): Promise<void> {
	await run(studio, 'DELETE FROM knowledge WHERE deviceId = ?', [deviceId], transaction);
}

/** Puts it in the place of what is known now. */
export async function writeKnowledgeTexts(
	studio: Studio,
	deviceId: string,
	texts: readonly { world: string; known: string }[],
	transaction: Transaction
): Promise<void> {
	await forgetKnowledge(studio, deviceId, transaction);
	for (const { world, known } of texts)
		await run(
			studio,
			'INSERT INTO knowledge (deviceId, world, known) VALUES (?, ?, ?)',
			[deviceId, world, known],
			transaction
		);
}
