// Run in a process of its own by `deeds.ts`: deed, studio file, bundle.
import { readFileSync } from 'node:fs';
import { factoryState, seededRandom } from '../src/lib/core/bench';
import { joinBytes, toHex } from '../src/lib/core/midi';
import { mixedStudio } from '../src/lib/core/plan/mixed-studio.fixture';
import { Problem } from '../src/lib/core/problem';
import { buildMessage, makeSlot, messagesFor } from '../src/lib/core/profile';
import { machineProblem } from '../src/lib/server/machine-problem';
import { takeBundle } from '../src/lib/server/bundle/take';
import { importCatalogue } from '../src/lib/server/catalogue';
import { openStudio, type Studio } from '../src/lib/server/db/connection';
import { storeFile } from '../src/lib/server/files';
import { listDevices } from '../src/lib/server/gear';
import { keepCopy } from '../src/lib/server/keep-copy';
import { putBack } from '../src/lib/server/put-back';
import { importRig } from '../src/lib/server/rig-import';
import { loadProfiles, saveProfile, shippedProfile } from '../src/lib/server/profiles';
import { appendMessages, beginTransfer, finishTransfer } from '../src/lib/server/transfers';
import { DONE, KEPT, type Deed } from './deed-names';

const [deed, file, bundle] = process.argv.slice(2) as [Deed, string, string];

const begun = () => process.stdout.write('begun\n');
const done = () => process.stdout.write(`${DONE}\n`);

/** What opening it does is the deed. */
async function start(): Promise<void> {
	begun();
	const studio = await openStudio(file);
	await loadProfiles(studio);
	done();
	await studio.close();
}

/** Done in a studio that is open already. */
const inside = (work: (studio: Studio) => Promise<unknown>) => async () => {
	const studio = await openStudio(file);
	await loadProfiles(studio);
	begun();
	await work(studio);
	done();
	await studio.close();
};

const deeds: Record<Deed, () => Promise<void>> = {
	'first start': start,
	migration: start,
	'table of devices': inside((studio) => {
		const lines = Array.from({ length: 60 }, (_, i) => `Device ${i}`);
		return importCatalogue(
			studio,
			`Name\n${lines.join('\n')}\n`,
			lines.map((_, i) => i + 2)
		);
	}),
	'rig file': inside((studio) => importRig(studio, mixedStudio(40, 12, 5))),
	bundle: inside((studio) => takeBundle(studio, bundle)),
	'dump file': inside(async (studio) => {
		const profile = shippedProfile('ternhill-umbra');
		const device = (await listDevices(studio)).find(({ profileId }) => profileId === profile.id)!;
		const { programs } = factoryState(profile, seededRandom(77)).memory;
		const slots = programs.map((bytes, i) => makeSlot(profile, 'programs', i, bytes));
		const bytes = joinBytes(messagesFor(profile, slots, { deviceId: 1, channel: 1 }));
		return storeFile(studio, { bytes, name: 'old.syx', deviceId: device.id });
	}),
	profile: inside(async (studio) => {
		const own: unknown = JSON.parse(readFileSync('profiles/ternhill-umbra.json', 'utf8'));
		return saveProfile(studio, { ...(own as object), id: 'my-umbra' });
	}),
	backup: inside(async (studio) => {
		const profile = shippedProfile('tarnow-parallax');
		const device = (await listDevices(studio)).find(({ profileId }) => profileId === profile.id)!;
		const { id } = await beginTransfer(studio, {
			deviceId: device.id,
			direction: 'capture',
			world: 'hardware',
			scope: { kind: 'area', area: 'programs' }
		});
		const { programs } = factoryState(profile, seededRandom(78)).memory;
		for (const [slot, program] of programs.entries()) {
			const message = buildMessage(profile, 'program-dump', { deviceId: 1, slot }, program);
			await appendMessages(studio, id, { position: slot, messages: [toHex(message)] });
			process.stdout.write(`${KEPT}\n`);
		}
		await finishTransfer(studio, id, { status: 'complete', reason: null });
	}),
	'daily copy': inside(keepCopy),
	async 'put back'() {
		begun();
		await putBack(file, new Date());
		done();
	}
};

try {
	await deeds[deed]();
} catch (error) {
	const told = machineProblem(error);
	console.error(told instanceof Problem ? told.code : told);
	process.exitCode = 1;
}
