import { fromHex } from '../../midi';
import { isCarrier } from '../carrier';
import type { Profile } from '../schema';
import { suitsVersion } from '../variant';
import type { Fault } from './fault';

/** What a variant says that it is told by, and what becomes of the sounds of others. */
export function variantFaults(profile: Profile): Fault[] {
	const { variant } = profile;
	if (!variant) return [];
	const faults: Fault[] = [];
	const { from, before, tells, takes = [], fresh = {} } = variant;
	if (from !== undefined && !suitsVersion(profile, fromHex(from)))
		faults.push({ path: ['variant', 'before'], says: `no version from ${from} on is before ${before}` });
	if ((from !== undefined || before !== undefined) && !profile.identity.answers)
		faults.push({ path: ['variant'], says: 'it answers no identity request: no version is read' });
	for (const field of ['ask', 'says'] as const) {
		const message = tells && profile.messages[tells[field]];
		if (tells && !message)
			faults.push({ path: ['variant', 'tells', field], says: `there is no message “${tells[field]}”` });
		if (message?.parts.some(isCarrier))
			faults.push({ path: ['variant', 'tells', field], says: `“${tells![field]}” carries memory` });
	}
	const parameters = new Map(
		Object.values(profile.records).flatMap((record) => record.parameters.map((each) => [each.id, each]))
	);
	const texts = new Set(Object.values(profile.records).flatMap((record) => record.texts.map(({ id }) => id)));
	takes.forEach(({ from: other, areas = {}, fields = {} }, i) => {
		if (other === profile.id)
			faults.push({ path: ['variant', 'takes', i, 'from'], says: 'this is the profile itself' });
		for (const id of Object.keys(areas))
			if (!profile.areas.some((area) => area.id === id))
				faults.push({ path: ['variant', 'takes', i, 'areas', id], says: `there is no area “${id}”` });
		for (const id of Object.keys(fields))
			if (!parameters.has(id) && !texts.has(id))
				faults.push({
					path: ['variant', 'takes', i, 'fields', id],
					says: `there is no parameter or text “${id}”`
				});
	});
	for (const [id, value] of Object.entries(fresh)) {
		const range = parameters.get(id)?.range;
		if (!range) faults.push({ path: ['variant', 'fresh', id], says: `there is no parameter “${id}”` });
		else if (value < range[0] || value > range[1])
			faults.push({ path: ['variant', 'fresh', id], says: `it takes ${range[0]} to ${range[1]}` });
	}
	return faults;
}
