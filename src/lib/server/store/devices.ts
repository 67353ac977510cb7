import type { Transaction } from 'sequelize';
import type { Device } from '../../core/gear';
import type { Studio } from '../db/connection';
import { plain, type DeviceRow } from '../db/models';
import { all, one, parsed, run } from './sql';

type Stored = Omit<DeviceRow, 'ports' | 'wiring' | 'settings'> & {
	ports: string;
	wiring: string | null;
	settings: string | null;
};

/** All devices, by place and name; archived ones only when asked for. Plain rows: there may be hundreds. */
export async function devicesInOrder(
	studio: Studio,
	archived: boolean,
	transaction?: Transaction
): Promise<DeviceRow[]> {
	const rows = await all<Stored>(
		studio,
		`SELECT * FROM devices ${archived ? '' : 'WHERE archivedAt IS NULL'} ORDER BY place, name`,
		[],
		transaction
	);
	return rows.map(
		({ ports, wiring, settings, ...row }) =>
			({
				...row,
				ports: parsed(ports),
				wiring: parsed(wiring),
				settings: parsed(settings)
			}) as DeviceRow
	);
}

/** What every device is called and where it stands, by id: also of those that are archived. */
export async function deviceNames(studio: Studio): Promise<Map<string, { name: string; place: string }>> {
	const rows = await all<{ id: string; name: string; place: string }>(
		studio,
		'SELECT id, name, place FROM devices'
	);
	return new Map(rows.map(({ id, ...row }) => [id, row]));
}

export async function deviceRow(
	studio: Studio,
	id: string,
	transaction?: Transaction
): Promise<DeviceRow | null> {
	const row = await studio.models.devices.findByPk(id, { transaction });
	return row ? plain(row) : null;
}

export async function insertDevice(
	studio: Studio,
	row: Partial<DeviceRow>,
	transaction: Transaction
): Promise<Device> {
	return plain(await studio.models.devices.create(row, { transaction }));
}

/** Changes a device; tells how many there were of that id. */
export async function updateDeviceRow(
	studio: Studio,
	id: string,
	values: Partial<DeviceRow>,
	transaction: Transaction
): Promise<number> {
	const [changed] = await studio.models.devices.update(values, { where: { id }, transaction });
	return changed;
}

/** The units of the bench that devices are plugged in to, each with its device. */
export async function pluggedDevices(
	studio: Studio,
	transaction?: Transaction
): Promise<{ id: string; benchUnit: string }[]> {
	return all(studio, 'SELECT id, benchUnit FROM devices WHERE benchUnit IS NOT NULL', [], transaction);
}

/**
 * Removes a device of which nothing is kept: no version, no transfer, no bank, no place in a snapshot. Its cables and
 * contacts go with it. @returns whether it could be
 */
export async function removeBlankDevice(
	studio: Studio,
	id: string,
	transaction: Transaction
): Promise<boolean> {
	const kept = await one<{ n: number }>(
		studio,
		`SELECT (SELECT COUNT(*) FROM versions WHERE device = (SELECT id FROM words WHERE text = ?1))
			+ (SELECT COUNT(*) FROM transfers WHERE device = (SELECT id FROM words WHERE text = ?1))
			+ (SELECT COUNT(*) FROM banks WHERE deviceId = ?1) + (SELECT COUNT(*) FROM snapshot_items WHERE deviceId = ?1)
			+ (SELECT COUNT(*) FROM knowledge WHERE deviceId = ?1) AS n`,
		[id],
		transaction
	);
	if (!kept || kept.n > 0) return false;
	await run(studio, 'DELETE FROM devices WHERE id = ?', [id], transaction);
	return true;
}
