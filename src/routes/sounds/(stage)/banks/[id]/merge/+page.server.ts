import { recordChange } from '$lib/core/drawer';
import { orError } from '$lib/server/answer';
import { mergeBank } from '$lib/server/merging';

export async function load({ locals, params }) {
	const { bank, profile, deviceState, readAt, slots } = await orError(mergeBank(locals.studio, params.id));
	const side = (slot: (typeof slots)[number], which: 'base' | 'device' | 'drawer' | 'combined') => {
		const found = slot[which];
		if (!found) return null;
		return {
			name: found.name,
			change:
				slot.base && which !== 'base' ? recordChange(profile, slot.area, slot.base.bytes, found.bytes) : null
		};
	};
	return {
		bank: { id: bank.id, title: bank.document.title, revision: bank.revision },
		deviceState,
		readAt,
		slots: slots
			.filter(({ state }) => state !== 'same')
			.map((slot) => ({
				index: slot.index,
				label: slot.label,
				state: slot.state,
				choice: slot.choice,
				base: side(slot, 'base'),
				device: side(slot, 'device'),
				drawer: side(slot, 'drawer'),
				combined: side(slot, 'combined')
			})),
		same: slots.filter(({ state }) => state === 'same').length
	};
}
