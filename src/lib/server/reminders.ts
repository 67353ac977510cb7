import { z } from 'zod';
import { riskSettingsSchema, type RiskSettings } from '../core/care';
import type { Studio } from './db/connection';
import { getDevice } from './gear';
import { updateDeviceRow } from './store/devices';
import { readFact, writeFact } from './store/facts';

export const reminderSchema = z.object({ days: z.number().int().min(1).max(3650).nullable() });

/** After how many days a backup of this device is due; null leaves it to the risk. */
export async function setReminder(studio: Studio, deviceId: string, days: number | null): Promise<void> {
	await getDevice(studio, deviceId);
	await studio.write((transaction) => updateDeviceRow(studio, deviceId, { remindDays: days }, transaction));
}

export const readRiskSettings = (studio: Studio): Promise<RiskSettings> =>
	readFact(studio, 'risk', riskSettingsSchema);

export async function writeRiskSettings(studio: Studio, settings: RiskSettings): Promise<RiskSettings> {
	await writeFact(studio, 'risk', riskSettingsSchema.parse(settings));
	return readRiskSettings(studio);
}
