import { XMLBuilder, XMLValidator } from 'fast-xml-parser';
import { Problem } from '../problem';
import { nodes, xmlParser, type XmlNode as Node } from '../xml';

/** One name of a bank. */
export interface PatchName {
	/** As the device numbers it. */
	number: string;
	name: string;
	/** 0–127, where the document says it. */
	programChange: number | null;
}

export interface NameBank {
	name: string;
	/** Bank select, where the document says it. */
	bankSelect: { high: number | null; low: number | null } | null;
	patches: PatchName[];
}

/** A MIDI name document (MIDI Manufacturers Association, “XML names”, MIDINameDocument 1.0). */
export interface NameDocument {
	author: string;
	manufacturer: string;
	model: string;
	banks: NameBank[];
}

const LISTS = new Set([
	'PatchBank',
	'Patch',
	'PatchNameList',
	'Model',
	'MasterDeviceNames',
	'ExtendingDeviceNames',
	'ChannelNameSet',
	'ControlChange'
]);
const parser = xmlParser({
	isArray: (name) => LISTS.has(name),
	// A blank before or after a name belongs to it.
	trimValues: false
});

const text = (of: unknown): string =>
	typeof of === 'string'
		? of.trim()
		: Array.isArray(of)
			? text(of[0])
			: typeof of === 'object' && of !== null
				? text((of as Node)['#text'])
				: '';

const patchesOf = (list: Node | undefined): PatchName[] =>
	nodes(list?.Patch).map((patch) => ({
		number: String(patch['@Number'] ?? ''),
		name: String(patch['@Name'] ?? ''),
		programChange: patch['@ProgramChange'] === undefined ? null : Number(patch['@ProgramChange'])
	}));

/**
 * Reads the banks and patch names of a MIDI name document; everything else in it is left alone.
 * @throws Problem `names.xml` with the line, `xml.unreadable`, `names.other`, `names.empty`
 */
export function readNameDocument(xml: string): NameDocument {
	const valid = XMLValidator.validate(xml);
	if (valid !== true)
		throw new Problem(
			'names.xml',
			`The file is no well-formed XML: line ${valid.err.line}: ${valid.err.msg}`,
			'Export it again from where it came from.'
		);
	const root = parser.parse(xml).MIDINameDocument as Node | undefined;
	if (!root)
		throw new Problem(
			'names.other',
			'The file is XML, but no MIDI name document.',
			'A name document begins with <MIDINameDocument>.'
		);
	const masters = nodes(root.MasterDeviceNames);
	const lists = new Map<string, Node>();
	const banks: NameBank[] = [];
	const collect = (holder: Node) => {
		for (const list of nodes(holder.PatchNameList)) lists.set(String(list['@Name'] ?? ''), list);
		for (const set of nodes(holder.ChannelNameSet)) collect(set);
		for (const bank of nodes(holder.PatchBank)) collect(bank);
	};
	const read = (holder: Node) => {
		for (const bank of nodes(holder.PatchBank)) {
			const uses = nodes(bank.UsesPatchNameList)[0];
			const list = nodes(bank.PatchNameList)[0] ?? (uses && lists.get(String(uses['@Name'])));
			const commands = nodes(bank.MIDICommands)[0];
			const selects = nodes(commands?.ControlChange);
			const select = (control: string) => {
				const found = selects.find((change) => change['@Control'] === control);
				return found ? Number(found['@Value']) : null;
			};
			banks.push({
				name: String(bank['@Name'] ?? ''),
				bankSelect: selects.length > 0 ? { high: select('0'), low: select('32') } : null,
				patches: patchesOf(list)
			});
		}
		for (const set of nodes(holder.ChannelNameSet)) read(set);
	};
	for (const master of masters) collect(master);
	for (const master of masters) read(master);
	// An expansion: lists of names without banks of their own.
	const extensions = nodes(root.ExtendingDeviceNames);
	for (const extension of extensions) {
		collect(extension);
		read(extension);
		for (const list of nodes(extension.PatchNameList))
			banks.push({ name: String(list['@Name'] ?? ''), bankSelect: null, patches: patchesOf(list) });
	}
	const device = masters[0] ?? extensions[0];
	if (banks.every(({ patches }) => patches.length === 0))
		throw new Problem('names.empty', 'There are no patch names in this document.', 'Choose another file.');
	return {
		author: text(root.Author),
		manufacturer: text(device?.Manufacturer),
		model: text(device?.Model ?? device?.Device),
		banks
	};
}

/** Writes a name document that others can read. */
export function writeNameDocument(document: NameDocument): string {
	const builder = new XMLBuilder({
		ignoreAttributes: false,
		attributeNamePrefix: '@',
		format: true,
		indentBy: '\t',
		suppressEmptyNode: true,
		suppressBooleanAttributes: false
	});
	const body = builder.build({
		MIDINameDocument: {
			Author: document.author,
			MasterDeviceNames: {
				Manufacturer: document.manufacturer,
				Model: document.model,
				CustomDeviceMode: {
					'@Name': 'Default',
					ChannelNameSetAssignments: {
						ChannelNameSetAssign: Array.from({ length: 16 }, (_, i) => ({
							'@Channel': String(i + 1),
							'@NameSet': 'Names'
						}))
					}
				},
				ChannelNameSet: {
					'@Name': 'Names',
					AvailableForChannels: {
						AvailableChannel: Array.from({ length: 16 }, (_, i) => ({
							'@Channel': String(i + 1),
							'@Available': 'true'
						}))
					},
					PatchBank: document.banks.map((bank) => ({
						'@Name': bank.name,
						...(bank.bankSelect && {
							MIDICommands: {
								ControlChange: [
									...(bank.bankSelect.high === null
										? []
										: [{ '@Control': '0', '@Value': String(bank.bankSelect.high) }]),
									...(bank.bankSelect.low === null
										? []
										: [{ '@Control': '32', '@Value': String(bank.bankSelect.low) }])
								]
							}
						}),
						PatchNameList: {
							'@Name': bank.name,
							Patch: bank.patches.map(({ number, name, programChange }) => ({
								'@Number': number,
								'@Name': name,
								...(programChange !== null && { '@ProgramChange': String(programChange) })
							}))
						}
					}))
				}
			}
		}
	}) as string;
	return `<?xml version="1.0" encoding="UTF-8"?>\n<!DOCTYPE MIDINameDocument PUBLIC "-//MIDI Manufacturers Association//DTD MIDINameDocument 1.0//EN" "http://www.midi.org/dtds/MIDINameDocument10.dtd">\n${body}`;
}
