import { readingLine, standingOf } from '$lib/core/drawer';
import { readableSlots } from '$lib/server/knowing';
import { profileOrNull } from '$lib/server/profiles';
import { readKnowledge } from '$lib/server/store/knowledge';

/** How it stands: when it was read, and whether somebody changed it since. */
export async function load({ locals, params, parent }) {
	const { device } = await parent();
	const { studio } = locals;
	const knowledge = await readKnowledge(studio, params.device, studio.world);
	const known = standingOf(knowledge, readableSlots(profileOrNull(studio, device.profileId)));
	return {
		touchedAt: knowledge.touchedAt,
		changed: knowledge.touchedAt === null ? 0 : known.states.changed + known.states.never,
		reading: known.slots > 0 ? `${readingLine(known, studio.now().getTime())}.` : ''
	};
}
