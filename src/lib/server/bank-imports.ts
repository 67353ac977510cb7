import { readCsv } from '../core/csv';
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
import { openVersion, type OpenVersion } from './drawer';
import { hashOf } from './hash';
import { localDay } from './local-time';
import { keepRecords } from './store/records';

export interface TableImport {
	bank: Bank | null;
	changed: number;
	faults: TableFault[];
}

type Profiled = OpenVersion & { profile: Profile };

/** A version that a profile reads; one that is kept raw is refused with this code and sentence. */
async function openProfiled(
	studio: Studio,
	versionId: string,
	[code, says] = ['export.raw', 'These messages are kept raw.']
): Promise<Profiled> {
	const opened = await openVersion(studio, versionId);
	const { profile } = opened;
	if (!profile) throw new Problem(code, says, 'Give the device a profile first.');
	return { ...opened, profile };
}

/** Makes a bank document of slots, each with its own content. */
async function bankOfSlots(
	studio: Studio,
	{ version, profile, seen }: Profiled,
	area: string,
	slots: readonly Slot[],
	title: string
): Promise<Bank> {
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
		version.id,
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
	const opened = await openProfiled(studio, versionId, [
		'bank.raw',
		'A raw dump has no programs that could be put into a bank.'
	]);
	return bankOfSlots(
		studio,
		opened,
		area,
		opened.slots.filter((slot) => slot.area === area),
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
	const opened = await openProfiled(studio, versionId);
	const { profile, slots, version } = opened;
	const read = readProgramTable(profile, area, slots, readCsv(csv).rows);
	if (read.faults.length > 0) return { bank: null, changed: read.changed, faults: read.faults };
	const bank = await bankOfSlots(studio, opened, area, read.slots, `Table of ${localDay(version.takenAt)}`);
	return { bank, changed: read.changed, faults: [] };
}

/** Reads a name document into a new bank: the version's sounds with the document's names, by slot label or number. */
export async function importNames(
	studio: Studio,
	versionId: string,
	area: string,
	xml: string
): Promise<TableImport> {
	const opened = await openProfiled(studio, versionId);
	const { profile, slots, version } = opened;
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
	const bank = await bankOfSlots(studio, opened, area, renamed, `Names of ${localDay(version.takenAt)}`);
	return { bank, changed, faults };
}
