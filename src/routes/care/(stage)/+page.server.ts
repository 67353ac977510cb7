import { readRetention } from '$lib/server/keeping';
import { readRiskSettings } from '$lib/server/reminders';

export async function load({ locals }) {
	const rows = await locals.today();
	return {
		retention: await readRetention(locals.studio),
		risk: await readRiskSettings(locals.studio),
		devices: rows
			.filter(({ hasMemory }) => hasMemory)
			.map(({ device, risk, lastVerifiedAt, readable }) => ({
				id: device.id,
				name: device.name,
				remindDays: device.remindDays,
				points: risk.points,
				says: risk.parts[0]?.says ?? 'Nothing counts against it',
				lastVerifiedAt,
				readable
			}))
	};
}
