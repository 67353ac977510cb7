import type { Transaction } from 'sequelize';
import type { RememberedPort } from '../../core/gear';
import type { Studio } from '../db/connection';
import { all, run } from './sql';

/** Ports of the computer as they were seen the last time. */
export const portRows = (studio: Studio, transaction?: Transaction): Promise<RememberedPort[]> =>
	all(
		studio,
		'SELECT key, direction, portId AS id, name, manufacturer FROM midi_ports ORDER BY key, direction',
		[],
		transaction
	);

/** Keeps which port is which; a port that is already another’s is given over. */
export async function keepPorts(
	studio: Studio,
	ports: readonly RememberedPort[],
	seenAt: string,
	transaction: Transaction
): Promise<void> {
	for (const { key, direction, id, name, manufacturer } of ports) {
		await run(
			studio,
			'DELETE FROM midi_ports WHERE direction = ? AND portId = ? AND name = ? AND key != ?',
			[direction, id, name, key],
			transaction
		);
		await run(
			studio,
			`INSERT INTO midi_ports (key, direction, portId, name, manufacturer, seenAt) VALUES (?, ?, ?, ?, ?, ?)
			 ON CONFLICT (key, direction) DO UPDATE SET portId = excluded.portId, name = excluded.name,
				manufacturer = excluded.manufacturer, seenAt = excluded.seenAt`,
			[key, direction, id, name, manufacturer, seenAt],
			transaction
		);
	}
}

export async function removePort(
	studio: Studio,
	key: string,
	direction: 'in' | 'out',
	transaction: Transaction
): Promise<void> {
	await run(studio, 'DELETE FROM midi_ports WHERE key = ? AND direction = ?', [key, direction], transaction);
}

/** Tests of adapters, newest first; the verdict as JSON. */
export const adapterTestRows = (
	studio: Studio
): Promise<{ key: string; verdict: string; testedAt: string }[]> =>
	all(studio, 'SELECT key, verdict, testedAt FROM adapter_tests ORDER BY testedAt DESC');

export const putAdapterTest = (
	studio: Studio,
	key: string,
	verdict: string,
	testedAt: string
): Promise<void> =>
	studio.write(async (transaction) => {
		await run(
			studio,
			`INSERT INTO adapter_tests (key, verdict, testedAt) VALUES (?, ?, ?)
			 ON CONFLICT (key) DO UPDATE SET verdict = excluded.verdict, testedAt = excluded.testedAt`,
			[key, verdict, testedAt],
			transaction
		);
	});
