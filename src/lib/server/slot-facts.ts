import {
	UNMARKED,
	lastSeen,
	stateOf,
	usersOf,
	type LinkedSlot,
	type LiveWorld,
	type SlotFacts,
	type SlotNow
} from '../core/drawer';
import { toHex } from '../core/midi';
import { Problem } from '../core/problem';
import {
	areaOf,
	categoryOf,
	linksIn,
	recallOf,
	shownFields,
	slotKey,
	slotLabel,
	type Profile,
	type Slot
} from '../core/profile';
import { listBanks } from './banks';
import type { Studio } from './db/connection';
import { openVersion } from './drawer';
import { hashOf } from './hash';
import { profileOrNull } from './profiles';
import { receiversOf } from './receivers';
import { lifeOfSound } from './sounds';
import { readKnowledge } from './store/knowledge';
import { getRecord } from './store/records';
import { marksOf } from './store/sound-marks';
import { placesOfSounds } from './store/sightings';

/** What a slot plays, and what plays it, among the slots of its version. */
function linksOf(
	profile: Profile,
	slots: readonly Slot[],
	{ area, index, bytes }: Slot
): Pick<SlotFacts, 'plays' | 'playedBy'> {
	const linked = (name: string, to: string, slot: number, held: Slot | undefined): LinkedSlot => {
		const { labels, slotWord } = areaOf(profile, to);
		return {
			name,
			area: to,
			index: slot,
			label: slotLabel(labels, slot),
			word: slotWord,
			sound: held?.name ?? null,
			held: held !== undefined
		};
	};
	return {
		plays: linksIn(profile, area, bytes).flatMap(({ name, to, slot }) =>
			slot === null
				? []
				: [
						linked(
							name,
							to,
							slot,
							slots.find((one) => one.area === to && one.index === slot)
						)
					]
		),
		playedBy: usersOf(profile, slots, area, index).map(({ slot, name }) =>
			linked(name, slot.area, slot.index, slot)
		)
	};
}

/**
 * What there is to say of a slot of a version.
 * @param slot `area:index`, counted from 0
 * @throws Problem `slot.not-found` where the version holds no such slot
 */
export async function slotFacts(studio: Studio, versionId: string, slot: string): Promise<SlotFacts> {
	const { profile, slots, version } = await openVersion(studio, versionId);
	const found = slots.find(({ area, index }) => slotKey(area, index) === slot);
	if (!profile || !found)
		throw new Problem(
			'slot.not-found',
			`This version holds no slot “${slot}”.`,
			'Choose one of the slots that it shows.'
		);
	const described = areaOf(profile, found.area);
	// How the device is spoken to is what the newest revision knows, whichever one read this version.
	const spoken = profileOrNull(studio, profile.id)?.areas.find(({ id }) => id === found.area);
	const record = hashOf(found.bytes);
	const kept = await getRecord(studio, record);
	const life: SlotFacts['life'] = {};
	if (kept)
		for (const { kind } of (await lifeOfSound(studio, record)).life.events)
			life[kind] = (life[kind] ?? 0) + 1;
	const banks = (await listBanks(studio)).flatMap(({ id, document }) => {
		if (document.profileId !== profile.id || document.area !== found.area) return [];
		const labels = document.entries.flatMap((entry, at) =>
			entry?.record === record ? [slotLabel(described.labels, at)] : []
		);
		return labels.length > 0 ? [{ id, title: document.title, labels }] : [];
	});
	const now = async (world: LiveWorld): Promise<SlotNow> => {
		const knowledge = await readKnowledge(studio, version.deviceId, world);
		const seen = lastSeen(knowledge, found);
		return {
			state: stateOf(knowledge, found),
			same: seen && seen.record === record,
			name: (seen && (await getRecord(studio, seen.record))?.name) ?? null,
			at: seen?.at ?? null
		};
	};
	return {
		area: found.area,
		index: found.index,
		label: found.label,
		word: described.slotWord,
		of: described.slots,
		name: found.name,
		record,
		parameters: shownFields(profile, profile.records[described.record], found.bytes),
		...linksOf(profile, slots, found),
		places: (await placesOfSounds(studio, [record])).get(record) ?? [],
		life,
		banks,
		mark: (await marksOf(studio, [record])).get(record) ?? UNMARKED,
		category: categoryOf(profile.records[described.record], found.bytes),
		profileId: profile.id,
		bytes: toHex(found.bytes),
		recall: spoken ? recallOf(spoken, found.index) : null,
		editBuffer: spoken?.editBuffer !== undefined,
		now: { bench: await now('bench'), hardware: await now('hardware') },
		devices: await receiversOf(studio, profile, found.area)
	};
}
