import { writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { toHex } from '../lib/core/midi';
import {
	areaOf,
	decodeDump,
	formatValue,
	looseDumps,
	makeSlot,
	parseProfile,
	readParameter,
	readText
} from '../lib/core/profile';
import { manufacturerOf, readDumpFile } from '../lib/core/sysex';
import { checkStudio } from '../lib/server/check';
import { openStudio, type Studio } from '../lib/server/db/connection';
import { listVersions } from '../lib/server/drawer';
import { EXPORT_FORMATS, exportVersion } from '../lib/server/exports';
import { loadProfiles } from '../lib/server/profiles';
import { storeFile } from '../lib/server/files';
import { findDevice, listDevices } from '../lib/server/gear';
import { dataFolder } from '../lib/server/studio';
import { oneOf, wrongUse, type Command } from './command';
import { controlCommands } from './control-commands';
import { bytesOf, place } from './files';
import { pedalCommands } from './pedal-commands';
import { powerCommands } from './power-commands';
import { procedureCommands } from './procedure-commands';
import { rigCommands } from './rig-commands';

const print = (value: unknown) => console.log(JSON.stringify(value));
async function withStudio<T>(work: (studio: Studio) => Promise<T>): Promise<T> {
	const studio = await openStudio(join(dataFolder(), 'studio.sqlite'));
	try {
		await loadProfiles(studio);
		return await work(studio);
	} finally {
		await studio.close();
	}
}

export const commands: Record<string, Command> = {
	...rigCommands,
	...controlCommands,
	...pedalCommands,
	...powerCommands,
	...procedureCommands,
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
			const profile = parseProfile(JSON.parse(Buffer.from(bytesOf(options.profile)).toString('utf8')));
			const file = readDumpFile(bytesOf(about));
			const dump = decodeDump(
				profile,
				file.messages.map(({ bytes }) => bytes)
			);
			for (const slot of dump.slots)
				print({
					area: slot.area,
					slot: slot.index,
					label: slot.label,
					name: slot.name,
					parameters: Object.fromEntries(
						profile.records[areaOf(profile, slot.area).record].parameters.map((parameter) => {
							const raw = readParameter(parameter, slot.bytes);
							return [parameter.id, { raw, shown: formatValue(parameter, raw) }];
						})
					),
					texts: Object.fromEntries(
						profile.records[areaOf(profile, slot.area).record].texts.map((text) => [
							text.id,
							readText(profile, text, slot.bytes)
						])
					)
				});
			for (const { message, area, bytes } of looseDumps(profile, dump))
				print({ area, slot: null, label: null, name: makeSlot(profile, area, 0, bytes).name, message });
			const unread = dump.messages.flatMap((message, index) =>
				message.read ? [] : [{ index, why: message.why.says }]
			);
			for (const { index, why } of unread) console.error(`Message ${index + 1} was not read: ${why}.`);
			return unread.length > 0 || file.messages.some(({ complete }) => !complete) ? 1 : 0;
		}
	},
	devices: {
		usage: 'devices',
		says: 'the catalogue',
		run: () =>
			withStudio(async (studio) => {
				for (const device of await listDevices(studio, { archived: true })) print(device);
				return 0;
			})
	},
	versions: {
		usage: 'versions DEVICE',
		says: 'the versions in a device’s drawer, newest first (DEVICE is a name or an id)',
		run: ([device]) =>
			withStudio(async (studio) => {
				if (!device) throw wrongUse(commands.versions);
				for (const version of await listVersions(studio, (await findDevice(studio, device)).id))
					print(version);
				return 0;
			})
	},
	export: {
		usage: 'export VERSION --out FILE.syx|FILE.mid|FILE.midnam|FILE.csv',
		says: 'writes a version to a file',
		async run(words) {
			const { about, options } = oneOf(this, words, 'out');
			const { out } = options;
			if (!out) throw wrongUse(this);
			return withStudio(async (studio) => {
				const ending = out.toLowerCase().split('.').at(-1);
				const format = EXPORT_FORMATS.find((known) => known === ending) ?? 'syx';
				const { bytes } = await exportVersion(studio, about, format);
				writeFileSync(place(out), bytes);
				print({ version: about, out, bytes: bytes.length });
				return 0;
			});
		}
	},
	import: {
		usage: 'import FILE --device DEVICE [--slot SLOT]',
		says: 'stores a dump file as a version of a device',
		async run(words) {
			const { about, options } = oneOf(this, words, 'device', 'slot');
			const { device, slot } = options;
			if (!device) throw wrongUse(this);
			return withStudio(async (studio) => {
				const { id } = await findDevice(studio, device);
				print(
					await storeFile(studio, {
						bytes: bytesOf(about),
						name: basename(about),
						deviceId: id,
						slot
					})
				);
				return 0;
			});
		}
	},
	check: {
		usage: 'check',
		says: 're-hashes everything that is stored; exit code 1 on any damage',
		run: () =>
			withStudio(async (studio) => {
				const report = await checkStudio(studio);
				print(report);
				for (const { versionId, device, takenAt, says } of report.damage)
					console.error(versionId ? `Version ${versionId} of ${device}, ${takenAt}: ${says}` : says);
				return report.damage.length > 0 ? 1 : 0;
			})
	}
};

export const usage = (): string =>
	[
		'Usage: npm run -s drawer -- COMMAND …',
		...Object.values(commands).map((command) => `  ${command.usage.padEnd(44)} ${command.says}`),
		'',
		'The studio is in DRAWER_DATA, or in your own data folder.'
	].join('\n');
