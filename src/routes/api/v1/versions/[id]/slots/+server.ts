import { toHex } from '$lib/core/midi';
import { answer } from '$lib/server/answer';
import { openVersion } from '$lib/server/drawer';

export const GET = ({ locals, params }) =>
	answer(async () => {
		const { slots } = await openVersion(locals.studio, params.id);
		return slots.map(({ area, index, label, name, bytes }) => ({
			area,
			index,
			label,
			name,
			hex: toHex(bytes)
		}));
	});
