import { QueryTypes } from 'sequelize';
import { z } from 'zod';
import type { RememberedPort } from '../core/gear';
import type { AdapterVerdict } from '../core/transfer';
import type { Studio } from './db/connection';

/** A port of the catalogue (as the rig names it) and the computer's port that it is. */
export const rememberSchema = z.object({
	ports: z
		.array(
			z.object({
				key: z.string().min(1).max(120),
				direction: z.enum(['in', 'out']),
				id: z.string().max(300),
				name: z.string().max(200),
				manufacturer: z.string().max(200)
			})
		)
		.max(256)
});

/** Ports of the computer as they were seen the last time. */
export async function rememberedPorts(studio: Studio): Promise<RememberedPort[]> {
	return studio.sequelize.query<RememberedPort>(
		'SELECT key, direction, portId AS id, name, manufacturer FROM midi_ports ORDER BY key, direction',
		{ type: QueryTypes.SELECT }
	);
}

/** Remembers which port is which; a port that is already another’s is given over. */
export async function rememberPorts(
	studio: Studio,
	ports: readonly RememberedPort[]
): Promise<RememberedPort[]> {
	const at = studio.now().toISOString();
	await studio.write(async (transaction) => {
		for (const { key, direction, id, name, manufacturer } of ports) {
			await studio.sequelize.query(
				'DELETE FROM midi_ports WHERE direction = ? AND portId = ? AND name = ? AND key != ?',
				{
					replacements: [direction, id, name, key],
					transaction
				}
			);
			await studio.sequelize.query(
				`INSERT INTO midi_ports (key, direction, portId, name, manufacturer, seenAt) VALUES (?, ?, ?, ?, ?, ?)
				 ON CONFLICT (key, direction) DO UPDATE SET portId = excluded.portId, name = excluded.name, manufacturer = excluded.manufacturer, seenAt = excluded.seenAt`,
				{ replacements: [key, direction, id, name, manufacturer, at], transaction }
			);
		}
	});
	return rememberedPorts(studio);
}

export async function forgetPort(studio: Studio, key: string, direction: 'in' | 'out'): Promise<void> {
	await studio.sequelize.query('DELETE FROM midi_ports WHERE key = ? AND direction = ?', {
		replacements: [key, direction]
	});
}

export const verdictSchema = z.object({
	through: z.enum(['loopback', 'device']),
	longestBytes: z.number().int().min(0),
	triedBytes: z.number().int().min(0),
	gapMs: z.number().min(0).nullable(),
	trouble: z.enum(['none', 'loses bytes', 'changes bytes', 'swallows messages', 'nothing came']),
	says: z.string().max(600),
	ended: z.enum(['done', 'cancelled', 'unplugged'])
});

export interface AdapterTest {
	/** Port of the rig that was tested. */
	key: string;
	verdict: AdapterVerdict;
	testedAt: string;
}

export async function adapterTests(studio: Studio): Promise<AdapterTest[]> {
	const rows = await studio.sequelize.query<{ key: string; verdict: string; testedAt: string }>(
		'SELECT key, verdict, testedAt FROM adapter_tests ORDER BY testedAt DESC',
		{ type: QueryTypes.SELECT }
	);
	return rows.map(({ key, verdict, testedAt }) => ({
		key,
		testedAt,
		verdict: verdictSchema.parse(JSON.parse(verdict))
	}));
}

/** Keeps how an adapter did; the newest test counts. */
export async function keepAdapterTest(
	studio: Studio,
	key: string,
	verdict: AdapterVerdict
): Promise<AdapterTest> {
	const testedAt = studio.now().toISOString();
	await studio.sequelize.query(
		'INSERT INTO adapter_tests (key, verdict, testedAt) VALUES (?, ?, ?) ON CONFLICT (key) DO UPDATE SET verdict = excluded.verdict, testedAt = excluded.testedAt',
		{ replacements: [key, JSON.stringify(verdictSchema.parse(verdict)), testedAt] }
	);
	return { key, verdict, testedAt };
}

export const forgetSchema = rememberSchema.shape.ports.element.pick({ key: true, direction: true });
export const keepTestSchema = z.object({ key: z.string().min(1).max(120), verdict: verdictSchema });
