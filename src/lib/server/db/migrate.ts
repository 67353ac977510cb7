import { existsSync, statSync } from 'node:fs';
import type { Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import { migrations } from './migrations';

/** Brings the file to the newest shape; a copy of it is put aside before it is touched. */
export async function migrate(sequelize: Sequelize, file: string, steps = migrations): Promise<void> {
	const umzug = new Umzug({
		migrations: steps.map(({ name, up }) => ({ name, up: async () => up(sequelize) })),
		storage: new SequelizeStorage({ sequelize, modelName: 'migrations' }),
		logger: undefined
	});
	const pending = await umzug.pending();
	if (pending.length === 0) return;
	const [tables] = await sequelize.query(`SELECT name FROM sqlite_master WHERE name = 'devices'`);
	if (existsSync(file) && statSync(file).size > 0 && tables.length > 0) {
		const copy = `${file}.before-${pending[0].name}`;
		if (!existsSync(copy)) await sequelize.query(`VACUUM INTO '${copy.replaceAll("'", "''")}'`);
	}
	await umzug.up();
}
