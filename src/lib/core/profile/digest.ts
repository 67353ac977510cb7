import { sha256 } from '@noble/hashes/sha2.js';
import { utf8ToBytes } from '@noble/hashes/utils.js';
import { toHex } from '../midi';
import type { Profile } from './schema';

/** JSON with keys in order, so that equal content gives equal text. */
const canonical = (value: unknown): string =>
	Array.isArray(value)
		? `[${value.map(canonical).join(',')}]`
		: value !== null && typeof value === 'object'
			? `{${Object.entries(value)
					.filter(([, of]) => of !== undefined)
					.sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0))
					.map(([key, of]) => `${JSON.stringify(key)}:${canonical(of)}`)
					.join(',')}}`
			: JSON.stringify(value);

/**
 * What a profile says, as SHA-256 in hexadecimal. Its revision number is not part of it: two studios can give the same
 * number to different profiles, and different numbers to the same one.
 */
export function profileDigest(profile: Profile): string {
	let digest = digests.get(profile);
	if (digest === undefined) {
		const { revision: _, ...content } = profile;
		digests.set(profile, (digest = toHex(sha256(utf8ToBytes(canonical(content))))));
	}
	return digest;
}

/** A profile never changes: each is read once. */
const digests = new WeakMap<Profile, string>();
