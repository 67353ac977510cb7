import type { Transaction } from 'sequelize';
import type { Studio } from '../db/connection';
import { plain, type BenchUnitRow } from '../db/models';

/** The units of the bench, by name. */
export async function unitRows(studio: Studio): Promise<BenchUnitRow[]> {
	return (await studio.models.benchUnits.findAll({ order: [['name', 'ASC']] })).map(plain);
}

export async function unitRow(
	studio: Studio,
	id: string,
	transaction?: Transaction
): Promise<BenchUnitRow | null> {
	const row = await studio.models.benchUnits.findByPk(id, { transaction });
	return row ? plain(row) : null;
}

export async function insertUnit(
	studio: Studio,
	row: BenchUnitRow,
	transaction: Transaction
): Promise<BenchUnitRow> {
	return plain(await studio.models.benchUnits.create(row, { transaction }));
}

export async function updateUnit(
	studio: Studio,
	id: string,
	values: Partial<BenchUnitRow>,
	transaction: Transaction
): Promise<void> {
	await studio.models.benchUnits.update(values, { where: { id }, transaction });
}

export const countUnits = (studio: Studio, transaction: Transaction): Promise<number> =>
	studio.models.benchUnits.count({ transaction });

/** The units of one model, by id. */
export async function unitsOfModel(
	studio: Studio,
	profileId: string,
	transaction: Transaction
): Promise<string[]> {
	const rows = await studio.models.benchUnits.findAll({
		where: { profileId },
		attributes: ['id'],
		order: [['id', 'ASC']],
		transaction
	});
	return rows.map((row) => plain(row).id);
}
