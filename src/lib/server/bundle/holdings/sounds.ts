import { z } from 'zod';
import { hashOf } from '../../hash';
import { describeRecords, keepRecords } from '../../store/records';
import { readRows } from '../../store/rows';
import type { Holding } from '../holding';
import { hash, when } from '../pieces';
import { tableHolding } from '../tables';
import { BANKS } from './documents';

export const soundMarks = tableHolding(
	{
		table: 'sound_marks',
		columns: ['hash', 'favourite', 'category', 'at'],
		key: ['hash'],
		jsons: [],
		schema: z.strictObject({
			hash,
			favourite: z.number().int().min(0).max(1),
			category: z.string().max(30),
			at: when
		})
	},
	{ name: 'sound-marks', title: 'Favourites and categories', rule: { by: 'later', at: (row) => row.at } }
);

const soundSchema = z.strictObject({
	profileId: z.string().max(120),
	area: z.string().max(120),
	record: hash,
	name: z.string().max(120).nullable(),
	bytes: z.string().regex(/^([0-9a-f]{2})*$/)
});

/** The sounds of banks by themselves: the versions that they were taken from may have been let go. */
export const bankSounds: Holding<z.output<typeof soundSchema>> = {
	name: 'bank-sounds',
	title: 'Sounds of banks',
	tables: [],
	schema: soundSchema,
	async rows({ studio }) {
		const { rows } = await readRows(studio, BANKS);
		const wanted = new Set(
			rows.flatMap(({ document }) => document.entries.flatMap((entry) => entry?.record ?? []))
		);
		const found = await describeRecords(studio, [...wanted]);
		return [...found.values()].map(({ profileId, area, hash: record, name, bytes }) => ({
			profileId,
			area,
			record,
			name,
			bytes: Buffer.from(bytes).toString('hex')
		}));
	},
	async take({ studio, transaction, lost }, rows) {
		for (const { profileId, area, record, name, bytes: hex } of rows) {
			const bytes = new Uint8Array(Buffer.from(hex, 'hex'));
			if (hashOf(bytes) !== record) {
				lost(`Sound “${name ?? record.slice(0, 8)}”`, 'It does not hold what the list says.');
				continue;
			}
			await keepRecords(
				studio,
				profileId,
				[{ slot: { area, index: 0, label: '', name, bytes }, record }],
				transaction
			);
		}
		return 0;
	}
};
