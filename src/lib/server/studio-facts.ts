import { QueryTypes } from 'sequelize';
import type { z } from 'zod';
import type { Studio } from './db/connection';

/** A fact of the studio by its key, or what its schema takes for granted. */
export async function readFact<S extends z.ZodType>(
	studio: Studio,
	key: string,
	schema: S
): Promise<z.output<S>> {
	const [row] = await studio.sequelize.query<{ value: string }>(
		'SELECT value FROM studio_facts WHERE key = :key',
		{
			replacements: { key },
			type: QueryTypes.SELECT
		}
	);
	return schema.parse(row ? JSON.parse(row.value) : {});
}

export async function writeFact(studio: Studio, key: string, value: unknown): Promise<void> {
	await studio.sequelize.query(
		'INSERT INTO studio_facts (key, value) VALUES (?, ?) ON CONFLICT (key) DO UPDATE SET value = excluded.value',
		{ replacements: [key, JSON.stringify(value)] }
	);
}
