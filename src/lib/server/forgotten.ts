import type { Forgotten } from '../core/care';
import type { Device } from '../core/gear';
import { CONDITIONS, sameModel, type Pairings } from '../core/pairing';
import type { Studio } from './db/connection';
import { profileOrNull } from './profiles';

/** What has to be set on a device after it was off, as its profile and the catalogue say. */
export function forgottenBy(studio: Studio, device: Device): Forgotten[] {
	const profile = profileOrNull(studio, device.profileId);
	const checks = profile ? [...profile.preflight.capture, ...profile.preflight.restore] : [];
	const seen = new Set<string>();
	return [
		...checks
			.filter(({ id, forgets }) => forgets && !seen.has(id) && seen.add(id))
			.map(({ id, says }): Forgotten => ({ id: `profile-${id}`, says, from: 'profile' })),
		...(device.forgets ? [{ id: 'catalogue', says: device.forgets, from: 'catalogue' as const }] : [])
	];
}

/** Conditions of a pair that are set on the device that is told, each time anew. */
const SET_ANEW = ['mode', 'host', 'other'];

/** Modes in which a device works together with others of the studio, as its pairing records say. */
export function modesFor(
	device: Device,
	others: readonly Device[],
	{ records }: Pick<Pairings, 'records'>
): Forgotten[] {
	return records
		.filter(
			({ to, from, result }) =>
				result !== 'not' && sameModel(device, to) && others.some((other) => sameModel(other, from))
		)
		.flatMap(({ id, from, does, conditions }) =>
			conditions
				.filter(({ what }) => SET_ANEW.includes(what))
				.map(({ what, is }, at): Forgotten => ({
					id: `pair-${id}-${at}`,
					says: `${CONDITIONS[what][0].toUpperCase()}${CONDITIONS[what].slice(1)}: ${is} (for ${does} from ${from.model})`,
					from: 'pairing'
				}))
		);
}
