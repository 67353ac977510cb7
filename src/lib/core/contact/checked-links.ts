import { keepLinks, type MeantBy, type MovedLink, type RestoreSource } from '../drawer';
import { areaOf, slotLabel, type Profile, type Slot } from '../profile';
import type { CheckedLink, CheckedLinks } from './checked';

/**
 * Who names what a restore moves, in words of the panel, and whose names are not known.
 * @param known what the device is known to hold
 */
export function checkedLinks(
	profile: Profile,
	known: readonly Slot[],
	{ slots, meant }: { slots: readonly Slot[]; meant: MeantBy },
	wish: RestoreSource['links']
): CheckedLinks {
	const label = (area: string, index: number) => slotLabel(areaOf(profile, area).labels, index);
	const words = ({ area, index, name, to, slot, moved, why }: MovedLink): CheckedLink => ({
		word: areaOf(profile, area).slotWord,
		slot: label(area, index),
		name,
		names: label(to, slot),
		then: moved === null ? null : label(to, moved),
		why
	});
	const kept = keepLinks(profile, known, slots, { meant });
	const brought = keepLinks(profile, known, slots, { meant, bring: true });
	const { pointed, lost } = wish === 'bring' ? brought : kept;
	const moved = new Set(kept.wanted.map(({ area }) => area));
	const unseen = profile.areas
		.filter(({ record }) => profile.records[record].references?.some(({ to }) => moved.has(to)))
		.map(({ id, slotWord, slots: of }) => {
			const seen = [...known, ...kept.wanted].filter(({ area }) => area === id);
			return { word: slotWord, slots: of - new Set(seen.map(({ index }) => index)).size, of };
		});
	return {
		pointed: pointed.map(words),
		lost: lost.map(words),
		brought: brought.brought.map(({ area, index, name }) => ({
			word: areaOf(profile, area).slotWord,
			name,
			to: label(area, index)
		})),
		unseen: unseen.filter(({ slots: left }) => left > 0)
	};
}
