import { z } from 'zod';
import { judgeVersions, retentionSchema, type KeepingPreview, type Retention } from '../core/drawer';
import type { Studio } from './db/connection';
import { letOthersIn } from './in-steps';
import { localMonth, localWeek } from './local-time';
import { deviceNames } from './store/devices';
import { toTime } from './store/sql';
import { consequences, letGo, neededVersions, versionsToJudge } from './store/retention';
import { readFact, writeFact } from './store/facts';

/** The rules, and the versions that were shown as going: only these go. */
export const applyRetentionSchema = z.object({
	rules: retentionSchema,
	versions: z.array(z.string()).max(100_000)
});

export const readRetention = (studio: Studio): Promise<Retention> =>
	readFact(studio, 'retention', retentionSchema);

export async function writeRetention(studio: Studio, rules: Retention): Promise<Retention> {
	const parsed = retentionSchema.parse(rules);
	await writeFact(studio, 'retention', parsed);
	return parsed;
}

/** What the rules would let go, without what that would free. */
async function judge(studio: Studio, rules: Retention): Promise<Pick<KeepingPreview, 'going' | 'staying'>> {
	const needed = await neededVersions(studio);
	const now = studio.now().getTime();
	const devices = await deviceNames(studio);
	const going: KeepingPreview['going'] = [];
	let all = 0;
	for await (const versions of versionsToJudge(studio)) {
		all += versions.length;
		const aged = versions.map((version) => ({
			...version,
			takenAt: toTime(version.takenMs),
			week: localWeek(version.takenMs),
			month: localMonth(version.takenMs)
		}));
		const byId = new Map(aged.map((version) => [version.id, version]));
		for (const judged of judgeVersions(aged, rules, now, needed)) {
			if (judged.keep) continue;
			const { deviceId, takenAt, title, bytes } = byId.get(judged.id)!;
			going.push({ ...judged, deviceId, device: devices.get(deviceId)?.name ?? '', takenAt, title, bytes });
		}
		await letOthersIn();
	}
	return { going, staying: all - going.length };
}

/** What the rules would let go, and what that would free. Nothing is changed, and nobody waits for it. */
export async function previewRetention(studio: Studio, rules: Retention): Promise<KeepingPreview> {
	const parsed = retentionSchema.parse(rules);
	const { going, staying } = await judge(studio, parsed);
	const { freedBytes, soundsLost } = await consequences(
		studio,
		going.map(({ id }) => id)
	);
	return { rules: parsed, going, staying, freedBytes, soundsLost };
}

/**
 * Lets versions go that the rules judge so. Stays in slots that began with them are told of the next version that
 * remains and holds that slot, where there is one; the sounds themselves stay in the store of sounds, so that banks
 * and searches find them.
 * @returns how many went, and how much room that made
 */
export async function applyRetention(
	studio: Studio,
	rules: Retention,
	expected: readonly string[]
): Promise<{ gone: number; freedBytes: number }> {
	const shown = new Set(expected);
	// Only what was shown goes: what was taken in the meantime is judged the next time.
	const ids = (await judge(studio, retentionSchema.parse(rules))).going
		.map(({ id }) => id)
		.filter((id) => shown.has(id));
	if (ids.length === 0) return { gone: 0, freedBytes: 0 };
	return { gone: ids.length, freedBytes: await letGo(studio, ids) };
}
