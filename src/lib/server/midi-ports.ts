import { z } from 'zod';
import { rememberedPortSchema, type RememberedPort } from '../core/gear';
import type { AdapterVerdict } from '../core/transfer';
import type { Studio } from './db/connection';
import { adapterTestRows, keepPorts, portRows, putAdapterTest, removePort } from './store/ports';

/** A port of the catalogue (as the rig names it) and the computer's port that it is. */
export const rememberSchema = z.object({ ports: z.array(rememberedPortSchema).max(256) });

/** Ports of the computer as they were seen the last time. */
export const rememberedPorts = (studio: Studio): Promise<RememberedPort[]> => portRows(studio);

/** Remembers which port is which; a port that is already another’s is given over. */
export async function rememberPorts(
	studio: Studio,
	ports: readonly RememberedPort[]
): Promise<RememberedPort[]> {
	await studio.write((transaction) => keepPorts(studio, ports, studio.now().toISOString(), transaction));
	return portRows(studio);
}

export const forgetPort = (studio: Studio, key: string, direction: 'in' | 'out'): Promise<void> =>
	studio.write((transaction) => removePort(studio, key, direction, transaction));

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
	const rows = await adapterTestRows(studio);
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
	await putAdapterTest(studio, key, JSON.stringify(verdictSchema.parse(verdict)), testedAt);
	return { key, verdict, testedAt };
}

export const forgetSchema = rememberedPortSchema.pick({ key: true, direction: true });
export const keepTestSchema = z.object({ key: z.string().min(1).max(120), verdict: verdictSchema });
