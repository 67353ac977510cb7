import type { CheckedLink, CheckedLinks } from '../core/contact';
import type { LiveWorld, MovedLink, RestoreSource } from '../core/drawer';
import type { Device } from '../core/gear';
import { areaOf, slotLabel, type Profile } from '../core/profile';
import type { Studio } from './db/connection';
import { heldBy, linksOfSource } from './wanted';

/** Who names what a restore moves, in words of the panel, and whose names are not known. */
export async function checkedLinks(
	studio: Studio,
	device: Device,
	profile: Profile,
	source: RestoreSource,
	world: LiveWorld
): Promise<CheckedLinks> {
	const label = (area: string, index: number) => slotLabel(areaOf(profile, area).labels, index);
	const words = ({ area, index, name, to, slot, moved, why }: MovedLink): CheckedLink => ({
		word: areaOf(profile, area).slotWord,
		slot: label(area, index),
		name,
		names: label(to, slot),
		then: moved === null ? null : label(to, moved),
		why
	});
	const kept = await linksOfSource(studio, device, profile, source, world);
	const brought = await linksOfSource(studio, device, profile, source, world, true);
	const { pointed, lost } = source.links === 'bring' ? brought : kept;
	const known = await heldBy(studio, device, profile, world);
	const moved = new Set(kept.wanted.map(({ area }) => area));
	const unseen = profile.areas
		.filter(({ record }) => profile.records[record].references?.some(({ to }) => moved.has(to)))
		.map(({ id, slotWord, slots }) => {
			const seen = [...known, ...kept.wanted].filter(({ area }) => area === id);
			return { word: slotWord, slots: slots - new Set(seen.map(({ index }) => index)).size, of: slots };
		});
	return {
		pointed: pointed.map(words),
		lost: lost.map(words),
		brought: brought.brought.map(({ area, index, name }) => ({
			word: areaOf(profile, area).slotWord,
			name,
			to: label(area, index)
		})),
		unseen: unseen.filter(({ slots }) => slots > 0)
	};
}
