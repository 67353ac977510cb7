import type { Transaction } from 'sequelize';
import type { Studio } from '../db/connection';
import { plain, type CableRow, type RigFactRow } from '../db/models';

type Ends = Pick<CableRow, 'fromDevice' | 'fromPort' | 'toDevice' | 'toPort'>;

export async function cableRows(studio: Studio, transaction?: Transaction): Promise<CableRow[]> {
	return (await studio.models.cables.findAll({ transaction })).map(plain);
}

export async function addCable(studio: Studio, row: CableRow, transaction: Transaction): Promise<void> {
	await studio.models.cables.create(row, { transaction });
}

export async function removeCable(studio: Studio, ends: Ends, transaction: Transaction): Promise<void> {
	await studio.models.cables.destroy({ where: { ...ends }, transaction });
}

/** What is kept of the rig besides devices and cables, by its key. */
export async function rigFacts(
	studio: Studio,
	transaction?: Transaction
): Promise<Map<RigFactRow['key'], unknown>> {
	const rows = await studio.models.rigFacts.findAll({ transaction });
	return new Map(rows.map((row) => [plain(row).key, plain(row).value]));
}

export async function setRigFact(
	studio: Studio,
	key: RigFactRow['key'],
	value: unknown,
	transaction: Transaction
): Promise<void> {
	await studio.models.rigFacts.upsert({ key, value }, { transaction });
}
