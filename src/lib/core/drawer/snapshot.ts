import { z } from 'zod';
import type { SlotState } from './compare';
import type { World } from './knowledge';

/** A setting that no dump holds, as the musician wrote it down. */
export const settingSchema = z.discriminatedUnion('type', [
	z.strictObject({
		type: z.literal('number'),
		label: z.string().trim().min(1).max(40),
		unit: z.string().trim().max(10).default(''),
		value: z.number().nullable()
	}),
	z.strictObject({
		type: z.literal('switch'),
		label: z.string().trim().min(1).max(40),
		value: z.boolean().nullable()
	}),
	z.strictObject({
		type: z.literal('text'),
		label: z.string().trim().min(1).max(40),
		value: z.string().trim().max(120).nullable()
	})
]);
export const settingsSchema = z.array(settingSchema).max(40);

export type Setting = z.infer<typeof settingSchema>;

/** A setting as people read it. */
export function showSetting(setting: Setting): string {
	if (setting.value === null) return 'not noted';
	if (setting.type === 'switch') return setting.value ? 'on' : 'off';
	if (setting.type === 'number')
		return `${String(setting.value).replace('-', '\u2212')}${setting.unit ? `\u00a0${setting.unit}` : ''}`;
	return setting.value;
}

export interface SettingChange {
	label: string;
	from: string;
	to: string;
}

/** Settings that differ between two moments, by label. */
export function changedSettings(before: readonly Setting[], after: readonly Setting[]): SettingChange[] {
	const old = new Map(before.map((setting) => [setting.label, showSetting(setting)]));
	const now = new Map(after.map((setting) => [setting.label, showSetting(setting)]));
	return [...new Set([...old.keys(), ...now.keys()])]
		.map((label) => ({ label, from: old.get(label) ?? 'not noted', to: now.get(label) ?? 'not noted' }))
		.filter(({ from, to }) => from !== to);
}

/** A state of the whole studio. */
export interface Snapshot {
	id: string;
	title: string;
	note: string;
	takenAt: string;
	status: 'running' | 'ended';
	/** Where its devices were read. */
	world: World;
	predictedMs: number;
	tookMs: number | null;
}

export type SnapshotStatus = 'waiting' | 'kept' | 'failed' | 'last known' | 'left out';

export interface SnapshotItem {
	snapshotId: string;
	deviceId: string;
	device: string;
	place: string;
	versionId: string | null;
	status: SnapshotStatus;
	/** Why it failed or was left out. */
	says: string;
	settings: Setting[];
	predictedMs: number | null;
	tookMs: number | null;
}

/** What became of one device between two snapshots. */
export interface DeviceDifference {
	deviceId: string;
	device: string;
	before: string | null;
	after: string | null;
	/** Slots by what happened to them; null where the two cannot be compared by slots. */
	states: Partial<Record<SlotState | 'gone', number>> | null;
	/** Whether anything differs at all; null where one side has nothing. */
	same: boolean | null;
	names: string[];
	settings: SettingChange[];
}
