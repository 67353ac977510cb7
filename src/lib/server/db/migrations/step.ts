/** What a migration may do: statements of its own transaction. */
export interface MigrationStep {
	run(sql: string, replacements?: unknown[]): Promise<void>;
	select<T extends object>(sql: string, replacements?: unknown[]): Promise<T[]>;
}

export interface Migration {
	name: string;
	up(step: MigrationStep): Promise<void>;
}
