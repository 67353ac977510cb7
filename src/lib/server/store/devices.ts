import type { Device } from '../../core/gear';
import type { Studio } from '../db/connection';
import { all } from './sql';

type Stored = Omit<Device, 'ports' | 'wiring' | 'settings'> & {
	ports: string;
	wiring: string | null;
	settings: string | null;
};

const parsed = (text: string | null): unknown => (text === null ? null : JSON.parse(text));

/** All devices, by place and name; archived ones only when asked for. */
export async function devicesInOrder(studio: Studio, archived: boolean): Promise<Device[]> {
	const rows = await all<Stored>(
		studio,
		`SELECT * FROM devices ${archived ? '' : 'WHERE archivedAt IS NULL'} ORDER BY place, name`
	);
	return rows.map(
		({ ports, wiring, settings, ...row }) =>
			({
				...row,
				ports: parsed(ports),
				wiring: parsed(wiring),
				settings: parsed(settings)
			}) as Device
	);
}
