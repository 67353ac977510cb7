import { QueryTypes } from 'sequelize';
import { riskOf, type Risk } from '../core/care';
import type { Device } from '../core/gear';
import type { Studio } from './db/connection';
import { listDevices } from './gear';
import { knownProfiles } from './profiles';
import { readRiskSettings } from './reminders';
import { unfinishedCaptures } from './unfinished';

const DAY_MS = 86_400_000;

export interface DeviceToday {
	device: Device;
	risk: Risk;
	/** Whether it holds sounds that the app can keep. */
	hasMemory: boolean;
	readable: boolean;
	versions: number;
	lastVerifiedAt: string | null;
	unfinishedId: string | null;
	/** The one thing that matters now, for its drawer front. */
	line: string;
	state: 'verified' | 'attention' | 'danger' | 'quiet';
}

interface Totals {
	deviceId: string;
	versions: number;
	lastVerifiedAt: string | null;
	imported: number;
}

/** Every device with its risk, riskiest first. */
export async function today(studio: Studio): Promise<DeviceToday[]> {
	const [devices, totals, open, settings] = await Promise.all([
		listDevices(studio),
		studio.sequelize.query<Totals>(
			`SELECT deviceId, COUNT(*) AS versions, MAX(CASE WHEN verified = 1 AND missing = 0 THEN takenAt END) AS lastVerifiedAt, SUM(kind = 'imported') AS imported
			 FROM versions GROUP BY deviceId`,
			{ type: QueryTypes.SELECT }
		),
		unfinishedCaptures(studio),
		readRiskSettings(studio)
	]);
	const profiles = new Map(knownProfiles(studio).map((profile) => [profile.id, profile]));
	const byDevice = new Map(totals.map((row) => [row.deviceId, row]));
	const now = studio.now().getTime();
	return devices
		.map((device): DeviceToday => {
			const profile = device.profileId ? profiles.get(device.profileId) : undefined;
			const total = byDevice.get(device.id);
			const unfinished = open.find((transfer) => transfer.deviceId === device.id);
			const readable = (profile?.capture.length ?? 0) > 0;
			const lastVerifiedAt = total?.lastVerifiedAt ?? null;
			const risk = riskOf(
				{
					readable,
					hasMemory: profile !== undefined,
					versions: total?.versions ?? 0,
					lastVerifiedDays: lastVerifiedAt ? (now - Date.parse(lastVerifiedAt)) / DAY_MS : null,
					changedSince: device.touchedAt !== null,
					unfinished: unfinished ? { id: unfinished.id, got: unfinished.received } : null,
					battery:
						device.batteryFitted && device.batteryYears
							? {
									ageYears: (now - Date.parse(device.batteryFitted)) / (365.25 * DAY_MS),
									lifeYears: device.batteryYears
								}
							: null,
					remindDays: device.remindDays ?? null
				},
				settings
			);
			const worst = risk.parts[0];
			const heavy = worst !== undefined && worst.points >= 15;
			return {
				device,
				risk,
				readable,
				hasMemory: profile !== undefined,
				versions: total?.versions ?? 0,
				lastVerifiedAt,
				unfinishedId: unfinished?.id ?? null,
				line:
					worst?.says ??
					(lastVerifiedAt
						? 'Verified today'
						: profile
							? `${total?.versions ?? 0} kept, sent only`
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
