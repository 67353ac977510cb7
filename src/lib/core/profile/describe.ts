import { describeMessage as describeChannelMessage, toHex } from '../midi';
import { describeUniversal, manufacturerLabel, readIdentityReply, readIdentityRequest } from '../sysex';
import { isMatch, matchAny, slotsIn, type Match } from './match';
import { sectionsOf } from './sections';
import type { Profile } from './schema';
import { areaOf, slotLabel } from './slots';

/** How the description of a damaged message begins. */
export const DAMAGED = 'Damaged message';

/** Of which slot, and which part of it, a message is; nothing where it is of all of them, or of none. */
function placeIn(profile: Profile, match: Match): string {
	const [first] = match.pieces;
	if (!first)
		return match.variables.slot === undefined
			? ''
			: ` ${slotLabel(profile.areas[0].labels, match.variables.slot)}`;
	const area = areaOf(profile, first.area);
	const slots = slotsIn(match);
	if (slots.length === area.slots && area.slots > 1) return '';
	const label = area.slots === 1 ? '' : ` ${slotLabel(area.labels, first.slot)}`;
	if (slots.length > 1) return label;
	const sections = sectionsOf(profile.records[area.record]);
	const within = sections.find(({ at, size }) => at <= first.at && first.at < at + size);
	return sections.length > 1 && within ? `${label}, ${within.name}` : label;
}

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
			const place = placeIn(profile, match);
			return match.title + place;
		}
		if (match.why !== 'other message') return `${DAMAGED}: ${match.says}`;
	}
	const universal = describeUniversal(bytes);
	if (universal) return universal;
	const { id, meaning } = manufacturerLabel(bytes);
	return `System exclusive of ${meaning ?? `manufacturer ${id || 'unknown'}`}, ${bytes.length} bytes`;
}
