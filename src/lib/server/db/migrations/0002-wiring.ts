import { namePorts, type Port } from '../../../core/gear';
import type { MigrationStep } from './step';

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
export async function up({ run, select }: MigrationStep): Promise<void> {
	for (const statement of STATEMENTS) await run(statement);
	for (const { id, ports } of await select<{ id: string; ports: string }>('SELECT id, ports FROM devices'))
		await run('UPDATE devices SET ports = ? WHERE id = ?', [
			JSON.stringify(namePorts(JSON.parse(ports) as Port[])),
			id
		]);
}
