import {
	bankSlots,
	mergeSlots,
	openConflicts,
	type Bank,
	type BankDocument,
	type MergeChoice,
	type MergeSlot
} from '../core/drawer';
import { Problem } from '../core/problem';
import { areaOf, makeSlot, profileTitle, slotKey, type Profile, type Slot } from '../core/profile';
import { getBank, saveBank, setBase } from './banks';
import type { Studio } from './db/connection';
import { openVersion } from './drawer';
import { getDevice } from './gear';
import { hashOf } from './hash';
import { lastSeenSlots } from './knowing';
import { currentProfile } from './profiles';
import { getRecords, keepRecords } from './store/records';

export interface BankMerge {
	bank: Bank;
	profile: Profile;
	/** Names what the device was last seen to hold: a decision about it holds for no other state. */
	deviceState: string;
	/** When the slot of the area that was read longest ago was read, ISO 8601. */
	readAt: string;
	slots: MergeSlot[];
}

/** What bank and device had in common last, slot by slot. @throws Problem `merge.no-base` */
async function commonGround(studio: Studio, bank: Bank, profile: Profile): Promise<Slot[]> {
	const { area } = bank.document;
	if (!bank.base && bank.baseVersionId)
		return (await openVersion(studio, bank.baseVersionId)).slots.filter((slot) => slot.area === area);
	if (!bank.base)
		throw new Problem(
			'merge.no-base',
			`“${bank.document.title}” and its device never had anything in common, so there is no common ground.`,
			'Send the bank once, or begin one from a version of the device: then both can be merged.'
		);
	const records = await getRecords(
		studio,
		bank.base.filter((record) => record !== null)
	);
	return bank.base.flatMap((record, index) => {
		const bytes = record === null ? undefined : records.get(record);
		return bytes ? [makeSlot(profile, area, index, bytes)] : [];
	});
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
	const own = bankSlots(profile, document, records);
	const keys = new Set(own.map((slot) => slotKey(slot.area, slot.index)));
	return [...own, ...base.filter((slot) => !keys.has(slotKey(slot.area, slot.index)))];
}

/**
 * What became of a bank in the drawer and on its device since both were the same, by what the device was last seen to
 * hold.
 * @throws Problem `merge.no-base`, `merge.no-device` where a slot of it is not known, `merge.other-variant` where the device is another variant of its model
 */
export async function mergeBank(studio: Studio, bankId: string): Promise<BankMerge> {
	const bank = await getBank(studio, bankId);
	const profile = currentProfile(studio, bank.document.profileId);
	const { area } = bank.document;
	const device = await getDevice(studio, bank.deviceId);
	if (device.profileId !== profile.id)
		throw new Problem(
			'merge.other-variant',
			`“${bank.document.title}” is of a ${profileTitle(profile)}, and “${device.name}” is not one any more.`,
			'Send the bank as it is: it is converted, and what is lost is said before.'
		);
	const base = await commonGround(studio, bank, profile);
	const seen = (await lastSeenSlots(studio, profile, device, studio.world)).filter(
		({ slot }) => slot.area === area
	);
	const unknown = areaOf(profile, area).slots - seen.length;
	if (unknown > 0)
		throw new Problem(
			'merge.no-device',
			`What ${unknown} of ${areaOf(profile, area).slots} slots of “${device.name}” hold now is not known.`,
			'Back it up first: then what was changed on it is known.'
		);
	const there = seen.map(({ slot }) => slot).sort((a, b) => a.index - b.index);
	return {
		bank,
		profile,
		deviceState: hashOf(Buffer.from(there.map(({ bytes }) => hashOf(bytes)).join(' '))),
		readAt: seen.map(({ at }) => at).sort()[0],
		slots: mergeSlots(profile, base, there, await drawerSide(studio, profile, bank.document, base))
	};
}

/**
 * Merges: the bank becomes the merged one, and what the device holds its new common ground.
 * @throws Problem `merge.open` while a conflict is undecided, `merge.moved`
 */
export async function applyMerge(
	studio: Studio,
	bankId: string,
	revision: number,
	deviceState: string,
	choices: readonly { index: number; choice: MergeChoice }[]
): Promise<Bank> {
	const { bank, profile, slots, deviceState: now } = await mergeBank(studio, bankId);
	if (now !== deviceState)
		throw new Problem(
			'merge.moved',
			'The device was read again since this merge was shown, and holds something else now.',
			'Look at the merge again.'
		);
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
	const common = slots.map(({ device }) => (device ? hashOf(device.bytes) : null));
	await setBase(studio, bankId, common);
	return { ...saved, base: common };
}
