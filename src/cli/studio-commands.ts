import { writeFileSync } from 'node:fs';
import { basename } from 'node:path';
import { oneOf, print, wrongUse, type Command } from './command';
import { bytesOf, place } from './files';

/** What opens a studio is read only for the commands that need it: the others answer at once. */
const server = () => import('./studio');

/** What is done with the studio of this machine. */
export const studioCommands: Record<string, Command> = {
	devices: {
		usage: 'devices',
		says: 'the catalogue',
		async run() {
			const { withStudio, listDevices } = await server();
			return withStudio(async (studio) => {
				for (const device of await listDevices(studio, { archived: true })) print(device);
				return 0;
			});
		}
	},
	versions: {
		usage: 'versions DEVICE',
		says: 'the versions in a device’s drawer, newest first (DEVICE is a name or an id)',
		async run([device]) {
			if (!device) throw wrongUse(this);
			const { withStudio, listVersions, findDevice } = await server();
			return withStudio(async (studio) => {
				for (const version of await listVersions(studio, (await findDevice(studio, device)).id))
					print(version);
				return 0;
			});
		}
	},
	export: {
		usage: 'export VERSION --out FILE.syx|FILE.mid|FILE.midnam|FILE.csv',
		says: 'writes a version to a file',
		async run(words) {
			const { about, options } = oneOf(this, words, 'out');
			const { out } = options;
			if (!out) throw wrongUse(this);
			const { withStudio, EXPORT_FORMATS, exportVersion } = await server();
			const ending = out.toLowerCase().split('.').at(-1);
			const format = EXPORT_FORMATS.find((known) => known === ending) ?? 'syx';
			const { bytes } = await withStudio((studio) => exportVersion(studio, about, format));
			writeFileSync(place(out), bytes);
			print({ version: about, out, bytes: bytes.length });
			return 0;
		}
	},
	import: {
		usage: 'import FILE --device DEVICE [--slot SLOT]',
		says: 'stores a dump file as a version of a device',
		async run(words) {
			const { about, options } = oneOf(this, words, 'device', 'slot');
			const { device, slot } = options;
			if (!device) throw wrongUse(this);
			const { withStudio, findDevice, storeFile } = await server();
			return withStudio(async (studio) => {
				const { id } = await findDevice(studio, device);
				print(await storeFile(studio, { bytes: bytesOf(about), name: basename(about), deviceId: id, slot }));
				return 0;
			});
		}
	},
	'put-back': {
		usage: 'put-back [COPY]',
		says: 'makes the newest whole copy the studio, or the one that is named; what was the studio is kept beside it',
		async run([copy]) {
			const { putBackCopy } = await server();
			const { aside, ...put } = await putBackCopy(copy);
			print({ ...put, aside });
			return 0;
		}
	},
	repair: {
		usage: 'repair',
		says: 'rebuilds from its messages what is wrongly said of slots, with a copy of the studio first',
		async run() {
			const { withStudio, repairStudio } = await server();
			return withStudio(async (studio) => {
				print((await repairStudio(studio)) ?? { copy: null, devices: [] });
				return 0;
			});
		}
	},
	check: {
		usage: 'check',
		says: 're-hashes everything that is stored; exit code 1 on any damage',
		async run() {
			const { withStudio, checkStudio } = await server();
			return withStudio(async (studio) => {
				const report = await checkStudio(studio);
				print(report);
				for (const { versionId, device, takenAt, says } of report.damage)
					console.error(versionId ? `Version ${versionId} of ${device}, ${takenAt}: ${says}` : says);
				return report.damage.length > 0 ? 1 : 0;
			});
		}
	}
};
