import type { MigrationStep } from './step';

/** What a version is made of and where it belongs, as one hash: a stray bit in a row is seen. Filled where it is missing. */
export async function up({ run }: MigrationStep): Promise<void> {
	await run('ALTER TABLE versions ADD COLUMN seal BLOB');
	await run('CREATE INDEX versions_without_seal ON versions (seq) WHERE seal IS NULL');
}
