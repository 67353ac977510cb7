import { QueryTypes, type Sequelize } from 'sequelize';
import { namePorts, type Port } from '../../../core/gear';

const STATEMENTS = [
	`ALTER TABLE devices ADD COLUMN wiring TEXT`,
	`CREATE TABLE cables (
		fromDevice TEXT NOT NULL REFERENCES devices(id) ON DELETE CASCADE, fromPort TEXT NOT NULL,
		toDevice TEXT NOT NULL REFERENCES devices(id) ON DELETE CASCADE, toPort TEXT NOT NULL,
		length REAL, adapter TEXT, PRIMARY KEY (fromDevice, fromPort, toDevice, toPort)
	) WITHOUT ROWID`,
	`CREATE TABLE rig_facts (key TEXT PRIMARY KEY, value TEXT NOT NULL) WITHOUT ROWID`
];

/** Cables, what devices do with messages, and an id for every port that had none. */
export async function up(sequelize: Sequelize): Promise<void> {
	for (const statement of STATEMENTS) await sequelize.query(statement);
	const devices = await sequelize.query<{ id: string; ports: string }>('SELECT id, ports FROM devices', {
		type: QueryTypes.SELECT
	});
	for (const { id, ports } of devices)
		await sequelize.query('UPDATE devices SET ports = ? WHERE id = ?', {
			replacements: [JSON.stringify(namePorts(JSON.parse(ports) as Port[])), id]
		});
}
