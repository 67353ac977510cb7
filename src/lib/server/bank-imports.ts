import Papa from 'papaparse';
import {
	readNameDocument,
	readProgramTable,
	type Bank,
	type BankDocument,
	type TableFault
} from '../core/drawer';
import { Problem } from '../core/problem';
import { writeName, type Profile, type Slot } from '../core/profile';
import { createBank } from './banks';
import type { Studio } from './db/connection';
import { openVersion } from './drawer';
import { hashOf } from './hash';
import { localDay } from './local-time';
import { keepRecords } from './store/records';

export interface TableImport {
	bank: Bank | null;
	changed: number;
	faults: TableFault[];
}

/** Makes a bank document of slots, each with its own content. */
async function bankOfSlots(
	studio: Studio,
	versionId: string,
	profile: Profile,
	area: string,
	slots: readonly Slot[],
	title: string
): Promise<Bank> {
	const { version, seen } = await openVersion(studio, versionId);
	const kept = slots.map((slot) => ({ slot, record: hashOf(slot.bytes) }));
	await studio.write((transaction) => keepRecords(studio, profile.id, kept, transaction));
	const described = profile.areas.find(({ id }) => id === area)!;
	const bySlot = new Map(kept.map((entry) => [entry.slot.index, entry]));
	const document: BankDocument = {
		title,
		note: '',
		profileId: profile.id,
		area,
		entries: Array.from({ length: described.slots }, (_, index) => {
			const entry = bySlot.get(index);
			return entry
				? {
						record: entry.record,
						name: entry.slot.name ?? '',
						from: `${entry.slot.label}, ${title}`.slice(0, 160),
						song: ''
					}
				: null;
		})
	};
	const common = new Map(
		seen.filter(({ slot }) => slot.area === area).map(({ slot, record }) => [slot.index, record])
	);
	return createBank(
		studio,
		version.deviceId,
		document,
		versionId,
		document.entries.map((_, index) => common.get(index) ?? null)
	);
}

/** Begins a bank from a version: what a musician rearranges, renames and sends. */
export async function bankFromVersion(
	studio: Studio,
	versionId: string,
	area: string,
	title: string
): Promise<Bank> {
	const { profile, slots } = await openVersion(studio, versionId);
	if (!profile)
		throw new Problem(
			'bank.raw',
			'A raw dump has no programs that could be put into a bank.',
			'Give the device a profile first.'
		);
	return bankOfSlots(
		studio,
		versionId,
		profile,
		area,
		slots.filter((slot) => slot.area === area),
		title
	);
}

/** Reads a changed table of a version's programs into a new bank; with faults, nothing is made. */
export async function importTable(
	studio: Studio,
	versionId: string,
	area: string,
	csv: string
): Promise<TableImport> {
	const { profile, slots, version } = await openVersion(studio, versionId);
	if (!profile)
		throw new Problem('export.raw', 'These messages are kept raw.', 'Give the device a profile first.');
	const rows = Papa.parse<string[]>(csv.replace(/^\uFEFF/, ''), { skipEmptyLines: 'greedy' }).data;
	const read = readProgramTable(profile, area, slots, rows);
	if (read.faults.length > 0) return { bank: null, changed: read.changed, faults: read.faults };
	const bank = await bankOfSlots(
		studio,
		versionId,
		profile,
		area,
		read.slots,
		`Table of ${localDay(version.takenAt)}`
	);
	return { bank, changed: read.changed, faults: [] };
}

/** Reads a name document into a new bank: the version's sounds with the document's names, by slot label or number. */
export async function importNames(
	studio: Studio,
	versionId: string,
	area: string,
	xml: string
): Promise<TableImport> {
	const { profile, slots, version } = await openVersion(studio, versionId);
	if (!profile)
		throw new Problem('export.raw', 'These messages are kept raw.', 'Give the device a profile first.');
	const described = profile.areas.find(({ id }) => id === area)!;
	const record = profile.records[described.record];
	const patches = readNameDocument(xml).banks.flatMap((bank) => bank.patches);
	const faults: TableFault[] = [];
	let changed = 0;
	const renamed = slots
		.filter((slot) => slot.area === area)
		.map((slot) => {
			const at = patches.findIndex(
				({ number, programChange }) => number === slot.label || programChange === slot.index
			);
			const name = patches[at]?.name;
			if (name === undefined || name === slot.name) return slot;
			try {
				const bytes = writeName(profile, record, slot.bytes, name);
				changed++;
				return { ...slot, bytes, name };
			} catch (error) {
				if (!(error instanceof Problem)) throw error;
				faults.push({ row: at + 1, column: slot.label, says: error.message });
				return slot;
			}
		});
	if (faults.length > 0) return { bank: null, changed, faults };
	const bank = await bankOfSlots(
		studio,
		versionId,
		profile,
		area,
		renamed,
		`Names of ${localDay(version.takenAt)}`
	);
	return { bank, changed, faults };
}
