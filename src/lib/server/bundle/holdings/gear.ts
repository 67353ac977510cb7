import { z } from 'zod';
import { liveWorldSchema, settingsSchema, showSetting } from '../../../core/drawer';
import { wiringSchema } from '../../../core/rig';
import { updateDeviceRow, devicesInOrder } from '../../store/devices';
import { verdictSchema } from '../../midi-ports';
import type { Holding } from '../holding';
import { id, when } from '../pieces';
import { tableHolding } from '../tables';

const furtherSchema = z.strictObject({
	id,
	archivedAt: when.nullable(),
	remindDays: z.number().int().min(1).max(3650).nullable(),
	settings: settingsSchema.nullable(),
	wiring: wiringSchema.extend({ channels: z.array(z.number().int().min(1).max(16)).optional() }).nullable()
});
type Further = z.infer<typeof furtherSchema>;

const FIELDS = [
	{ field: 'archivedAt', what: 'archived', content: (row: Further) => row.archivedAt !== null },
	{
		field: 'remindDays',
		what: 'days after which a backup is due',
		content: (row: Further) => row.remindDays
	},
	{ field: 'settings', what: 'settings that no dump holds', content: (row: Further) => row.settings ?? [] }
] as const;

function words(field: (typeof FIELDS)[number]['field'], row: Further): string {
	if (field === 'archivedAt') return row.archivedAt === null ? 'no' : 'yes';
	if (field === 'remindDays') return row.remindDays === null ? 'by its risk' : String(row.remindDays);
	return (
		(row.settings ?? []).map((setting) => `${setting.label} ${showSetting(setting)}`).join(', ') || 'none'
	);
}

/** What is noted of devices besides the facts of the catalogue, which stand beside their versions. */
export const furtherFacts: Holding<Further> = {
	name: 'devices',
	title: 'Further facts of devices',
	tables: ['devices'],
	schema: furtherSchema,
	rows: async ({ studio }) =>
		(await devicesInOrder(studio, true)).map(({ id, archivedAt, remindDays, settings, wiring }) => ({
			id,
			archivedAt,
			remindDays: remindDays ?? null,
			settings,
			wiring
		})),
	async take(taking, rows) {
		const { studio, transaction, devices, added } = taking;
		const here = new Map((await devicesInOrder(studio, true, transaction)).map((row) => [row.id, row]));
		let taken = 0;
		for (const { id, ...there } of rows) {
			if (!devices.has(id)) continue;
			if (added.has(id)) {
				await updateDeviceRow(
					studio,
					id,
					there.archivedAt === null ? there : { ...there, benchUnit: null },
					transaction
				);
				continue;
			}
			const { name, archivedAt, remindDays = null, settings, wiring } = here.get(id)!;
			const mine: Further = { id, archivedAt, remindDays, settings, wiring };
			for (const { field, what, content } of FIELDS) {
				const contents = { here: content(mine), there: content({ id, ...there }) };
				if (JSON.stringify(contents.here) === JSON.stringify(contents.there)) continue;
				const difference = {
					what: `${name}: ${what}`,
					here: words(field, mine),
					there: words(field, { id, ...there })
				};
				if (!taking.takes(difference, contents)) continue;
				await updateDeviceRow(studio, id, { [field]: there[field] }, transaction);
				taken++;
			}
		}
		return taken;
	}
};

export const contacts = tableHolding(
	{
		table: 'contacts',
		columns: ['deviceId', 'world', 'at', 'how', 'out', 'back', 'outName', 'inName', 'wireId', 'firmware'],
		key: ['deviceId', 'world'],
		jsons: [],
		schema: z.strictObject({
			deviceId: id,
			world: liveWorldSchema,
			at: when,
			how: z.enum(['identity', 'dump']),
			out: z.string().nullable(),
			back: z.string().nullable(),
			outName: z.string(),
			inName: z.string(),
			wireId: z.number().int().min(0).max(127).nullable(),
			firmware: z.string().nullable()
		})
	},
	{
		name: 'contacts',
		title: 'When devices were last heard',
		rule: { by: 'later', at: (row) => row.at },
		fit: (row, { devices }) => (devices.has(row.deviceId) ? row : null)
	}
);

export const ports = tableHolding(
	{
		table: 'midi_ports',
		columns: ['key', 'direction', 'portId', 'name', 'manufacturer', 'seenAt'],
		key: ['key', 'direction'],
		jsons: [],
		schema: z.strictObject({
			key: id,
			direction: z.enum(['in', 'out']),
			portId: z.string().max(400),
			name: z.string().max(400),
			manufacturer: z.string().max(400),
			seenAt: when
		})
	},
	// Which port is which is a matter of each computer.
	{ name: 'ports', title: 'Ports of the computer', rule: { by: 'here' } }
);

export const adapterTests = tableHolding(
	{
		table: 'adapter_tests',
		columns: ['key', 'verdict', 'testedAt'],
		key: ['key'],
		jsons: ['verdict'],
		schema: z.strictObject({ key: id, verdict: verdictSchema, testedAt: when })
	},
	{ name: 'adapter-tests', title: 'Tests of adapters', rule: { by: 'later', at: (row) => row.testedAt } }
);
