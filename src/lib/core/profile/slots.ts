import { Problem } from '../problem';
import type { Profile, ProfileArea, SlotLabels } from './schema';

/** The label of slot `index` (from 0), as the device's own panel shows it. */
export function slotLabel(labels: SlotLabels, index: number): string {
	switch (labels.style) {
		case 'number':
			return labels.prefix + String(labels.first + index).padStart(labels.digits, '0');
		case 'list':
			return labels.labels[index] ?? String(index);
		case 'grid': {
			let rest = index;
			let text = '';
			for (const place of labels.places.toReversed()) {
				text = place[rest % place.length] + text;
				rest = Math.floor(rest / place.length);
			}
			return text;
		}
	}
}

/** The area of that id. @throws Problem `profile.no-area` */
export function areaOf(profile: Profile, id: string): ProfileArea {
	const area = profile.areas.find((candidate) => candidate.id === id);
	if (!area)
		throw new Problem(
			'profile.no-area',
			`A ${profile.model} has no memory area “${id}”.`,
			`It has: ${profile.areas.map((a) => a.id).join(', ')}.`
		);
	return area;
}

/** All labels of an area, first slot first. */
export const areaLabels = (area: ProfileArea): string[] =>
	Array.from({ length: area.slots }, (_, i) => slotLabel(area.labels, i));
