import { z } from 'zod';
import { readCsv } from '../core/csv';
import { catalogueKey, readCatalogue, type CataloguePreview } from '../core/gear';
import { Problem } from '../core/problem';
import type { Studio } from './db/connection';
import { addDeviceIn, listDevices } from './gear';
import { newId } from './new-id';
import { knownProfiles } from './profiles';

/** The longest table, in characters: some ten thousand devices. */
const LONGEST_TABLE = 2_000_000;
const table = z.string().max(LONGEST_TABLE, 'At most 2,000,000 characters: cut the table in parts.');

export const previewCatalogueSchema = z.object({ text: table });
export const importCatalogueSchema = z.object({
	text: table,
	lines: z.array(z.number().int().min(2)).min(1, 'Choose at least one row.')
});

/** Reads a CSV of devices and says what each row would become. @throws Problem `csv.unreadable` */
export async function previewCatalogue(studio: Studio, text: string): Promise<CataloguePreview> {
	const { rows: all, errors } = readCsv(text);
	const [header, ...rows] = all;
	const grave = errors.find(({ type }) => type === 'Quotes');
	if (grave)
		throw new Problem(
			'csv.unreadable',
			`Row ${(grave.row ?? 0) + 1}: ${grave.message}.`,
			'Save the table as CSV with commas or semicolons and try again.'
		);
	if (!header)
		throw new Problem(
			'csv.unreadable',
			'The file is empty.',
			'The first row names the columns; each further row is a device.'
		);
	const known = new Set(
		(await listDevices(studio, { archived: true })).map(({ name }) => catalogueKey(name))
	);
	return readCatalogue(header, rows, known, new Set(knownProfiles(studio).map(({ id }) => id)));
}

/** Adds the devices of the chosen lines, all of them or none. @throws Problem `csv.faulty-row` and adds nothing */
export async function importCatalogue(
	studio: Studio,
	text: string,
	lines: readonly number[]
): Promise<number> {
	const preview = await previewCatalogue(studio, text);
	const chosen = preview.rows.filter(({ line }) => lines.includes(line));
	const faulty = chosen.find(({ device }) => device === null);
	if (faulty || preview.faults.length > 0)
		throw new Problem(
			'csv.faulty-row',
			faulty ? `Line ${faulty.line}: ${faulty.faults[0].says}` : preview.faults[0],
			'Correct the file, or leave that row out.'
		);
	await studio.write(async (transaction) => {
		for (const { device } of chosen) await addDeviceIn(studio, device!, newId(), transaction);
	});
	return chosen.length;
}
