import { targetOf } from '$lib/core/transfer';
import { storedLine } from '$lib/server/contact';
import { listDevices } from '$lib/server/gear';
import { profileOrNull } from '$lib/server/profiles';
import { currentSwitching, getPowerOn, listSwitchings } from '$lib/server/switching';

export async function load({ locals }) {
	const [list, current, past, devices] = await Promise.all([
		getPowerOn(locals.studio),
		currentSwitching(locals.studio),
		listSwitchings(locals.studio, 6),
		listDevices(locals.studio)
	]);
	// Only what is asked or sent to needs its line.
	const wanted = new Set(
		(current?.run.items ?? [])
			.filter(({ askable, messages }) => askable || messages.length > 0)
			.map(({ device }) => device)
	);
	const reach = await Promise.all(
		devices
			.filter(({ id }) => wanted.has(id))
			.map(async (device) => {
				const profile = profileOrNull(locals.studio, device.profileId);
				const line = await storedLine(locals.studio, device, profile);
				return [
					device.id,
					{
						line,
						profile,
						target: targetOf(device, profile),
						ends: {
							name: device.name,
							unit: device.benchUnit,
							out: line.way?.out ?? null,
							in: line.way?.in ?? null
						}
					}
				] as const;
			})
	);
	return {
		list,
		current,
		reach: Object.fromEntries(reach),
		past: past
			.filter(({ over }) => over !== null)
			.map(({ id, run, begunAt, endedAt, over, done }) => ({
				id,
				way: run.way,
				begunAt,
				endedAt,
				over,
				items: run.items.length,
				ticked: Object.keys(done).length
			}))
	};
}
