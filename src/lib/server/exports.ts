import Papa from 'papaparse';
import {
	fileStem,
	programTable,
	readNameDocument,
	readProgramTable,
	writeNameDocument,
	type NameDocument,
	type TableFault
} from '../core/drawer';
import { joinBytes, writeSysexMidiFile } from '../core/midi';
import { Problem } from '../core/problem';
import { decodeDump, slotLabel, writeName, type Profile, type Slot } from '../core/profile';
import type { BankDocument } from '../core/drawer';
import { bankMessages, createBank, type Bank } from './banks';
import type { Studio } from './db/connection';
import { openVersion } from './drawer';
import { getDevice } from './gear';
import { hashOf } from './hash';
import { currentProfile } from './profiles';
import { keepRecords } from './records';

export const EXPORT_FORMATS = ['syx', 'mid', 'midnam', 'csv'] as const;
export type ExportFormat = (typeof EXPORT_FORMATS)[number];

export interface ExportedFile {
	name: string;
	bytes: Uint8Array;
	type: string;
}

const TYPES: Record<ExportFormat, string> = {
	syx: 'application/octet-stream',
	mid: 'audio/midi',
	midnam: 'application/xml',
	csv: 'text/csv; charset=utf-8'
};

const text = new TextEncoder();

/** The names of slots as a MIDI name document, an area a bank. */
function namesOf(profile: Profile, slots: readonly Slot[], author: string): NameDocument {
	return {
		author,
		manufacturer: profile.maker,
		model: profile.model,
		banks: profile.areas
			.map((area) => ({
				name: area.name,
				bankSelect: null,
				patches: slots
					.filter((slot) => slot.area === area.id)
					.map((slot) => ({
						number: slotLabel(area.labels, slot.index),
						name: slot.name ?? '',
						programChange: slot.index < 128 ? slot.index : null
					}))
			}))
			.filter(({ patches }) => patches.some(({ name }) => name !== ''))
	};
}

function build(
	format: ExportFormat,
	stem: string,
	content: { profile: Profile | null; messages: Uint8Array[]; slots: Slot[]; area?: string }
): ExportedFile {
	const { profile, messages, slots } = content;
	const file = (bytes: Uint8Array): ExportedFile => ({
		name: `${stem}.${format}`,
		bytes,
		type: TYPES[format]
	});
	if (format === 'syx') return file(joinBytes(messages));
	if (format === 'mid') return file(writeSysexMidiFile(messages));
	if (!profile)
		throw new Problem(
			'export.raw',
			'These messages are kept raw: no profile knows names or programs in them.',
			'Export them as .syx or .mid.'
		);
	if (format === 'midnam')
		return file(text.encode(writeNameDocument(namesOf(profile, slots, 'Silent Drawer'))));
	const area = content.area ?? slots[0]?.area ?? profile.areas[0].id;
	return file(text.encode(`\uFEFF${Papa.unparse(programTable(profile, area, slots), { newline: '\r\n' })}`));
}

/** A version as a file: messages as they were, names, or programs with their parameters. */
export async function exportVersion(
	studio: Studio,
	id: string,
	format: ExportFormat,
	area?: string
): Promise<ExportedFile> {
	const { version, profile, messages, slots } = await openVersion(studio, id);
	const device = await getDevice(studio, version.deviceId);
	return build(format, `${fileStem(device.name)}-${version.takenAt.slice(0, 10)}`, {
		profile,
		messages,
		slots,
		area
	});
}

/** A bank as a file: a dump that can be sent, names, or programs with their parameters. */
export async function exportBank(studio: Studio, id: string, format: ExportFormat): Promise<ExportedFile> {
	const { bank, messages } = await bankMessages(studio, id);
	const profile = currentProfile(studio, bank.document.profileId);
	const slots = decodeDump(profile, messages).slots.filter(({ area }) => area === bank.document.area);
	return build(format, fileStem(bank.document.title), { profile, messages, slots, area: bank.document.area });
}

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
	const { version } = await openVersion(studio, versionId);
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
	return createBank(studio, version.deviceId, document, versionId);
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
		`Table of ${version.takenAt.slice(0, 10)}`
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
		`Names of ${version.takenAt.slice(0, 10)}`
	);
	return { bank, changed, faults };
}
