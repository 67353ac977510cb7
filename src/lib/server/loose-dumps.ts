import { lastSeen, type LooseInFile } from '../core/drawer';
import type { Device } from '../core/gear';
import { Problem } from '../core/problem';
import { areaLabels, areaOf, looseDumps, makeSlot, type Dump, type Profile } from '../core/profile';
import type { Studio } from './db/connection';
import { hashOf } from './hash';
import { eachInSteps } from './in-steps';
import { readKnowledge } from './store/knowledge';

/** What was said of dumps that name no slot. */
export interface PlaceOrder {
	/** The file, by its name. */
	name: string;
	/** Which slot each is of, by its number in the file. */
	places?: readonly { message: number; slot: number }[];
	/** The same for the only one of them, as the panel shows it. */
	slot?: string;
}

/** So many of a file are asked for. */
const MOST = 500;

/** Stands in the note of a version whose file did not say which slots its dumps are of. */
export const PLACED = 'Its file does not say which slot it is of; that was said when it was kept.';

/** The dumps of a file that name no slot, each with where the devices of its model were last seen to hold exactly that. */
export async function looseInFile(
	studio: Studio,
	profile: Profile,
	dump: Dump,
	devices: readonly Device[]
): Promise<LooseInFile[]> {
	const loose = looseDumps(profile, dump);
	if (loose.length === 0) return [];
	if (loose.length > MOST)
		throw new Problem(
			'file.too-many',
			`There are more than ${MOST} dumps in this file that do not say which slot they are of.`,
			'Cut the file in parts: somebody has to say it of each.'
		);
	const own = devices.filter(({ profileId }) => profileId === profile.id);
	const known = await Promise.all(
		own.map(async ({ id }) => [id, await readKnowledge(studio, id, studio.world)] as const)
	);
	return eachInSteps(loose, ({ message, area: areaId, bytes }) => {
		const area = areaOf(profile, areaId);
		const labels = areaLabels(area);
		const record = hashOf(bytes);
		return {
			message,
			slotWord: area.slotWord,
			name: makeSlot(profile, areaId, 0, bytes).name,
			labels,
			found: Object.fromEntries(
				known.map(([id, knowledge]) => [
					id,
					labels.flatMap((_, index) =>
						lastSeen(knowledge, { area: areaId, index })?.record === record ? [index] : []
					)
				])
			)
		};
	});
}

/**
 * Which slots the dumps are of that do not say so, by their number among `messages`.
 * @param numbers of these in the file
 * @throws Problem `file.no-slot`, `file.slot-twice`, `file.slot-named`
 */
export function placesOf(
	profile: Profile,
	dump: Dump,
	{ name, places = [], slot: label }: PlaceOrder,
	numbers: readonly number[]
): { message: number; slot: number }[] {
	const taken = new Set(dump.slots.map(({ area, index }) => `${area} ${index}`));
	const loose = looseDumps(profile, dump);
	if (loose.length === 0 && (label !== undefined || places.length > 0))
		throw new Problem(
			'file.slot-named',
			`The dumps of “${name}” say themselves which slots they are of.`,
			'Keep it without saying one.'
		);
	return loose.map(({ message, area }) => {
		const described = areaOf(profile, area);
		const { slots, slotWord } = described;
		const slot =
			label === undefined
				? places.find((place) => place.message === numbers[message])?.slot
				: areaLabels(described).indexOf(label);
		if (slot === undefined || slot < 0 || slot >= slots)
			throw new Problem(
				'file.no-slot',
				`Message ${numbers[message] + 1} of “${name}” is a ${slotWord}, and does not say which.`,
				`Say which ${slotWord} it is of. Nothing was stored.`,
				{ index: numbers[message] }
			);
		const key = `${area} ${slot}`;
		if (taken.has(key))
			throw new Problem(
				'file.slot-twice',
				`Two dumps of “${name}” are said to be of ${areaLabels(described)[slot]}.`,
				'A version holds one of each. Nothing was stored.'
			);
		taken.add(key);
		return { message, slot };
	});
}
