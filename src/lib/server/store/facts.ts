import type { z } from 'zod';
import type { Studio } from '../db/connection';
import { one, parsed, run, stored } from './sql';

/** A fact of the studio by its key, or what its schema takes for granted. */
export async function readFact<S extends z.ZodType>(
	studio: Studio,
	key: string,
	schema: S
): Promise<z.output<S>> {
	const row = await one<{ value: string }>(studio, 'SELECT value FROM studio_facts WHERE key = ?', [key]);
	return stored(schema, row ? parsed(row.value) : {});
}

export const writeFact = (studio: Studio, key: string, value: unknown): Promise<void> =>
	studio.write(async (transaction) => {
		await run(
			studio,
			'INSERT INTO studio_facts (key, value) VALUES (?, ?) ON CONFLICT (key) DO UPDATE SET value = excluded.value',
			[key, JSON.stringify(value)],
			transaction
		);
	});
