import type { Transaction } from 'sequelize';
import {
	factoryState,
	freezeMemory,
	seededRandom,
	thawMemory,
	type Fault,
	type UnitState
} from '../core/bench';
import { Problem } from '../core/problem';
import type { Profile } from '../core/profile';
import type { Studio } from './db/connection';
import type { BenchUnitRow } from './db/models';
import { noteTouched } from './knowing';
import { newId } from './new-id';
import { benchProfile } from './profiles';
import { countUnits, insertUnit, unitRow, unitRows, updateUnit } from './store/bench-units';
import { pluggedDevices } from './store/devices';

/** A unit of the bench with its memory. */
export interface BenchUnit {
	id: string;
	name: string;
	profileId: string;
	state: UnitState;
	faults: Fault[];
	/** Counts every change, so that two tabs cannot overwrite each other's bench. */
	revision: number;
}

const fromRow = (row: BenchUnitRow): BenchUnit => ({
	id: row.id,
	name: row.name,
	profileId: row.profileId,
	faults: row.faults,
	revision: row.revision,
	state: {
		settings: row.settings,
		firmware: row.firmware,
		memory: thawMemory(benchProfile(row.profileId), row.memory)
	}
});

const notFound = (id: string) =>
	new Problem(
		'bench.not-found',
		`There is no unit “${id}” on the bench.`,
		'Look at the bench again: it may have been taken away.'
	);

export async function listUnits(studio: Studio): Promise<BenchUnit[]> {
	return (await unitRows(studio)).map(fromRow);
}

/** @throws Problem `bench.not-found` */
export async function getUnit(studio: Studio, id: string): Promise<BenchUnit> {
	const row = await unitRow(studio, id);
	if (!row) throw notFound(id);
	return fromRow(row);
}

/** Puts a new unit on the bench, filled with made-up factory sounds that `seed` decides. */
export async function putUnit(
	studio: Studio,
	profileId: string,
	name: string,
	seed: number,
	settings: Record<string, number> = {},
	id = newId()
): Promise<BenchUnit> {
	return studio.write((transaction) =>
		putUnitIn(studio, { profileId, name, seed, settings, id }, transaction)
	);
}

async function putUnitIn(
	studio: Studio,
	unit: { profileId: string; name: string; seed: number; settings: Record<string, number>; id: string },
	transaction: Transaction
): Promise<BenchUnit> {
	const { id, name, profileId, seed, settings } = unit;
	const profile = benchProfile(profileId);
	const state = factoryState(profile, seededRandom(seed));
	const row = await insertUnit(
		studio,
		{
			id,
			name,
			profileId,
			settings,
			firmware: state.firmware,
			memory: Buffer.from(freezeMemory(profile, state)),
			faults: [],
			revision: 1
		},
		transaction
	);
	return fromRow(row);
}

/**
 * Stores a unit as the bench left it. With `edited`, somebody changed sounds at its panel: the device that is plugged
 * in to it counts as changed since its last version.
 * @throws Problem `bench.conflict` when another tab changed it since `revision`
 */
export async function saveUnit(
	studio: Studio,
	id: string,
	revision: number,
	profile: Profile,
	state: UnitState,
	faults: Fault[],
	edited = false
): Promise<number> {
	return studio.write(async (transaction: Transaction) => {
		const row = await unitRow(studio, id, transaction);
		if (!row) throw notFound(id);
		if (row.revision !== revision)
			throw new Problem(
				'bench.conflict',
				'Another tab changed this device on the bench.',
				'Reload this page to see it as it is now.'
			);
		const memory = Buffer.from(freezeMemory(profile, state));
		thawMemory(profile, memory);
		await updateUnit(
			studio,
			id,
			{ settings: state.settings, firmware: state.firmware, memory, faults, revision: revision + 1 },
			transaction
		);
		if (edited)
			for (const device of await pluggedDevices(studio, transaction))
				if (device.benchUnit === id) await noteTouched(studio, device.id, 'bench', transaction);
		return revision + 1;
	});
}

/** The bench of a new studio: one unit of each model that can be simulated, all of them or none. */
export async function furnishBench(studio: Studio, profileIds: readonly string[]): Promise<void> {
	await studio.write(async (transaction) => {
		if ((await countUnits(studio, transaction)) > 0) return;
		for (const [i, profileId] of profileIds.entries())
			await putUnitIn(
				studio,
				{
					profileId,
					name: `${benchProfile(profileId).model} on the bench`,
					seed: 1000 + i,
					settings: {},
					id: newId()
				},
				transaction
			);
	});
}
