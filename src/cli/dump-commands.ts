import { toHex } from '../lib/core/midi';
import {
	areaOf,
	decodeDump,
	formatValue,
	meaningOf,
	looseDumps,
	makeSlot,
	readValue,
	readText,
	withToldStates
} from '../lib/core/profile';
import { manufacturerOf, readDumpFile } from '../lib/core/sysex';
import { oneOf, print, wrongUse, type Command } from './command';
import { bytesOf, profileIn } from './files';

/** What is done with dump files alone. */
export const dumpCommands: Record<string, Command> = {
	sysex: {
		usage: 'sysex FILE…',
		says: 'every SysEx message of .syx and .mid files, a line each',
		async run(words) {
			if (words.length === 0) throw wrongUse(this);
			for (const file of words) {
				readDumpFile(bytesOf(file)).messages.forEach((message, index) =>
					print({
						file,
						index,
						offset: message.offset,
						length: message.bytes.length,
						complete: message.complete,
						manufacturer: toHex(manufacturerOf(message.bytes)),
						hex: toHex(message.bytes)
					})
				);
			}
			return 0;
		}
	},
	decode: {
		usage: 'decode --profile P.json FILE.syx',
		says: 'the slots of a dump, with names and parameters',
		async run(words) {
			const { about, options } = oneOf(this, words, 'profile');
			if (!options.profile) throw wrongUse(this);
			const profile = profileIn(options.profile);
			const file = withToldStates(readDumpFile(bytesOf(about)), [profile]);
			const dump = decodeDump(
				profile,
				file.messages.map(({ bytes }) => bytes)
			);
			for (const slot of dump.slots) {
				const record = profile.records[areaOf(profile, slot.area).record];
				print({
					area: slot.area,
					slot: slot.index,
					label: slot.label,
					name: slot.name,
					parameters: Object.fromEntries(
						record.parameters.map((parameter) => {
							const raw = readValue(parameter, slot.bytes);
							const meaning = meaningOf(record, parameter, slot.bytes);
							return [parameter.id, { name: meaning.name, raw, shown: formatValue(meaning, raw) }];
						})
					),
					texts: Object.fromEntries(
						record.texts.map((text) => [text.id, readText(profile, text, slot.bytes)])
					)
				});
			}
			for (const { area, label, missing } of dump.partial)
				console.error(
					`${areaOf(profile, area).slotWord} ${label} is not whole: ${missing.join(', ')} missing.`
				);
			for (const { message, area, bytes } of looseDumps(profile, dump))
				print({ area, slot: null, label: null, name: makeSlot(profile, area, 0, bytes).name, message });
			const unread = dump.messages.flatMap((message, index) =>
				message.read ? [] : [{ index, why: message.why.says }]
			);
			for (const { index, why } of unread) console.error(`Message ${index + 1} was not read: ${why}.`);
			return unread.length + dump.partial.length > 0 || file.messages.some(({ complete }) => !complete)
				? 1
				: 0;
		}
	}
};
