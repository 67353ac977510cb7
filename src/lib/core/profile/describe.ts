import { describeMessage as describeChannelMessage, toHex } from '../midi';
import { describeUniversal, manufacturerLabel, readIdentityReply, readIdentityRequest } from '../sysex';
import { isMatch, matchAny } from './layout';
import type { Profile } from './schema';
import { areaOf, slotLabel } from './slots';

/** How the description of a damaged message begins. */
export const DAMAGED = 'Damaged message';

/** What a message means, in a few words, for the transfer log. */
export function describeWith(profile: Profile | null, bytes: Uint8Array): string {
	if (bytes[0] !== 0xf0) return describeChannelMessage(bytes);
	if (readIdentityRequest(bytes)) return 'Identity request';
	const identity = readIdentityReply(bytes);
	if (identity)
		return `Identity reply: family ${toHex(identity.family, ' ')}, member ${toHex(identity.member, ' ')}, device ID ${identity.deviceId}`;
	if (profile) {
		const match = matchAny(profile, bytes);
		if (isMatch(match)) {
			const area = match.area ? areaOf(profile, match.area) : null;
			const slot = match.variables.slot;
			const place =
				area && match.records.length < area.slots
					? ` ${slotLabel(area.labels, match.firstSlot)}`
					: !area && slot !== undefined
						? ` ${slotLabel(profile.areas[0].labels, slot)}`
						: '';
			return match.title + place;
		}
		if (match.why !== 'other message') return `${DAMAGED}: ${match.says}`;
	}
	const universal = describeUniversal(bytes);
	if (universal) return universal;
	const { id, meaning } = manufacturerLabel(bytes);
	return `System exclusive of ${meaning ?? `manufacturer ${id || 'unknown'}`}, ${bytes.length} bytes`;
}
