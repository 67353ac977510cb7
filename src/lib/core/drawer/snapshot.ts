import { z } from 'zod';

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
