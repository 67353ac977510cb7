// Run in a process of its own by `kills.ts`: deed, studio file, bundle.
import { readFileSync } from 'node:fs';
import { factoryState, seededRandom } from '../src/lib/core/bench';
import { joinBytes } from '../src/lib/core/midi';
import { mixedStudio } from '../src/lib/core/plan/mixed-studio.fixture';
import { makeSlot, messagesFor } from '../src/lib/core/profile';
import { takeBundle } from '../src/lib/server/bundle/take';
import { importCatalogue } from '../src/lib/server/catalogue';
import { openStudio, type Studio } from '../src/lib/server/db/connection';
import { storeFile } from '../src/lib/server/files';
import { listDevices } from '../src/lib/server/gear';
import { importRig } from '../src/lib/server/rig-import';
import { loadProfiles, saveProfile, shippedProfile } from '../src/lib/server/profiles';
import type { Deed } from './kills';

const [deed, file, bundle] = process.argv.slice(2) as [Deed, string, string];

const deeds: Record<Exclude<Deed, 'first start' | 'migration'>, (studio: Studio) => Promise<unknown>> = {
	'table of devices': (studio) => {
		const lines = Array.from({ length: 60 }, (_, i) => `Device ${i}`);
		return importCatalogue(
			studio,
			`Name\n${lines.join('\n')}\n`,
			lines.map((_, i) => i + 2)
		);
	},
	'rig file': (studio) => importRig(studio, mixedStudio(40, 12, 5)),
	bundle: (studio) => takeBundle(studio, bundle),
	'dump file': async (studio) => {
		const profile = shippedProfile('ternhill-umbra');
		const device = (await listDevices(studio)).find(({ profileId }) => profileId === profile.id)!;
		const { programs } = factoryState(profile, seededRandom(77)).memory;
		const slots = programs.map((bytes, i) => makeSlot(profile, 'programs', i, bytes));
		const bytes = joinBytes(messagesFor(profile, slots, { deviceId: 1, channel: 1 }));
		return storeFile(studio, { bytes, name: 'old.syx', deviceId: device.id });
	},
	profile: async (studio) => {
		const own: unknown = JSON.parse(readFileSync('profiles/ternhill-umbra.json', 'utf8'));
		return saveProfile(studio, { ...(own as object), id: 'my-umbra' });
	}
};

const byOpening = deed === 'first start' || deed === 'migration';
if (byOpening) process.stdout.write('begun\n');
const studio = await openStudio(file);
await loadProfiles(studio);
if (!byOpening) {
	process.stdout.write('begun\n');
	await deeds[deed](studio);
}
process.stdout.write('done\n');
await studio.close();
