import { batteryChanged, dueBy, riskOf, updatePlanned, type Risk } from '../core/care';
import {
	nothingKnown,
	readingLine,
	standingOf,
	tornBy,
	type DeviceStanding,
	type World
} from '../core/drawer';
import type { Device } from '../core/gear';
import type { Studio } from './db/connection';
import { listDevices } from './gear';
import { readableSlots } from './knowing';
import { localDay } from './local-time';
import { updatingDevices } from './procedure-runs';
import { knownProfiles } from './profiles';
import { readRiskSettings } from './reminders';
import { serviceDocument } from './service-book';
import { readStandings } from './store/knowledge';
import { transferRow } from './store/transfers';
import { countVersions, openQuestions } from './store/versions';
import { settle } from './transfers';
import { unfinishedCaptures } from './unfinished';

const YEAR_MS = 365.25 * 86_400_000;

export interface DeviceToday {
	device: Device;
	risk: Risk;
	/** Whether it holds sounds that the app can keep. */
	hasMemory: boolean;
	readable: boolean;
	versions: number;
	known: DeviceStanding;
	/** When its weakest slot was proved; null where one never was, or was written since. */
	lastVerifiedAt: string | null;
	unfinishedId: string | null;
	/** The run by which a new system is being sent, or was and it broke off. */
	runId: string | null;
	/** The backup that asks to be looked at. */
	questionId: string | null;
	/** The one thing that matters now, for its drawer front. */
	line: string;
	state: 'verified' | 'attention' | 'danger' | 'quiet';
}

/** What there is of a device from other worlds than the studio's own, in words. */
function elsewhere(own: World, counts: ReadonlyMap<string, number>): string {
	const words = {
		bench: 'only on the bench',
		hardware: 'only over real ports',
		file: 'only files are kept',
		unrecorded: 'only before the app noted bench or hardware'
	};
	const there = (Object.keys(words) as World[]).filter((world) => world !== own && counts.has(world));
	return there.map((world) => words[world]).join(', ');
}

/** Which of these transfers go on at this moment. */
async function runningOf(studio: Studio, ids: readonly string[]): Promise<Set<string>> {
	const running = new Set<string>();
	for (const id of new Set(ids)) {
		const row = await transferRow(studio, id);
		if (row && settle(studio, row).status === 'running') running.add(id);
	}
	return running;
}

/** Every device with its risk, riskiest first. */
export async function today(studio: Studio): Promise<DeviceToday[]> {
	const [devices, counts, open, settings, standings, questions, book, updating] = await Promise.all([
		listDevices(studio),
		countVersions(studio),
		unfinishedCaptures(studio),
		readRiskSettings(studio),
		readStandings(studio, studio.world),
		openQuestions(studio, studio.world),
		serviceDocument(studio),
		updatingDevices(studio)
	]);
	const running = await runningOf(
		studio,
		[...standings.values()].flatMap((each) => [...tornBy(each).keys()])
	);
	const profiles = new Map(knownProfiles(studio).map((profile) => [profile.id, profile]));
	const now = studio.now().getTime();
	const day = localDay(now);
	const overdue = dueBy(book, day, -1);
	return devices
		.map((device): DeviceToday => {
			const profile = device.profileId ? profiles.get(device.profileId) : undefined;
			const own = counts.get(device.id) ?? new Map<string, number>();
			const versions = [...own.values()].reduce((sum, n) => sum + n, 0);
			const unfinished = open.find(({ deviceId, world }) => deviceId === device.id && world === studio.world);
			const readable = (profile?.capture.length ?? 0) > 0;
			const standing = standingOf(
				standings.get(device.id) ?? nothingKnown,
				profile ? readableSlots(profile) : versions > 0 ? readableSlots(null) : []
			);
			// A restore that goes on has not broken off.
			const known = {
				...standing,
				torn: standing.torn.filter(({ transferId }) => !running.has(transferId))
			};
			const lastVerifiedAt = known.weakestAt;
			// Whatever was read after it has answered the question.
			const question = questions.find(
				({ deviceId, takenAt }) =>
					deviceId === device.id && (lastVerifiedAt === null || lastVerifiedAt < takenAt)
			);
			// The newer of what the catalogue and the service book say.
			const fitted = [device.batteryFitted, batteryChanged(book, device.id) ?? ''].sort().at(-1)!;
			const late = overdue.filter((each) => each.device === device.id);
			const planned = updatePlanned(book, device.id, day);
			const risk = riskOf(
				{
					readable,
					hasMemory: profile !== undefined,
					versions: own.get(studio.world) ?? 0,
					elsewhere: elsewhere(studio.world, own),
					keptElsewhere: own.has('file') || own.has('unrecorded'),
					known,
					unfinished: unfinished ? { id: unfinished.id, got: unfinished.received } : null,
					question: question ? { versionId: question.id, says: question.question } : null,
					battery:
						fitted && device.batteryYears
							? {
									ageYears: (now - Date.parse(fitted)) / YEAR_MS,
									lifeYears: device.batteryYears
								}
							: null,
					remindDays: device.remindDays ?? null,
					updating: updating.get(device.id) ?? null,
					updatePlanned: planned && `${planned.says}, planned for ${planned.on}`,
					overdue: late.length > 0 ? { count: late.length, says: late[0].says } : null,
					losesSounds:
						book.faults.find(
							(fault) => fault.device === device.id && fault.losesSounds && fault.mended === null
						)?.says ?? null
				},
				now,
				settings
			);
			const worst = risk.parts[0];
			const heavy = worst !== undefined && worst.points >= 15;
			return {
				device,
				risk,
				readable,
				hasMemory: profile !== undefined,
				versions,
				known,
				lastVerifiedAt,
				unfinishedId: unfinished?.id ?? null,
				runId: updating.get(device.id)?.runId ?? null,
				questionId: question?.id ?? null,
				line:
					worst?.says ??
					(lastVerifiedAt
						? readingLine(known, now)
						: profile
							? `${versions} kept; it cannot be read`
							: device.kind || 'No memory kept'),
				state:
					!profile && !heavy
						? 'quiet'
						: risk.points >= 60
							? 'danger'
							: heavy
								? 'attention'
								: lastVerifiedAt
									? 'verified'
									: 'quiet'
			};
		})
		.sort((a, b) => b.risk.points - a.risk.points || a.device.name.localeCompare(b.device.name));
}
