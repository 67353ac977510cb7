import { z } from 'zod';
import { hashOf } from '../../hash';
import { insertKeptFile, keptFileFacts, keptFileIds, keptFileRow } from '../../store/kept-files';
import type { Holding } from '../holding';
import { hash, when } from '../pieces';
import { whole } from '../whole';

const fileSchema = z.strictObject({
	id: z.string().regex(/^[\w-]{1,120}$/),
	owner: z.string().min(1).max(160),
	name: z.string().min(1).max(200),
	at: when,
	note: z.string().max(200),
	size: z.number().int().min(0),
	hash
});
const fileOf = (file: string) => `files/${file}`;

export const keptFiles: Holding<z.output<typeof fileSchema>> = {
	name: 'kept-files',
	title: 'Files kept with maps and devices',
	tables: ['kept_files'],
	schema: fileSchema,
	async rows({ studio, add, left }) {
		const rows = [];
		for (const facts of await keptFileFacts(studio)) {
			const stored = await keptFileRow(studio, facts.id);
			const read = fileSchema.safeParse(facts);
			if (!read.success || !stored || hashOf(stored.bytes) !== facts.hash) {
				left(`File “${facts.name}”`, 'It does not hold what was kept.');
				continue;
			}
			await add(fileOf(facts.id), stored.bytes, facts.at);
			rows.push(read.data);
		}
		return rows;
	},
	async take({ studio, transaction, read, lost }, rows) {
		const here = new Set(await keptFileIds(studio, transaction));
		let taken = 0;
		for (const row of rows) {
			if (here.has(row.id)) continue;
			const bytes = await whole(
				() => read(fileOf(row.id)),
				(says) => lost(`File “${row.name}”`, says)
			);
			if (!bytes) continue;
			if (hashOf(bytes) !== row.hash) {
				lost(`File “${row.name}”`, 'It does not hold what the list says.');
				continue;
			}
			await insertKeptFile(studio, { ...row, bytes }, transaction);
			taken++;
		}
		return taken;
	}
};
