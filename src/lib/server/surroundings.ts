import { listUnits } from './bench';
import type { Studio } from './db/connection';
import { listDevices } from './gear';
import { rememberedPorts } from './midi-ports';
import { knownProfiles } from './profiles';
import { readStudioRig } from './rig';

/** What a search for what is plugged in is compared with. */
export async function surroundingsOf(studio: Studio) {
	const [devices, { rig }, units, remembered] = await Promise.all([
		listDevices(studio),
		readStudioRig(studio),
		listUnits(studio),
		rememberedPorts(studio)
	]);
	return {
		devices,
		rig,
		remembered,
		profiles: knownProfiles(studio),
		units: units.map(({ id, name, profileId }) => ({ id, name, profileId }))
	};
}
