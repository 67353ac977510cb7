import { writeCsv } from '../core/csv';
import { fileStem, programTable, writeNameDocument, type NameDocument } from '../core/drawer';
import { joinBytes, wholeMessages, writeSysexMidiFile } from '../core/midi';
import { Problem } from '../core/problem';
import { callingUp, decoding, slotLabel, type Profile, type Slot } from '../core/profile';
import { bankMessages } from './banks';
import type { Studio } from './db/connection';
import { openVersion } from './drawer';
import { getDevice } from './gear';
import { inSteps } from './in-steps';
import { localDay } from './local-time';
import { currentProfile } from './profiles';

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
	const { profile, slots } = content;
	// What a panel told leaves with every status byte, as anything that sends it expects.
	const messages = content.messages.flatMap(wholeMessages);
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
	return file(text.encode(writeCsv(programTable(profile, area, slots))));
}

/** A version as a file: messages as they were, names, or programs with their parameters. */
export async function exportVersion(
	studio: Studio,
	id: string,
	format: ExportFormat,
	area?: string
): Promise<ExportedFile> {
	const { version, profile, messages, slots } = await openVersion(studio, id);
	// A file is sent by other programs, too: what only said where a dump is of would not bring it back there.
	const sent = profile ? callingUp(profile, messages) : messages;
	const device = await getDevice(studio, version.deviceId);
	return build(format, `${fileStem(device.name)}-${localDay(version.takenAt)}`, {
		profile,
		messages: sent,
		slots,
		area
	});
}

/** A bank as a file: a dump that can be sent, names, or programs with their parameters. */
export async function exportBank(studio: Studio, id: string, format: ExportFormat): Promise<ExportedFile> {
	const { bank, messages } = await bankMessages(studio, id);
	const profile = currentProfile(studio, bank.document.profileId);
	const slots = (await inSteps(decoding(profile, messages))).slots.filter(
		({ area }) => area === bank.document.area
	);
	return build(format, fileStem(bank.document.title), { profile, messages, slots, area: bank.document.area });
}
