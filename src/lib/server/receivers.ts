import type { Receiver } from '../core/drawer';
import { areaIn, areaLabels, areaOf, sameFamily, type Profile } from '../core/profile';
import type { Studio } from './db/connection';
import { listDevices } from './gear';
import { profileOrNull } from './profiles';

/** The devices that take sounds of an area, by place and name; archived ones are left out. */
export async function receiversOf(studio: Studio, from: Profile, area: string): Promise<Receiver[]> {
	return (await listDevices(studio)).flatMap(({ id, name, profileId }) => {
		const to = profileOrNull(studio, profileId);
		if (!to || !sameFamily(from, to)) return [];
		const own = areaIn(from, area, to);
		return own === null ? [] : [{ id, name, area: own, labels: areaLabels(areaOf(to, own)) }];
	});
}
