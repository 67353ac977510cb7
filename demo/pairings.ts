import { pairingsSchema, type Pairings } from '../src/lib/core/pairing';
import type { Studio } from '../src/lib/server/db/connection';
import { listDevices } from '../src/lib/server/gear';
import { editPairings } from '../src/lib/server/pairings';

/** What the sound room has tried and read of its devices with one another. */
export const demoPairings = (
	devices: readonly { name: string; maker: string; model: string; firmware: string }[]
): Pairings => {
	const of = (name: string) => {
		const device = devices.find((each) => each.name === name);
		return { maker: device?.maker ?? '', model: device?.model || name };
	};
	const pair = (id: string, from: string, to: string, does: string, result: string, more: object = {}) => ({
		id,
		from: of(from),
		to: of(to),
		way: 'din',
		does,
		result,
		...more
	});
	return pairingsSchema.parse({
		records: [
			pair('treadle-delay-tap', 'Treadle', 'Lantern delay', 'tap tempo', 'works', {
				known: { by: 'tried', on: '2026-04-12' },
				conditions: [{ what: 'mode', is: 'Glow held at power-on, then Tempo' }]
			}),
			pair('treadle-delay-programs', 'Treadle', 'Lantern delay', 'choosing programs', 'limits', {
				limit: 'only the first 40 programs',
				known: { by: 'tried', on: '2026-04-12' }
			}),
			pair('span-reed-reading', 'Span 61', 'Halloran Reed', 'reading back', 'not', {
				known: { by: 'manual' }
			}),
			pair('orrery-umbra-programs', 'Orrery', 'Umbra hall', 'choosing programs', 'works', {
				known: { by: 'manual' },
				conditions: [{ what: 'to-firmware', is: '≥ 9.0' }]
			})
		]
	});
};

/** Notes what the sound room knows of its pairs. */
export async function makePairings(studio: Studio): Promise<void> {
	const { records } = demoPairings(await listDevices(studio));
	await editPairings(studio, {
		revision: 0,
		says: 'What was tried',
		edits: [{ path: ['records'], value: records }]
	});
}
