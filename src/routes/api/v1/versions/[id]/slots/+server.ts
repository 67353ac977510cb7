import { toHex } from '$lib/core/midi';
import { answer } from '$lib/server/answer';
import { hashOf } from '$lib/server/hash';
import { openVersion } from '$lib/server/drawer';

export const GET = ({ locals, params }) =>
	answer(async () => {
		const { slots } = await openVersion(locals.studio, params.id);
		return slots.map(({ area, index, label, name, bytes }) => ({
			area,
			index,
			label,
			name,
			hex: toHex(bytes),
			record: hashOf(bytes)
		}));
	});
