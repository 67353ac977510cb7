import { AGE_FULL_DAYS, FRESH_DAYS, RISK_WEIGHTS } from '$lib/core/care';
import { dueSoon } from '$lib/server/service-book';
import { listTransfers } from '$lib/server/transfers';

export async function load({ locals }) {
	const [rows, recent, due] = await Promise.all([
		locals.today(),
		listTransfers(locals.studio, { limit: 7 }),
		dueSoon(locals.studio)
	]);
	return {
		rows: rows
			.filter(({ risk, hasMemory }) => risk.points > 0 || hasMemory)
			.map(
				({
					device,
					risk,
					state,
					lastVerifiedAt,
					unfinishedId,
					questionId,
					runId,
					known,
					versions,
					readable
				}) => ({
					id: device.id,
					name: device.name,
					model: `${device.maker} ${device.model}`.trim(),
					risk,
					state,
					lastVerifiedAt,
					unfinishedId,
					questionId,
					runId,
					tornId: known.torn[0]?.transferId ?? null,
					versions,
					readable
				})
			),
		recent: recent.map(({ id, deviceId, direction, status, reason, startedAt, title, world }) => ({
			id,
			world,
			direction,
			status,
			reason,
			startedAt,
			title,
			device: rows.find(({ device }) => device.id === deviceId)?.device.name ?? 'archived device'
		})),
		// What is archived is nobody's work any more.
		due: due.flatMap(({ id, device, on, says, days }) => {
			const name = rows.find((row) => row.device.id === device)?.device.name;
			return name === undefined ? [] : [{ id, device, on, says, days, name }];
		}),
		weights: RISK_WEIGHTS,
		ageFullDays: AGE_FULL_DAYS,
		freshDays: FRESH_DAYS,
		empty: rows.length === 0
	};
}
