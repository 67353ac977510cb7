import type { Transaction } from 'sequelize';
import type { z } from 'zod';
import {
	bankDocumentSchema,
	bankSlots,
	placeSound,
	type Bank,
	type BankDocument,
	type LiveWorld,
	type WantedSlot
} from '../core/drawer';
import { Problem } from '../core/problem';
import { areaOf, messagesFor, sameFamily, slotKey, slotLabel, type Profile } from '../core/profile';
import type { addToBankSchema } from './bank-orders';
import type { Studio } from './db/connection';
import { getDevice } from './gear';
import { newId } from './new-id';
import { currentProfile, profileOrNull } from './profiles';
import { bankRow, bankRows, deleteBank, insertBank, updateBase, updateDocument } from './store/banks';
import { readKnowledge } from './store/knowledge';
import { getRecords, keptRecord } from './store/records';

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

export const listBanks = bankRows;

/** @throws Problem `bank.not-found` */
export async function getBank(studio: Studio, id: string, transaction?: Transaction): Promise<Bank> {
	const bank = await bankRow(studio, id, transaction);
	if (!bank) throw notFound(id);
	return bank;
}

export async function createBank(
	studio: Studio,
	deviceId: string,
	document: BankDocument,
	baseVersionId: string | null = null,
	base: Bank['base'] = null
): Promise<Bank> {
	const device = await getDevice(studio, deviceId);
	const own = currentProfile(studio, device.profileId ?? '');
	const of = profileOrNull(studio, document.profileId);
	// One of another variant of the model stays so, and is converted when it is sent.
	const parsed = checked(of && sameFamily(of, own) ? of : own, document);
	const now = studio.now().toISOString();
	const bank: Bank = {
		id: newId(),
		deviceId,
		baseVersionId,
		base,
		document: parsed,
		revision: 1,
		createdAt: now,
		updatedAt: now
	};
	await studio.write((transaction) => insertBank(studio, bank, transaction));
	return bank;
}

/** Stores a changed bank. @throws Problem `bank.conflict` when another tab changed it since `revision` */
export async function saveBank(
	studio: Studio,
	id: string,
	revision: number,
	document: BankDocument
): Promise<Bank> {
	return studio.write(async (transaction) => {
		const bank = await getBank(studio, id, transaction);
		const parsed = checked(currentProfile(studio, bank.document.profileId), document);
		const updatedAt = studio.now().toISOString();
		if (!(await updateDocument(studio, { id, revision, document: parsed, updatedAt }, transaction)))
			throw new Problem(
				'bank.conflict',
				'This bank was changed in another tab.',
				'Reload the page to see it as it is now.'
			);
		return getBank(studio, id, transaction);
	});
}

/** A bank with sounds added, where they went, and what it was before. */
export interface AddedToBank {
	bank: Bank;
	labels: string[];
	before: BankDocument;
}

/**
 * Puts sounds into the first free slots of a bank; nothing in it is overwritten.
 * @throws Problem `bank.not-found`, `bank.full`, `bank.other-model`, `sound.not-found`
 */
export async function addToBank(
	studio: Studio,
	id: string,
	{ sounds }: z.infer<typeof addToBankSchema>
): Promise<AddedToBank> {
	return studio.write(async (transaction) => {
		const bank = await getBank(studio, id, transaction);
		const before = bank.document;
		const profile = currentProfile(studio, before.profileId);
		const { labels: names } = areaOf(profile, before.area);
		let document = before;
		const labels: string[] = [];
		for (const { record, from } of sounds) {
			const sound = await keptRecord(studio, record);
			if (sound.profileId !== before.profileId || sound.area !== before.area)
				throw new Problem(
					'bank.other-model',
					`“${sound.name ?? 'This sound'}” is no sound for “${before.title}”, which is for a ${profile.model}.`,
					'Choose a bank for its own model.'
				);
			const free = document.entries.indexOf(null);
			if (free < 0)
				throw new Problem(
					'bank.full',
					`“${before.title}” has no free slot.`,
					'Free one in the bank, or choose another bank.'
				);
			document = placeSound(document, free, { record, name: sound.name ?? '', from, song: '' });
			labels.push(slotLabel(names, free));
		}
		const updatedAt = studio.now().toISOString();
		await updateDocument(studio, { id, revision: bank.revision, document, updatedAt }, transaction);
		return { bank: await getBank(studio, id, transaction), labels, before };
	});
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
	const bank = await bankRow(studio, id, transaction);
	if (!bank) return;
	const { document, deviceId, base } = bank;
	// What was converted on the way is nothing that both have.
	if ((await getDevice(studio, deviceId)).profileId !== document.profileId) return;
	const knowledge = await readKnowledge(studio, deviceId, world, transaction);
	const sent = new Map(brought.map(({ area, index, record }) => [slotKey(area, index), record]));
	const common = document.entries.map((_, index) => {
		const key = slotKey(document.area, index);
		return sent.get(key) ?? base?.[index] ?? knowledge.slots.get(key)?.seen?.record ?? null;
	});
	await updateBase(studio, id, common, transaction);
}

/** Writes down what a bank and its device have in common. */
export const setBase = (studio: Studio, id: string, base: (string | null)[]): Promise<void> =>
	studio.write((transaction) => updateBase(studio, id, base, transaction));

export async function removeBank(studio: Studio, id: string): Promise<void> {
	await getBank(studio, id);
	await studio.write((transaction) => deleteBank(studio, id, transaction));
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
