import { QueryTypes, type Transaction } from 'sequelize';
import { z } from 'zod';
import {
	bankDocumentSchema,
	bankSlots,
	type Bank,
	type BankDocument,
	type LiveWorld,
	type WantedSlot
} from '../core/drawer';
import { Problem } from '../core/problem';
import { areaOf, messagesFor, slotKey, type Profile } from '../core/profile';
import type { Studio } from './db/connection';
import { getDevice } from './gear';
import { newId } from './new-id';
import { currentProfile } from './profiles';
import { readKnowledge } from './store/knowledge';
import { getRecords } from './store/records';

type Row = Omit<Bank, 'document' | 'base'> & { document: string; base: string | null };

const baseSchema = z.array(z.string().nullable()).nullable();

const read = (row: Row): Bank => ({
	...row,
	document: bankDocumentSchema.parse(JSON.parse(row.document)),
	base: baseSchema.parse(JSON.parse(row.base ?? 'null'))
});

const notFound = (id: string) =>
	new Problem(
		'bank.not-found',
		`There is no bank “${id}”.`,
		'It may have been removed: look at the list of banks.'
	);

/** Checks that a document fits its profile. @throws Problem `bank.invalid` */
function checked(profile: Profile, document: BankDocument): BankDocument {
	const parsed = bankDocumentSchema.parse(document);
	const { slots, name } = areaOf(profile, parsed.area);
	if (parsed.entries.length !== slots || parsed.profileId !== profile.id)
		throw new Problem(
			'bank.invalid',
			`“${name}” of a ${profile.model} has ${slots} slots.`,
			'Begin a new bank.'
		);
	return parsed;
}

export async function listBanks(studio: Studio, deviceId?: string): Promise<Bank[]> {
	const rows = await studio.sequelize.query<Row>(
		`SELECT * FROM banks ${deviceId ? 'WHERE deviceId = :deviceId' : ''} ORDER BY updatedAt DESC`,
		{ replacements: { deviceId: deviceId ?? '' }, type: QueryTypes.SELECT }
	);
	return rows.map(read);
}

/** @throws Problem `bank.not-found` */
export async function getBank(studio: Studio, id: string): Promise<Bank> {
	const [row] = await studio.sequelize.query<Row>('SELECT * FROM banks WHERE id = :id', {
		replacements: { id },
		type: QueryTypes.SELECT
	});
	if (!row) throw notFound(id);
	return read(row);
}

export async function createBank(
	studio: Studio,
	deviceId: string,
	document: BankDocument,
	baseVersionId: string | null = null,
	base: Bank['base'] = null
): Promise<Bank> {
	const device = await getDevice(studio, deviceId);
	const parsed = checked(currentProfile(studio, device.profileId ?? ''), document);
	const id = newId();
	const now = studio.now().toISOString();
	await studio.sequelize.query(
		'INSERT INTO banks (id, deviceId, baseVersionId, base, document, revision, createdAt, updatedAt) VALUES (?, ?, ?, ?, ?, 1, ?, ?)',
		{
			replacements: [
				id,
				deviceId,
				baseVersionId,
				base ? JSON.stringify(base) : null,
				JSON.stringify(parsed),
				now,
				now
			]
		}
	);
	return getBank(studio, id);
}

/** Stores a changed bank. @throws Problem `bank.conflict` when another tab changed it since `revision` */
export async function saveBank(
	studio: Studio,
	id: string,
	revision: number,
	document: BankDocument
): Promise<Bank> {
	const bank = await getBank(studio, id);
	const parsed = checked(currentProfile(studio, bank.document.profileId), document);
	const [, changed] = await studio.sequelize.query(
		'UPDATE banks SET document = ?, revision = revision + 1, updatedAt = ? WHERE id = ? AND revision = ?',
		{
			replacements: [JSON.stringify(parsed), studio.now().toISOString(), id, revision],
			type: QueryTypes.UPDATE
		}
	);
	if (changed === 0)
		throw new Problem(
			'bank.conflict',
			'This bank was changed in another tab.',
			'Reload the page to see it as it is now.'
		);
	return getBank(studio, id);
}

/**
 * Notes that a bank was sent: what it brought to its device is what both have in common from here on, and for its
 * other slots what the device was last seen to hold.
 */
export async function noteBankSent(
	studio: Studio,
	id: string,
	brought: readonly WantedSlot[],
	world: LiveWorld,
	transaction: Transaction
): Promise<void> {
	const [row] = await studio.sequelize.query<Row>('SELECT * FROM banks WHERE id = :id', {
		replacements: { id },
		type: QueryTypes.SELECT,
		transaction
	});
	if (!row) return;
	const { document, deviceId, base } = read(row);
	const knowledge = await readKnowledge(studio, deviceId, world, transaction);
	const sent = new Map(brought.map(({ area, index, record }) => [slotKey(area, index), record]));
	const common = document.entries.map((_, index) => {
		const key = slotKey(document.area, index);
		return sent.get(key) ?? base?.[index] ?? knowledge.slots.get(key)?.seen?.record ?? null;
	});
	await setBase(studio, id, common, transaction);
}

/** Writes down what a bank and its device have in common. */
export async function setBase(
	studio: Studio,
	id: string,
	base: readonly (string | null)[],
	transaction?: Transaction
): Promise<void> {
	await studio.sequelize.query('UPDATE banks SET base = ? WHERE id = ?', {
		replacements: [JSON.stringify(base), id],
		transaction
	});
}

export async function removeBank(studio: Studio, id: string): Promise<void> {
	await getBank(studio, id);
	await studio.sequelize.query('DELETE FROM banks WHERE id = ?', { replacements: [id] });
}

/** The bank as the messages that carry it. @throws Problem `bank.gaps` where a whole bank is needed and slots are free */
export async function bankMessages(
	studio: Studio,
	id: string
): Promise<{ bank: Bank; messages: Uint8Array[] }> {
	const bank = await getBank(studio, id);
	const device = await getDevice(studio, bank.deviceId);
	const profile = currentProfile(studio, bank.document.profileId);
	const records = await getRecords(
		studio,
		bank.document.entries.flatMap((entry) => (entry ? [entry.record] : []))
	);
	const messages = messagesFor(profile, bankSlots(profile, bank.document, records), {
		deviceId: device.deviceId ?? profile.addressing.deviceId?.default ?? 0,
		channel: device.channel ?? 1
	});
	if (messages.length === 0)
		throw new Problem(
			'bank.gaps',
			`A ${profile.model} takes this bank only as a whole, and it has free slots.`,
			'Fill the rest from a version, then export it.'
		);
	return { bank, messages };
}
