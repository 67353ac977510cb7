import { areaIn, areaLabels, areaOf, sameFamily, type Profile } from '../core/profile';
import type { Studio } from './db/connection';
import { listDevices } from './gear';
import { profileOrNull } from './profiles';

/** A device that sounds can be sent to: of their model, or of another variant of it. */
export interface Receiver {
	id: string;
	name: string;
	/** The area that takes them, and its slots as its panel shows them. */
	area: string;
	labels: string[];
}

/** The devices that take sounds of an area, by place and name; archived ones are left out. */
export async function receiversOf(studio: Studio, from: Profile, area: string): Promise<Receiver[]> {
	return (await listDevices(studio)).flatMap(({ id, name, profileId }) => {
		const to = profileOrNull(studio, profileId);
		if (!to || !sameFamily(from, to)) return [];
		const own = areaIn(from, area, to);
		return own === null ? [] : [{ id, name, area: own, labels: areaLabels(areaOf(to, own)) }];
	});
}
