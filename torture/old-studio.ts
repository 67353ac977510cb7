import { join } from 'node:path';
import { Sequelize } from 'sequelize';
import { migrate } from '../src/lib/server/db/migrate';
import { migrations } from '../src/lib/server/db/migrations';

export const DEVICES = 150;

/** A studio of the first version, with enough in it that bringing it up to date takes a while. */
export async function oldStudio(folder: string): Promise<string> {
	const file = join(folder, 'old.sqlite');
	const sequelize = new Sequelize({ dialect: 'sqlite', storage: file, logging: false });
	await migrate(sequelize, file, migrations.slice(0, 1));
	await sequelize.transaction(async (transaction) => {
		const run = (sql: string) => sequelize.query(sql, { transaction });
		for (let i = 0; i < DEVICES; i++)
			await run(
				`INSERT INTO devices (id, name, maker, model, kind, place, serial, firmware, ports, batteryType, batteryFitted, forgets, power, notes, createdAt, touchedAt)
				 VALUES ('d${i}', 'Old ${i}', '', '', '', '', '', '', '[{"name":"MIDI out","direction":"out","connector":"din"}]', '', '', '', '', '', '2026-01-01', '2026-01-02T00:00:00.000Z')`
			);
		await run(`INSERT INTO versions (id, deviceId, kind, takenAt, verified, missing, bytes, slots, changed, title, note, tags, pinned)
			SELECT 'v' || id, id, 'routine', '2026-01-01T00:00:00.000Z', 1, 0, 3, 1, 1, '', '', '[]', 0 FROM devices`);
		await run(`WITH RECURSIVE n(i) AS (SELECT 0 UNION ALL SELECT i + 1 FROM n WHERE i < 60)
			INSERT INTO slot_runs (deviceId, area, slot, label, folded, record, fromVersion, fromAt, current)
			SELECT id, 'a', i, '', '', 'r', 'v' || id, '2026-01-01T00:00:00.000Z', 1 FROM devices, n`);
	});
	await sequelize.close();
	return file;
}
