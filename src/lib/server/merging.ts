import {
	mergeSlots,
	openConflicts,
	type BankDocument,
	type MergeChoice,
	type MergeSlot
} from '../core/drawer';
import { bankSlots } from '../core/drawer';
import { Problem } from '../core/problem';
import { slotKey, type Profile, type Slot } from '../core/profile';
import { getBank, saveBank, type Bank } from './banks';
import type { Studio } from './db/connection';
import { listVersions, openVersion } from './drawer';
import { getDevice } from './gear';
import { hashOf } from './hash';
import { getRecords, keepRecords } from './records';

export interface BankMerge {
	bank: Bank;
	profile: Profile;
	/** The common ground: the version that the bank was begun from. */
	baseVersionId: string;
	/** The newest state that was read from the device. */
	deviceVersionId: string;
	slots: MergeSlot[];
}

/** Slots of a bank over what its base had: free slots are as they were. */
async function drawerSide(
	studio: Studio,
	profile: Profile,
	document: BankDocument,
	base: readonly Slot[]
): Promise<Slot[]> {
	const records = await getRecords(
		studio,
		document.entries.flatMap((entry) => (entry ? [entry.record] : []))
	);
	const own = new Map(
		bankSlots(profile, document, records).map((slot) => [slotKey(slot.area, slot.index), slot])
	);
	return base
		.filter(({ area }) => area === document.area)
		.map((slot) => own.get(slotKey(slot.area, slot.index)) ?? slot);
}

/**
 * What became of a bank in the drawer and on its device since both were the same. `deviceVersionId` is the newest
 * version that holds the whole area, unless another is named.
 * @throws Problem `merge.no-base`, `merge.no-device`
 */
export async function mergeBank(studio: Studio, bankId: string, deviceVersion?: string): Promise<BankMerge> {
	const bank = await getBank(studio, bankId);
	if (!bank.baseVersionId)
		throw new Problem(
			'merge.no-base',
			`“${bank.document.title}” was not begun from a version, so there is no common ground.`,
			'Begin a bank from a version of the device to be able to merge.'
		);
	const base = await openVersion(studio, bank.baseVersionId);
	const profile = base.profile!;
	const { area } = bank.document;
	const device = await getDevice(studio, bank.deviceId);
	const whole = profile.areas.find(({ id }) => id === area)!.slots;
	let newest = null;
	if (deviceVersion) newest = await openVersion(studio, deviceVersion);
	else
		for (const { id, kind, verified } of await listVersions(studio, bank.deviceId)) {
			if (kind === 'imported' || !verified) continue;
			const opened = await openVersion(studio, id);
			if (opened.slots.filter((slot) => slot.area === area).length < whole) continue;
			newest = opened;
			break;
		}
	if (!newest)
		throw new Problem(
			'merge.no-device',
			`No verified version of “${device.name}” holds the whole area.`,
			'Back it up first: then what was changed on it is known.'
		);
	const only = (slots: readonly Slot[]) => slots.filter((slot) => slot.area === area);
	return {
		bank,
		profile,
		baseVersionId: bank.baseVersionId,
		deviceVersionId: newest.version.id,
		slots: mergeSlots(
			profile,
			only(base.slots),
			only(newest.slots),
			await drawerSide(studio, profile, bank.document, base.slots)
		)
	};
}

/**
 * Merges: the bank becomes the merged one, and the device's version its new common ground.
 * @throws Problem `merge.open` while a conflict is undecided
 */
export async function applyMerge(
	studio: Studio,
	bankId: string,
	revision: number,
	deviceVersionId: string,
	choices: readonly { index: number; choice: MergeChoice }[]
): Promise<Bank> {
	const { bank, profile, slots } = await mergeBank(studio, bankId, deviceVersionId);
	for (const { index, choice } of choices) {
		const slot = slots.find((entry) => entry.index === index);
		if (slot && (choice !== 'combined' || slot.combined)) slot.choice = choice;
	}
	const open = openConflicts(slots);
	if (open.length > 0)
		throw new Problem(
			'merge.open',
			`${open.length} ${open.length === 1 ? 'slot is' : 'slots are'} not decided yet: ${open.map(({ label }) => label).join(', ')}.`,
			'Choose what to take for each.'
		);
	const { document } = bank;
	const taken = slots.map((slot) => ({ merge: slot, slot: slot[slot.choice!] }));
	await studio.write((transaction) =>
		keepRecords(
			studio,
			profile.id,
			taken.flatMap(({ slot }) => (slot ? [{ slot, record: hashOf(slot.bytes) }] : [])),
			transaction
		)
	);
	const entries = document.entries.map((entry, index) => {
		const found = taken.find(({ merge }) => merge.index === index);
		if (!found?.slot) return entry;
		const record = hashOf(found.slot.bytes);
		if (entry && found.merge.choice === 'drawer') return entry;
		return {
			record,
			name: found.slot.name ?? '',
			from: `${found.merge.label}, merged: ${found.merge.choice === 'combined' ? 'both changes' : found.merge.choice === 'device' ? 'as on the device' : 'as before'}`,
			song: entry?.song ?? ''
		};
	});
	const saved = await saveBank(studio, bankId, revision, { ...document, entries });
	await studio.sequelize.query('UPDATE banks SET baseVersionId = ? WHERE id = ?', {
		replacements: [deviceVersionId, bankId]
	});
	return { ...saved, baseVersionId: deviceVersionId };
}
