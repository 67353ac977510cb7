import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach } from 'vitest';
import { factoryState, seededRandom } from '../core/bench';
import { deviceSchema } from '../core/gear';
import { makeSlot, messagesFor } from '../core/profile';
import { openStudio, type Studio } from './db/connection';
import { addDevice } from './gear';
import { shippedProfile } from './profiles';
import { one } from './store/sql';

/** A studio of its own for each test, in a folder that goes away. */
export function freshStudio() {
	const here = { studio: null as unknown as Studio, folder: '' };
	beforeEach(async () => {
		here.folder = mkdtempSync(join(tmpdir(), 'drawer-test-'));
		here.studio = await openStudio(join(here.folder, 'studio.sqlite'));
		let minutes = 0;
		here.studio.now = () => new Date(Date.UTC(2026, 0, 1, 0, minutes++));
	});
	afterEach(async () => {
		await here.studio.close();
		rmSync(here.folder, { recursive: true, force: true });
	});
	return here;
}

/** Works with an empty studio of its own, which goes away. */
export async function anotherStudio<T>(work: (studio: Studio) => Promise<T>): Promise<T> {
	const folder = mkdtempSync(join(tmpdir(), 'another-'));
	const studio = await openStudio(join(folder, 'studio.sqlite'));
	try {
		return await work(studio);
	} finally {
		await studio.close();
		rmSync(folder, { recursive: true, force: true });
	}
}

/** How many rows a table has. */
export async function count(studio: Studio, table: string): Promise<number> {
	return (await one<{ n: number }>(studio, `SELECT COUNT(*) AS n FROM ${table}`))!.n;
}

/** An Orrery in the catalogue, its factory memory, and the messages that carry any memory of that shape. */
export async function anOrrery(studio: Studio, name = 'Orrery') {
	const profile = shippedProfile('vellbrook-orrery');
	const device = await addDevice(studio, deviceSchema.parse({ name, profileId: profile.id, deviceId: 0 }));
	const { memory } = factoryState(profile, seededRandom(5));
	const dump = (programs: Uint8Array[] = memory.programs) =>
		messagesFor(
			profile,
			[
				...programs.map((bytes, i) => makeSlot(profile, 'programs', i, bytes)),
				makeSlot(profile, 'system', 0, memory.system[0])
			],
			{ deviceId: 0 }
		);
	return { profile, device, memory, dump };
}
