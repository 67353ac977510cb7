import { existsSync, statSync } from 'node:fs';
import { QueryTypes, type Sequelize } from 'sequelize';
import { Umzug } from 'umzug';
import { copyApart } from './apart';
import { migrations } from './migrations';
import type { Migration } from './migrations/step';

/**
 * Brings the file to the newest shape; a copy of it is put aside before it is touched. Each migration and the note
 * that it was applied are one transaction: a machine that stops in the middle finds the studio as it was before.
 */
export async function migrate(
	sequelize: Sequelize,
	file: string,
	steps: readonly Migration[] = migrations
): Promise<void> {
	const umzug = new Umzug({
		migrations: steps.map(({ name, up }) => ({
			name,
			up: () =>
				sequelize.transaction(async (transaction) => {
					await up({
						run: async (sql, replacements = []) =>
							void (await sequelize.query(sql, { transaction, replacements })),
						select: (sql, replacements = []) =>
							sequelize.query(sql, { transaction, replacements, type: QueryTypes.SELECT })
					});
					await sequelize.query('INSERT INTO migrations (name) VALUES (?)', {
						transaction,
						replacements: [name]
					});
				})
		})),
		storage: {
			// Noted inside the migration’s own transaction, above.
			logMigration: () => Promise.resolve(),
			unlogMigration: () => Promise.reject(new Error('Migrations only go forward.')),
			executed: async () =>
				(
					await sequelize.query<{ name: string }>('SELECT name FROM migrations ORDER BY name', {
						type: QueryTypes.SELECT
					})
				).map(({ name }) => name)
		},
		logger: undefined
	});
	await sequelize.query(
		'CREATE TABLE IF NOT EXISTS migrations (name VARCHAR(255) NOT NULL UNIQUE PRIMARY KEY)'
	);
	const pending = await umzug.pending();
	if (pending.length === 0) return;
	const [tables] = await sequelize.query(`SELECT name FROM sqlite_master WHERE name = 'devices'`);
	const older = existsSync(file) && statSync(file).size > 0 && tables.length > 0;
	const copy = `${file}.before-${pending[0].name}`;
	if (older && !existsSync(copy)) await copyApart(file, copy);
	await umzug.up();
	if (!older) return;
	// What was rebuilt leaves room behind. A disk that is too full to give it back is no reason not to open.
	await sequelize
		.query('VACUUM')
		.catch((error: unknown) => console.error(`The studio keeps more room than it needs: ${String(error)}`));
}
