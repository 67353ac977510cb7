import { z } from 'zod';
import { Problem } from '../problem';
import { areaOf, makeSlot, slotLabel, writeName, type Profile, type Slot } from '../profile';
import { foldName } from './search';

/** A sound in a bank that is being built. */
export const bankEntrySchema = z.strictObject({
	/** SHA-256 of the record. */
	record: z.string().regex(/^[0-9a-f]{64}$/),
	/** Its name in this bank. */
	name: z.string().max(64),
	/** Where it was taken from, for people. */
	from: z.string().max(160),
	/** Which song it is for; songs sort by it. */
	song: z.string().trim().max(40).default('')
});

export const bankDocumentSchema = z.strictObject({
	title: z.string().trim().min(1, 'Give the bank a title.').max(80, 'Keep the title within 80 characters.'),
	note: z.string().trim().max(2000).default(''),
	profileId: z.string(),
	area: z.string(),
	/** One entry a slot; null keeps what the device has there. */
	entries: z.array(bankEntrySchema.nullable()).min(1).max(1024)
});

export type BankEntry = z.infer<typeof bankEntrySchema>;
export type BankDocument = z.infer<typeof bankDocumentSchema>;

/** A bank that is being built, as it is kept. */
export interface Bank {
	id: string;
	/** The device that it is meant for. */
	deviceId: string;
	/** The version that it was begun from, if any. */
	baseVersionId: string | null;
	/**
	 * What bank and device had in common last, slot by slot (SHA-256, null where nothing is known): what a merge
	 * compares both with. Null where they never had anything in common.
	 */
	base: (string | null)[] | null;
	document: BankDocument;
	/** Counts every change, so that two tabs cannot overwrite each other's. */
	revision: number;
	createdAt: string;
	updatedAt: string;
}

export const emptyBank = (profile: Profile, area: string, title: string): BankDocument => ({
	title,
	note: '',
	profileId: profile.id,
	area,
	entries: Array.from({ length: areaOf(profile, area).slots }, () => null)
});

const withEntries = (bank: BankDocument, entries: (BankEntry | null)[]): BankDocument => ({
	...bank,
	entries
});

/** Puts a sound into a slot, over what the bank had there. */
export function placeSound(bank: BankDocument, index: number, entry: BankEntry | null): BankDocument {
	return withEntries(bank, bank.entries.with(index, entry));
}

/**
 * Puts back what a slot held before another sound took its place.
 * @param now the record (SHA-256) that took it
 * @throws Problem `bank.slot.conflict` where the slot holds something else by now
 */
export function putBack(bank: BankDocument, index: number, was: BankEntry, now: string): BankDocument {
	if (bank.entries[index]?.record !== now)
		throw new Problem(
			'bank.slot.conflict',
			`What took the place of “${was.name || 'the sound'}” is not in that slot any more.`,
			'Put the sound where you want it by hand.'
		);
	return placeSound(bank, index, was);
}

/** Puts a sound before a slot: the following ones move down to the next free slot. @throws Problem `bank.full` */
export function insertSound(bank: BankDocument, index: number, entry: BankEntry): BankDocument {
	const free = bank.entries.indexOf(null, index);
	if (free < 0)
		throw new Problem(
			'bank.full',
			'There is no free slot below this one.',
			'Take a sound out first, or put it over another one.'
		);
	return withEntries(bank, bank.entries.toSpliced(free, 1).toSpliced(index, 0, entry));
}

/** Moves a sound to another slot; those in between close up. */
export function moveSound(bank: BankDocument, from: number, to: number): BankDocument {
	const target = Math.min(bank.entries.length - 1, Math.max(0, to));
	const entry = bank.entries[from];
	return withEntries(bank, bank.entries.toSpliced(from, 1).toSpliced(target, 0, entry));
}

export const swapSounds = (bank: BankDocument, a: number, b: number): BankDocument =>
	withEntries(bank, bank.entries.with(a, bank.entries[b]).with(b, bank.entries[a]));

/** Puts the sounds in song order, from the first slot on, without gaps; sounds for no song follow. */
export function orderBySong(bank: BankDocument): BankDocument {
	const byNumber = new Intl.Collator('en', { numeric: true });
	const sounds = bank.entries.filter((entry) => entry !== null);
	const ordered = [
		...sounds.filter(({ song }) => song !== '').sort((a, b) => byNumber.compare(a.song, b.song)),
		...sounds.filter(({ song }) => song === '')
	];
	return withEntries(
		bank,
		bank.entries.map((_, i) => ordered[i] ?? null)
	);
}

/** Fills every free slot with what `entries` have in that slot. */
export const fillRest = (bank: BankDocument, entries: readonly (BankEntry | null)[]): BankDocument =>
	withEntries(
		bank,
		bank.entries.map((entry, i) => entry ?? entries[i] ?? null)
	);

/** Another name for a sound in this bank, if the device can show it. @throws Problem `name.too-long`, `name.character` */
export function renameSound(
	profile: Profile,
	bank: BankDocument,
	index: number,
	name: string,
	bytes: Uint8Array
): BankDocument {
	const entry = bank.entries[index];
	if (!entry) return bank;
	writeName(profile, profile.records[areaOf(profile, bank.area).record], bytes, name);
	return placeSound(bank, index, { ...entry, name });
}

export interface BankRemark {
	index: number;
	label: string;
	says: string;
	kind: 'used twice' | 'name clash';
	/** The other slots concerned. */
	others: number[];
}

/** Sounds that are used twice, and different sounds with one name. */
export function bankRemarks(profile: Profile, bank: BankDocument): BankRemark[] {
	const { labels } = areaOf(profile, bank.area);
	const groups = new Map<string, number[]>();
	const note = (key: string, index: number) => groups.set(key, [...(groups.get(key) ?? []), index]);
	bank.entries.forEach((entry, index) => {
		if (!entry) return;
		note(`sound ${entry.record}`, index);
		if (entry.name) note(`name ${foldName(entry.name)}`, index);
	});
	const remarks: BankRemark[] = [];
	for (const [key, slots] of groups) {
		if (slots.length < 2) continue;
		const sound = key.startsWith('sound');
		if (!sound && new Set(slots.map((index) => bank.entries[index]!.record)).size < 2) continue;
		for (const index of slots) {
			const others = slots.filter((other) => other !== index);
			const where = others.map((other) => slotLabel(labels, other)).join(', ');
			remarks.push({
				index,
				label: slotLabel(labels, index),
				kind: sound ? 'used twice' : 'name clash',
				says: sound ? `The same sound is in ${where}.` : `Another sound in ${where} has this name.`,
				others
			});
		}
	}
	return remarks.sort((a, b) => a.index - b.index);
}

/** The slots that the bank wants a device to hold. @throws Problem `bank.record` where a sound is not at hand */
export function bankSlots(
	profile: Profile,
	bank: BankDocument,
	records: ReadonlyMap<string, Uint8Array>
): Slot[] {
	const record = profile.records[areaOf(profile, bank.area).record];
	return bank.entries.flatMap((entry, index) => {
		if (!entry) return [];
		const bytes = records.get(entry.record);
		if (!bytes)
			throw new Problem(
				'bank.record',
				`The sound “${entry.name}” of this bank is no longer kept.`,
				'Choose another one for its slot.'
			);
		return [
			makeSlot(profile, bank.area, index, record.name ? writeName(profile, record, bytes, entry.name) : bytes)
		];
	});
}
